/** A picture in colour: red, green, blue and a fourth byte that is not looked at, row by row. */
export interface ColourPicture {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray | Uint8Array;
}

/** Adds `weight` times the colour at a place (bilinear; the centre of the first pixel is at 0.5, 0.5) to three sums; false outside the picture. */
export function addColour(picture: ColourPicture, x: number, y: number, weight: number, sums: Float64Array | number[]): boolean {
  const u = x - 0.5;
  const v = y - 0.5;
  const i = Math.floor(u);
  const j = Math.floor(v);
  const { width, height, data } = picture;
  if (!(i >= 0 && j >= 0 && i < width - 1 && j < height - 1)) return false;
  const fx = u - i;
  const fy = v - j;
  const at = 4 * (j * width + i);
  const below = at + 4 * width;
  for (let c = 0; c < 3; c++) {
    const top = data[at + c]! + (data[at + 4 + c]! - data[at + c]!) * fx;
    const low = data[below + c]! + (data[below + 4 + c]! - data[below + c]!) * fx;
    sums[c]! += weight * (top + (low - top) * fy);
  }
  return true;
}

/** Pixels of a picture drawn to a canvas. */
export function colourPicture(picture: ImageBitmap): ColourPicture {
  const { width, height } = picture;
  const c = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  c.drawImage(picture, 0, 0);
  return { width, height, data: c.getImageData(0, 0, width, height).data };
}

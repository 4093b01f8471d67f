import { type Light, lift, liftOf, lightOf, sharpen } from '../image/tone';

/** A picture in colour of a frame, upright. */
export interface FilmPicture {
  readonly index: number;
  readonly picture: ImageBitmap;
}

/** Side of the small copy that tells how bright a picture is. */
const SMALL = 32;
/** A blurred film is sharpened by what a copy softened this much (px at 960 across, sigma) lacks, so many times (ours: brings back films blurred by 1.6 px). */
const SOFT = 1.7;
const AMOUNT = 2;

let small: OffscreenCanvasRenderingContext2D | undefined;

function lightIn(picture: ImageBitmap): Light {
  small ??= new OffscreenCanvas(SMALL, SMALL).getContext('2d', { willReadFrequently: true })!;
  small.drawImage(picture, 0, 0, SMALL, SMALL);
  return lightOf(small.getImageData(0, 0, SMALL, SMALL).data);
}

/** The pictures as networks see them best: dark ones lifted, and all sharpened where asked for. `light`: as they were filmed. Each one given is closed where another takes its place. */
export async function* clearPictures<P extends FilmPicture>(pictures: AsyncIterable<P>, sharpened = false): AsyncGenerator<P & { readonly light: Light }> {
  for await (const given of pictures) {
    const light = lightIn(given.picture);
    const exponent = liftOf(light);
    yield { ...given, picture: exponent === undefined && !sharpened ? given.picture : toned(given.picture, exponent, sharpened), light };
  }
}

function toned(picture: ImageBitmap, exponent: number | undefined, sharpened: boolean): ImageBitmap {
  const { width, height } = picture;
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  const read = () => context.getImageData(0, 0, width, height);
  let soft: ImageData | undefined;
  if (sharpened) {
    context.filter = `blur(${(SOFT * Math.max(width, height)) / 960}px)`;
    context.drawImage(picture, 0, 0);
    context.filter = 'none';
    soft = read();
  }
  context.drawImage(picture, 0, 0);
  const image = read();
  if (soft) sharpen(image.data, soft.data, AMOUNT);
  if (exponent !== undefined) lift(image.data, exponent);
  context.putImageData(image, 0, 0);
  picture.close();
  return canvas.transferToImageBitmap();
}

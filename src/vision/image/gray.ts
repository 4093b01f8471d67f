import type { ColourPicture } from './colourPicture';

/** A rectangle of brightness values cut from a frame; (x0, y0) is its top left corner in the frame's pixels. */
export interface GrayPatch {
  readonly x0: number;
  readonly y0: number;
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

export interface Rectangle {
  readonly x0: number;
  readonly y0: number;
  readonly x1: number;
  readonly y1: number;
}

/** Brightness 0..255 of red, green, blue and opacity, row by row, BT.709 weights. */
export function lumaOf(data: ColourPicture['data']): Uint8Array {
  const luma = new Uint8Array(data.length / 4);
  for (let i = 0; i < luma.length; i++) luma[i] = Math.round(0.2126 * data[4 * i]! + 0.7152 * data[4 * i + 1]! + 0.0722 * data[4 * i + 2]!);
  return luma;
}

/**
 * Brightness at a place of the picture by bilinear interpolation. The centre of the first pixel is (0.5, 0.5).
 * NaN outside the picture.
 */
export function sampleLuma(luma: Uint8Array, width: number, height: number, x: number, y: number): number {
  const u = x - 0.5;
  const v = y - 0.5;
  const i = Math.floor(u);
  const j = Math.floor(v);
  if (!(i >= 0 && j >= 0 && i < width - 1 && j < height - 1)) return Number.NaN;
  const fx = u - i;
  const fy = v - j;
  const at = j * width + i;
  const top = luma[at]! + (luma[at + 1]! - luma[at]!) * fx;
  const low = luma[at + width]! + (luma[at + width + 1]! - luma[at + width]!) * fx;
  return top + (low - top) * fy;
}

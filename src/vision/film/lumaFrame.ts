import type { Frame } from './frame';

/** Brightness of a picture (or its mirror image) as the trackers want it, BT.709 weights. */
export function lumaFrame(picture: ImageBitmap, mirror: boolean, index = 0, t = 0): Frame {
  const { width, height } = picture;
  const c = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  if (mirror) c.setTransform(-1, 0, 0, 1, width, 0);
  c.drawImage(picture, 0, 0);
  const { data } = c.getImageData(0, 0, width, height);
  const luma = new Uint8Array(width * height);
  for (let i = 0; i < luma.length; i++) luma[i] = Math.round(0.2126 * data[4 * i]! + 0.7152 * data[4 * i + 1]! + 0.0722 * data[4 * i + 2]!);
  return { index, t, width, height, luma };
}

import { lumaOf } from '../image/gray';
import type { Frame } from './frame';
import { drawMirrored } from './mirror';

/** Brightness of a picture (or its mirror image) as the trackers want it, BT.709 weights. */
export function lumaFrame(picture: ImageBitmap, mirror: boolean, index = 0, t = 0): Frame {
  const { width, height } = picture;
  const c = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  if (mirror) drawMirrored(c, picture);
  else c.drawImage(picture, 0, 0);
  const { data } = c.getImageData(0, 0, width, height);
  return { index, t, width, height, luma: lumaOf(data) };
}

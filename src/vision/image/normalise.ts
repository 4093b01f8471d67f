import type { Frame } from '../film/frame';
import { kernels, lumaAddress, Region, singles } from '../kernels/kernels';
import type { GrayPatch, Rectangle } from './gray';

const work = new Region();
const normalised = new Region();

/**
 * Local normalisation 20 (I - mean) / (sd + 4), mean and deviation over a window near a Gaussian of sigma `sigma` px (two
 * box passes at half the size). Makes pictures of the same thing alike under changing light. The region is first smoothed
 * with weights 1 4 6 4 1 along rows and columns: grain and the crumbs of compression go, edges stay within a hundredth of
 * a pixel. Without it dark clips are lost (seen on dark synthetic clips).
 */
export function normaliseRegion(frame: Frame, region: Rectangle, sigma: number): GrayPatch {
  const x0 = Math.max(0, Math.floor(region.x0));
  const y0 = Math.max(0, Math.floor(region.y0));
  const width = Math.max(8, Math.min(frame.width, Math.ceil(region.x1)) - x0);
  const height = Math.max(8, Math.min(frame.height, Math.ceil(region.y1)) - y0);
  // Two box passes of radius r have variance 2 ((2r+1)^2 - 1) / 12.
  const r = Math.max(1, Math.round((Math.sqrt(6 * (sigma / 2) ** 2 + 1) - 1) / 2));
  const out = normalised.take(4 * width * height + 4);
  const by = work.take(kernels.normaliseWork(width, height));
  kernels.normalise(lumaAddress(frame) + y0 * frame.width + x0, frame.width, width, height, r, by, out);
  return { x0, y0, width, height, data: singles(out, width * height).slice() };
}

/** The patch at half the size (means of 2 x 2); places halve with it. */
export function halve(patch: GrayPatch): GrayPatch {
  const width = patch.width >> 1;
  const height = patch.height >> 1;
  const data = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = 2 * y * patch.width + 2 * x;
      data[y * width + x] = (patch.data[at]! + patch.data[at + 1]! + patch.data[at + patch.width]! + patch.data[at + patch.width + 1]!) / 4;
    }
  }
  return { x0: patch.x0 / 2, y0: patch.y0 / 2, width, height, data };
}

export function pyramid(patch: GrayPatch, levels: number): GrayPatch[] {
  const out = [patch];
  while (out.length < levels) out.push(halve(out[out.length - 1]!));
  return out;
}

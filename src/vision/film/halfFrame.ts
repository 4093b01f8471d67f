import { halve } from '../image/normalise';
import type { Frame } from './frame';

/** Brightness from the darkest to the brightest of these shares of the pixels is spread over so many grey levels, but no more than so many times (ours: as films in daylight have it). */
const TAILS = [0.02, 0.98] as const;
const SPREAD = 190;
const MOST_SPREAD = 5;
/** The darkest lies here afterwards, so that noise about it is not cut off. */
const FLOOR = 10;

/**
 * The frame at half its size, softened with weights 1 2 1 and its brightness spread out: grain goes, edges that were
 * blurred over some pixels are sharp again, and a dark room's lines stand out as a light one's do.
 */
export function halfFrame({ index, t, width, height, luma }: Frame): Frame {
  const half = halve({ x0: 0, y0: 0, width, height, data: Float32Array.from(luma) });
  const soft = soften(soften(half.data, half.width, half.height, 1), half.width, half.height, half.width);
  const sorted = soft.slice().sort();
  const [low, high] = TAILS.map((share) => sorted[Math.round(share * (sorted.length - 1))]!) as [number, number];
  const gain = Math.min(MOST_SPREAD, SPREAD / Math.max(1, high - low));
  return { index, t, width: half.width, height: half.height, luma: Uint8Array.from(soft, (v) => Math.max(0, Math.min(255, Math.round(FLOOR + gain * (v - low))))) };
}

const WEIGHTS = [0.25, 0.5, 0.25] as const;

/** Along rows (`stride` 1) or columns (`stride` the width); beyond the border the last sample goes on. */
function soften(values: Float32Array, width: number, height: number, stride: number): Float32Array {
  const out = new Float32Array(values.length);
  const last = (stride === 1 ? width : height) - 1;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = stride === 1 ? x : y;
      const from = y * width + x - at * stride;
      let sum = 0;
      for (let k = -1; k <= 1; k++) sum += WEIGHTS[k + 1]! * values[from + Math.max(0, Math.min(last, at + k)) * stride]!;
      out[y * width + x] = sum;
    }
  }
  return out;
}

import type { Frame } from '../film/frame';
import type { GrayPatch, Rectangle } from './gray';

/** Running mean over 2 r + 1 samples along each row; beyond the edge the last sample goes on. */
function boxRows(source: Float32Array, width: number, height: number, r: number, out: Float32Array): void {
  const norm = 1 / (2 * r + 1);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const first = source[row]!;
    const last = source[row + width - 1]!;
    let sum = r * first;
    for (let k = 0; k <= r; k++) sum += source[row + Math.min(k, width - 1)]!;
    for (let x = 0; x < width; x++) {
      out[row + x] = sum * norm;
      const enter = x + r + 1;
      const leave = x - r;
      sum += (enter < width ? source[row + enter]! : last) - (leave >= 0 ? source[row + leave]! : first);
    }
  }
}

/** The same along columns, a whole row of sums at a time, so that memory is read in order. */
function boxColumns(source: Float32Array, width: number, height: number, r: number, sums: Float32Array, out: Float32Array): void {
  const norm = 1 / (2 * r + 1);
  for (let x = 0; x < width; x++) sums[x] = r * source[x]!;
  for (let k = 0; k <= r; k++) {
    const row = Math.min(k, height - 1) * width;
    for (let x = 0; x < width; x++) sums[x]! += source[row + x]!;
  }
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const enter = Math.min(y + r + 1, height - 1) * width;
    const leave = Math.max(y - r, 0) * width;
    for (let x = 0; x < width; x++) {
      const sum = sums[x]!;
      out[row + x] = sum * norm;
      sums[x] = sum + source[enter + x]! - source[leave + x]!;
    }
  }
}

/** Reusable memory for {@link normaliseRegion}, so that a long clip allocates nothing per frame. */
export class NormaliseScratch {
  private pool: Float32Array[] = [];
  take(index: number, size: number): Float32Array {
    const have = this.pool[index];
    if (have && have.length >= size) return have;
    const made = new Float32Array(Math.ceil(size * 1.2));
    this.pool[index] = made;
    return made;
  }
}

/**
 * A region of the frame smoothed with weights 1 4 6 4 1 along rows and columns: grain and the crumbs of
 * compression go, edges stay within a hundredth of a pixel. Without it dark clips are lost (seen on dark
 * synthetic clips). Beyond the region's edge the last sample goes on. `rows` is working memory; a row of it is
 * as long as the next even number, because two neighbours are added up at once: sixteen bits hold the largest sum.
 */
function soften(frame: Frame, x0: number, y0: number, width: number, height: number, rows: Int32Array, out: Float32Array): void {
  const luma = frame.luma;
  const pairs = (width + 1) >> 1;
  const single = new Uint16Array(rows.buffer, rows.byteOffset, 2 * pairs * height);
  for (let y = 0; y < height; y++) {
    const from = (y0 + y) * frame.width + x0;
    const row = 2 * pairs * y;
    // Five neighbours slide along, so that each sample is read once.
    let c = luma[from]!;
    let ll = c;
    let l = c;
    let r = luma[from + 1]!;
    const last = width - 2;
    for (let x = 0; x < width; x++) {
      const rr = x < last ? luma[from + x + 2]! : r;
      single[row + x] = 6 * c + 4 * (l + r) + ll + rr;
      ll = l;
      l = c;
      c = r;
      r = rr;
    }
  }
  for (let y = 0; y < height; y++) {
    const here = y * pairs;
    const u = Math.max(0, y - 1) * pairs;
    const d = Math.min(height - 1, y + 1) * pairs;
    const uu = Math.max(0, y - 2) * pairs;
    const dd = Math.min(height - 1, y + 2) * pairs;
    const row = y * width;
    for (let x = 0; x < pairs; x++) {
      const sums = (Math.imul(rows[here + x]!, 6) + ((rows[u + x]! + rows[d + x]!) << 2) + rows[uu + x]! + rows[dd + x]!) | 0;
      out[row + 2 * x] = (sums & 0xffff) / 256;
      if (2 * x + 1 < width) out[row + 2 * x + 1] = (sums >>> 16) / 256;
    }
  }
}

/**
 * Local normalisation 20 (I - mean) / (sd + 4), mean and deviation over a window near a Gaussian of sigma
 * `sigma` px (two box passes). Makes pictures of the same thing alike under changing light. The patch lies in
 * the working memory: what is to be kept beyond the next call must be copied.
 */
export function normaliseRegion(frame: Frame, region: Rectangle, sigma: number, scratch: NormaliseScratch): GrayPatch {
  const x0 = Math.max(0, Math.floor(region.x0));
  const y0 = Math.max(0, Math.floor(region.y0));
  const width = Math.max(8, Math.min(frame.width, Math.ceil(region.x1)) - x0);
  const height = Math.max(8, Math.min(frame.height, Math.ceil(region.y1)) - y0);
  const size = width * height;
  const value = scratch.take(0, size);
  const mean = scratch.take(1, size);
  const square = scratch.take(2, size);
  const turn = scratch.take(3, size + height);
  soften(frame, x0, y0, width, height, new Int32Array(turn.buffer), value);
  // Mean and deviation change slowly: they are gathered at half the size, a quarter of the work.
  const w = (width + 1) >> 1;
  const h = (height + 1) >> 1;
  for (let y = 0; y < h; y++) {
    const above = 2 * y * width;
    const below = Math.min(height - 1, 2 * y + 1) * width;
    for (let x = 0; x < w; x++) {
      const left = 2 * x;
      const right = left + 1 < width ? left + 1 : left;
      const a = value[above + left]!;
      const b = value[above + right]!;
      const c = value[below + left]!;
      const d = value[below + right]!;
      mean[y * w + x] = (a + b + c + d) / 4;
      square[y * w + x] = (a * a + b * b + c * c + d * d) / 4;
    }
  }
  // Two box passes of radius r have variance 2 ((2r+1)^2 - 1) / 12.
  const r = Math.max(1, Math.round((Math.sqrt(6 * (sigma / 2) ** 2 + 1) - 1) / 2));
  const sums = scratch.take(4, w);
  for (const map of [mean, square]) {
    boxRows(map, w, h, r, turn);
    boxRows(turn, w, h, r, map);
    boxColumns(map, w, h, r, sums, turn);
    boxColumns(turn, w, h, r, sums, map);
  }
  // In place of the squares the gain, so that the root is taken a quarter as often.
  for (let i = 0; i < w * h; i++) square[i] = 20 / (Math.sqrt(Math.max(0, square[i]! - mean[i]! * mean[i]!)) + 4);
  const data = scratch.take(7, size).subarray(0, size);
  const meanRow = scratch.take(5, w + 2);
  const gainRow = scratch.take(6, w + 2);
  for (let y = 0; y < height; y++) {
    // A pixel lies a quarter of a half-size pixel to one side of its own one's middle.
    const near = (y >> 1) * w;
    const far = Math.min(h - 1, Math.max(0, (y >> 1) + (y & 1 ? 1 : -1))) * w;
    // With one more at each end, equal to its neighbour.
    for (let i = 0; i < w; i++) {
      meanRow[i + 1] = 0.75 * mean[near + i]! + 0.25 * mean[far + i]!;
      gainRow[i + 1] = 0.75 * square[near + i]! + 0.25 * square[far + i]!;
    }
    for (const line of [meanRow, gainRow]) {
      line[0] = line[1]!;
      line[w + 1] = line[w]!;
    }
    let at = y * width;
    const end = at + width;
    // A pixel to the left and one to the right of each middle.
    for (let i = 1; at < end; i++, at += 2) {
      const m = 0.75 * meanRow[i]!;
      const k = 0.75 * gainRow[i]!;
      data[at] = (value[at]! - (m + 0.25 * meanRow[i - 1]!)) * (k + 0.25 * gainRow[i - 1]!);
      if (at + 1 < end) data[at + 1] = (value[at + 1]! - (m + 0.25 * meanRow[i + 1]!)) * (k + 0.25 * gainRow[i + 1]!);
    }
  }
  return { x0, y0, width, height, data };
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

import type { ImageSegment } from '../../core/geometry/zenith';
import type { Frame } from './frame';

/** Only lines within this angle of upright are looked for (degrees; ours). */
const STEEPEST_LEAN = 40;
/** Brightness must change by this much across a line (grey levels over three pixels; ours). */
const LEAST_STEP = 10;
/** Pixels of one line have gradients alike within this angle (degrees). */
const ALIKE = 12;
/** Shorter lines say little (share of the picture's height). */
const LEAST_LENGTH = 0.045;
/** Above the square of the strongest gradient of eight-bit brightness (four times 255 each way). */
const STEEPEST_SQUARE = 2 * 1024 ** 2;
/**
 * A line's pixels lie within this of it (px, root mean square): an edge is blurred over about two pixels, more bends or is no
 * line. One that is blurred more is as wide as the second, and the middle of each row lies within the third (ours).
 */
const MOST_CROOKED = { sharp: 1.3, blurred: 3, rows: 0.45 } as const;

/** So near the border of what was filmed (share of the picture's width) upright lines are the film's own: a rim the lens or the camera's sharpening leaves (ours). */
const RIM = 0.0125;
/** A bar beside an upright film is as bright all the way down (grey levels, ours). */
const BAR_RANGE = 6;

/**
 * Straight steep lines of a picture, but for those of its own border: neighbouring pixels with gradients alike are gathered into regions, and a
 * line is laid through each region's gradient-weighted pixels (after the idea of region growing in line segment detectors).
 */
export function steepLines(frame: Frame): ImageSegment[] {
  const { width, height, luma } = frame;
  const strength = new Float32Array(width * height);
  /** Direction of the gradient, as a unit vector. */
  const across = new Float32Array(width * height);
  const along = new Float32Array(width * height);
  const steepest = Math.tan((STEEPEST_LEAN * Math.PI) / 180);
  // The steepest first: their strength, squared and so a whole number, and their place in one number that sorts by both.
  const order: number[] = [];
  const places = 2 ** Math.ceil(Math.log2(width * height));
  const [left, right] = filmedColumns(frame);
  const rim = Math.max(2, Math.round(RIM * width));
  for (let y = 2; y < height - 2; y++) {
    for (let x = left + rim; x < right - rim; x++) {
      const i = y * width + x;
      const gx = luma[i + 1 - width]! + 2 * luma[i + 1]! + luma[i + 1 + width]! - luma[i - 1 - width]! - 2 * luma[i - 1]! - luma[i - 1 + width]!;
      if (Math.abs(gx) < 4 * LEAST_STEP) continue;
      const gy = luma[i + width - 1]! + 2 * luma[i + width]! + luma[i + width + 1]! - luma[i - width - 1]! - 2 * luma[i - width]! - luma[i - width + 1]!;
      if (Math.abs(gy) > Math.abs(gx) * steepest) continue;
      const square = gx * gx + gy * gy;
      const length = Math.sqrt(square);
      strength[i] = length;
      across[i] = gx / length;
      along[i] = gy / length;
      order.push((STEEPEST_SQUARE - square) * places + i);
    }
  }
  const used = new Uint8Array(width * height);
  const alike = Math.cos((ALIKE * Math.PI) / 180);
  const neighbours = [-width, width, -1, 1, -width - 1, -width + 1, width - 1, width + 1];
  const out: ImageSegment[] = [];
  const region: number[] = [];
  for (const place of Float64Array.from(order).sort()) {
    const seed = place % places;
    if (used[seed]) continue;
    region.length = 0;
    region.push(seed);
    used[seed] = 1;
    let cos = across[seed]!;
    let sin = along[seed]!;
    for (let k = 0; k < region.length; k++) {
      const i = region[k]!;
      for (let n = 0; n < 8; n++) {
        const j = i + neighbours[n]!;
        if (used[j] || strength[j] === 0) continue;
        if (across[j]! * cos + along[j]! * sin < alike * Math.sqrt(cos * cos + sin * sin)) continue;
        used[j] = 1;
        region.push(j);
        cos += across[j]!;
        sin += along[j]!;
      }
    }
    const segment = lineThrough(region, strength, width, LEAST_LENGTH * height);
    if (segment) out.push(segment);
  }
  return out;
}

/** First column of what was filmed and the one after its last: without bars to the left and right. */
function filmedColumns({ width, height, luma }: Frame): [number, number] {
  const isBar = (x: number): boolean => {
    let darkest = 255;
    let brightest = 0;
    for (let i = x; i < width * height; i += width) {
      darkest = Math.min(darkest, luma[i]!);
      brightest = Math.max(brightest, luma[i]!);
      if (brightest - darkest > BAR_RANGE) return false;
    }
    return true;
  };
  let left = 0;
  let right = width;
  while (left < right && isBar(left)) left++;
  while (right > left && isBar(right - 1)) right--;
  return [left, right];
}

/** Weighted line x over y through a region's pixels; undefined where it is short or crooked. */
function lineThrough(region: readonly number[], strength: Float32Array, width: number, least: number): ImageSegment | undefined {
  if (region.length < least) return undefined;
  let s = 0;
  let sx = 0;
  let sy = 0;
  let syy = 0;
  let sxy = 0;
  let sxx = 0;
  let top = Number.POSITIVE_INFINITY;
  let low = Number.NEGATIVE_INFINITY;
  for (const i of region) {
    const w = strength[i]!;
    const x = (i % width) + 0.5;
    const y = Math.floor(i / width) + 0.5;
    s += w;
    sx += w * x;
    sy += w * y;
    sxx += w * x * x;
    syy += w * y * y;
    sxy += w * x * y;
    top = Math.min(top, y);
    low = Math.max(low, y);
  }
  if (low - top < least) return undefined;
  const vy = syy - (sy * sy) / s;
  const cxy = sxy - (sx * sy) / s;
  const slope = cxy / vy;
  const rest = Math.sqrt(Math.max(0, (sxx - (sx * sx) / s - slope * cxy) / s));
  const at = (y: number) => sx / s + slope * (y - sy / s);
  if (rest > MOST_CROOKED.sharp && !(rest <= MOST_CROOKED.blurred && rowsOff(region, strength, width, at) <= MOST_CROOKED.rows)) return undefined;
  return { a: [at(top), top], b: [at(low), low] };
}

/** How far the weighted middles of a region's rows lie from a line x over y (px, root mean square). */
function rowsOff(region: readonly number[], strength: Float32Array, width: number, at: (y: number) => number): number {
  const rows = new Map<number, { weight: number; off: number }>();
  for (const i of region) {
    const y = Math.floor(i / width);
    const row = rows.get(y) ?? { weight: 0, off: 0 };
    row.weight += strength[i]!;
    row.off += strength[i]! * ((i % width) + 0.5 - at(y + 0.5));
    rows.set(y, row);
  }
  const squares = [...rows.values()].reduce((sum, { weight, off }) => sum + (off / weight) ** 2, 0);
  return Math.sqrt(squares / rows.size);
}

import type { Frame } from '../film/frame';
import type { Rectangle } from './gray';

/** The picture is softened by these (sigma, px): an edge that was blurred already loses less by the second (ours). */
const SOFTENED = [1, 2] as const;
/** Only the steepest edges tell: this share of the pixels (ours). */
const STEEPEST = 0.02;
/** A slope is taken over so many pixels. */
const SLOPE_SPAN = 2;
/** Of fewer pixels nothing is told (ours). */
const LEAST_PIXELS = 400;

/**
 * How blurred a region is: sigma in pixels of the Gaussian that would make a clean step as soft as the steepest edges
 * there, from how much steepness they lose by softening (after Zhuo and Sim, Pattern Recognition 44, 2011, from
 * memory). Thin lines look less blurred than they are. Undefined where the region is too small or has no edges.
 */
export function blurOf(frame: Frame, region: Rectangle): number | undefined {
  const x0 = Math.max(0, Math.floor(region.x0));
  const y0 = Math.max(0, Math.floor(region.y0));
  const width = Math.min(frame.width, Math.ceil(region.x1)) - x0;
  const height = Math.min(frame.height, Math.ceil(region.y1)) - y0;
  if (width < 3 || height < 3 || width * height < LEAST_PIXELS) return undefined;
  const values = new Float32Array(width * height);
  for (let y = 0; y < height; y++) values.set(frame.luma.subarray((y0 + y) * frame.width + x0, (y0 + y) * frame.width + x0 + width), y * width);
  const [first, second] = SOFTENED.map((sigma) => steepness(softened(values, width, height, sigma), width, height)) as [Float32Array, Float32Array];
  const limit = Float32Array.from(first).sort()[Math.floor((1 - STEEPEST) * first.length)]!;
  const ratios: number[] = [];
  first.forEach((slope, i) => {
    if (slope > 0 && slope >= limit && second[i]! > 0) ratios.push(slope / second[i]!);
  });
  if (ratios.length === 0) return undefined;
  // A step blurred by s and softened by a has its steepest slope as 1 / sqrt(s^2 + a^2); a slope taken over two pixels softens too.
  const loss = ratios.sort((a, b) => a - b)[ratios.length >> 1]! ** 2;
  const [a, b] = SOFTENED;
  return loss > 1 ? Math.sqrt(Math.max(0, (b * b - loss * a * a) / (loss - 1) - SLOPE_SPAN ** 2 / 12)) : undefined;
}

/** Length of the slope at each pixel inside the border, row by row. */
function steepness(values: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array((width - 2) * (height - 2));
  for (let y = 1; y + 1 < height; y++) {
    for (let x = 1; x + 1 < width; x++) {
      const i = y * width + x;
      out[(y - 1) * (width - 2) + x - 1] = Math.hypot(values[i + 1]! - values[i - 1]!, values[i + width]! - values[i - width]!);
    }
  }
  return out;
}

/** Softened by a Gaussian; beyond the edge the last sample goes on. */
function softened(values: Float32Array, width: number, height: number, sigma: number): Float32Array {
  const reach = Math.ceil(3 * sigma);
  const kernel = Array.from({ length: 2 * reach + 1 }, (_, k) => Math.exp(-0.5 * ((k - reach) / sigma) ** 2));
  const norm = kernel.reduce((a, b) => a + b, 0);
  const pass = (source: Float32Array, out: Float32Array, stride: number, count: number, across: number, lines: number) => {
    for (let line = 0; line < lines; line++) {
      for (let i = 0; i < count; i++) {
        let sum = 0;
        for (let k = -reach; k <= reach; k++) sum += kernel[k + reach]! * source[line * across + Math.min(count - 1, Math.max(0, i + k)) * stride]!;
        out[line * across + i * stride] = sum / norm;
      }
    }
  };
  const rows = new Float32Array(values.length);
  const out = new Float32Array(values.length);
  pass(values, rows, 1, width, width, height);
  pass(rows, out, width, height, 1, width);
  return out;
}

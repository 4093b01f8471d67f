import type { Vec2 } from '../../core/geometry/vec3';
import type { Frame } from '../film/frame';
import { type Address, kernels, lumaAddress, Region, singles } from '../kernels/kernels';

/** Places along the hair at which the bow is cut across. */
export const STATIONS = 64;
/** Share of the hair at a station: the very ends are left out, there hand and head begin. */
export const stationShare = (k: number): number => 0.02 + (0.96 * k) / (STATIONS - 1);

/**
 * Cross sections of the picture along an expected hair line. Offsets run sideways, to the left of frog to
 * tip being negative; row by row, one a station; NaN outside the picture.
 */
export interface BowStrip {
  /** Samples to either side of the middle. */
  readonly half: number;
  /** Pixels between samples. */
  readonly pitch: number;
  readonly values: Float32Array;
  readonly stations: readonly Vec2[];
  /** Unit vector sideways. */
  readonly normal: Vec2;
}

const memory = { row: new Region(), line: new Region() };

/**
 * Cuts the picture across a line that runs along `u` through a place, in the kernels' memory, where it stays until the next one:
 * `2 * half + 1` samples, `pitch` apart; NaN outside the picture.
 */
export function cutAcross(frame: Frame, [x, y]: Vec2, u: Vec2, half: number, pitch: number): Address {
  const bytes = 4 * (2 * half + 1);
  const row = memory.row.take(bytes);
  kernels.cutAcross(lumaAddress(frame), frame.width, frame.height, x, y, u[0], u[1], half, pitch, memory.line.take(bytes), row);
  return row;
}

/**
 * Cuts the strip. `stations` are the expected places of the hair from frog to tip. Each sample is the mean of
 * four along the bow, which the hair and the stick survive and noise does not.
 */
export function cutStrip(frame: Frame, stations: readonly Vec2[], halfWidth: number, pitch: number): BowStrip {
  const first = stations[0]!;
  const last = stations[stations.length - 1]!;
  const n = Math.hypot(last[0] - first[0], last[1] - first[1]) || 1;
  const u: Vec2 = [(last[0] - first[0]) / n, (last[1] - first[1]) / n];
  const normal: Vec2 = [-u[1], u[0]];
  const half = Math.round(halfWidth / pitch);
  const width = 2 * half + 1;
  const values = new Float32Array(stations.length * width);
  stations.forEach((station, k) => {
    values.set(singles(cutAcross(frame, station, u, half, pitch), width), k * width);
  });
  return { half, pitch, values, stations, normal };
}

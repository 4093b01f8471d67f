import type { Vec2 } from '../geometry/vec3';
import { INSTRUMENT_LANDMARKS, type InstrumentLandmark } from '../instrument/landmarks';

/** What the landmark network looks for, in the order of its output maps (as `training/points.py` has it). */
export const NETWORK_POINTS = [...INSTRUMENT_LANDMARKS, 'bow.frog', 'bow.tip'] as const;
export type NetworkPoint = InstrumentLandmark | 'bow.frog' | 'bow.tip';

/** Side of the network's picture in pixels, and of its maps in cells. */
export const INPUT = 192;
export const CELLS = 48;

/** The softmax is read within so many cells of its peak. */
const NEAR = 3;
/** Peaks so near the border (input pixels) may belong to points outside, and count little. */
const BORDER = 7;
const BORDER_WORTH = 0.05;

export interface SeenPoint {
  /** Pixels of the network's picture. */
  readonly place: Vec2;
  /** 0..1: the share of the map's softmax about its peak. */
  readonly confidence: number;
}

/**
 * Reads one picture's maps: each point where the softmax has its peak, to a fraction of a cell by its mean nearby.
 * @param maps logits, {@link NETWORK_POINTS} x CELLS x CELLS, row by row.
 */
export function readMaps(maps: ArrayLike<number>): SeenPoint[] {
  return NETWORK_POINTS.map((_, n) => readMap(maps, n * CELLS * CELLS));
}

function readMap(maps: ArrayLike<number>, from: number): SeenPoint {
  let peak = from;
  for (let i = from; i < from + CELLS * CELLS; i++) if (maps[i]! > maps[peak]!) peak = i;
  const top = maps[peak]!;
  let total = 0;
  for (let i = from; i < from + CELLS * CELLS; i++) total += Math.exp(maps[i]! - top);
  const px = (peak - from) % CELLS;
  const py = Math.floor((peak - from) / CELLS);
  let mass = 0;
  let sx = 0;
  let sy = 0;
  for (let y = Math.max(0, py - NEAR); y <= Math.min(CELLS - 1, py + NEAR); y++) {
    for (let x = Math.max(0, px - NEAR); x <= Math.min(CELLS - 1, px + NEAR); x++) {
      const p = Math.exp(maps[from + y * CELLS + x]! - top);
      mass += p;
      sx += p * x;
      sy += p * y;
    }
  }
  const pitch = INPUT / CELLS;
  const inPixels = (cells: number) => (cells + 0.5) * pitch - 0.5;
  const place: Vec2 = [inPixels(sx / mass), inPixels(sy / mass)];
  const atBorder = place.some((c) => c < BORDER || c > INPUT - 1 - BORDER);
  return { place, confidence: (mass / total) * (atBorder ? BORDER_WORTH : 1) };
}

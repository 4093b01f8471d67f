import type { Vec2 } from '../geometry/vec3';

/** Points of a hand, side of the hand network's picture in pixels and of its maps in cells (as `training/hand_crops.py` has them). */
export const HAND_POINTS = 21;
export const HAND_INPUT = 128;
export const HAND_CELLS = 32;
/** What its picture is across at the middle of the hand, and the depth its maps call one, mm of a grown player's hand. */
export const HAND_ACROSS = 190;
const DEPTH = 60;
/** The network is taught places as blurred as this, cells: so much of a map's spread is no doubt. */
const TAUGHT = 0.8;

export interface JointInMaps {
  /** Pixels of the network's picture, and how widely its word is spread there. */
  readonly place: Vec2;
  readonly spread: number;
  /** How much further away than the middle of the hand, mm of a grown player's hand. */
  readonly deeper: number;
}

/**
 * Reads one picture's maps: each joint at the mean of its softmax.
 * @param maps logits of the places and then depths, each HAND_POINTS x HAND_CELLS x HAND_CELLS, row by row.
 */
export function readHandMaps(maps: ArrayLike<number>): JointInMaps[] {
  const plane = HAND_CELLS * HAND_CELLS;
  const pitch = HAND_INPUT / HAND_CELLS;
  return Array.from({ length: HAND_POINTS }, (_, n) => {
    const [places, depths] = [n * plane, (HAND_POINTS + n) * plane];
    let top = Number.NEGATIVE_INFINITY;
    for (let i = 0; i < plane; i++) top = Math.max(top, maps[places + i]!);
    let [total, x, y, xx, yy, deep] = [0, 0, 0, 0, 0, 0];
    for (let i = 0; i < plane; i++) {
      const p = Math.exp(maps[places + i]! - top);
      const [u, v] = [i % HAND_CELLS, Math.floor(i / HAND_CELLS)];
      total += p;
      x += p * u;
      y += p * v;
      xx += p * u * u;
      yy += p * v * v;
      deep += p * maps[depths + i]!;
    }
    const variance = (xx / total - (x / total) ** 2 + yy / total - (y / total) ** 2) / 2;
    const inPixels = (cells: number) => (cells + 0.5) * pitch - 0.5;
    return {
      place: [inPixels(x / total), inPixels(y / total)],
      spread: pitch * Math.sqrt(Math.max(0, variance - TAUGHT ** 2)),
      deeper: (DEPTH * deep) / total,
    };
  });
}

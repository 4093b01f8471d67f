import type { Dimensions } from '../instrument/dimensions';

/** Height (mm) of the grown player to whom lengths of the hold belong. */
export const GROWN = 1700;

/** A length with its standard uncertainty, mm. */
export interface Length {
  readonly value: number;
  readonly sigma: number;
}

/** Bodies of instruments and the height of those who play them (mm): common practice of choosing a size; heights from memory. */
type BySize = readonly (readonly [body: number, stature: number, sigma: number])[];
const HELD_UP: BySize = [
  [230, 1020, 60],
  [255, 1100, 60],
  [280, 1190, 60],
  [310, 1300, 70],
  [335, 1470, 70],
  [356, 1680, 90],
  [406, 1700, 90],
];
const CELLO: BySize = [
  [580, 1260, 70],
  [650, 1400, 70],
  [690, 1530, 80],
  [755, 1690, 90],
];
/** A body longer than this is a cello's or a bass's. */
const LONGEST_HELD_UP = 450;

/** The likely height of a player of an instrument of that size. */
export function likelyStature({ body }: Dimensions): Length {
  const table = body > LONGEST_HELD_UP ? CELLO : HELD_UP;
  const at = Math.min(Math.max(body, table[0]![0]), table.at(-1)![0]);
  const i = Math.max(
    1,
    table.findIndex(([b]) => b >= at),
  );
  const [b0, h0, s0] = table[i - 1]!;
  const [b1, h1, s1] = table[i]!;
  const share = (at - b0) / (b1 - b0);
  return { value: h0 + (h1 - h0) * share, sigma: s0 + (s1 - s0) * share };
}

/** How little heads shrink with the height: of each share of it missing, so much (from memory, anthropometric tables). */
const HEAD_SHRINKS = 0.4;

/** A head's size over a grown one's, from the player's height in mm. */
export const headSize = (stature: number): number => 1 - HEAD_SHRINKS * (1 - stature / GROWN);

/** Lengths between joints as shares of the height, and how far people differ (1 sigma, share of the length; body segment tables, from memory). */
export const SEGMENTS = {
  upperArm: { share: 0.18, spread: 0.06 },
  forearm: { share: 0.148, spread: 0.06 },
  shoulders: { share: 0.187, spread: 0.07 },
  /** Between the shoulders to between the hips. */
  trunk: { share: 0.29, spread: 0.06 },
} as const;

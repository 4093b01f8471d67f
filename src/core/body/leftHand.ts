import type { Vec3 } from '../geometry/vec3';
import { GROWN } from './stature';

/** The left hand's part of the arm: elbow, wrist and the middle finger's knuckle; mm or px. */
export interface LeftHand<P> {
  readonly elbow: P;
  readonly wrist: P;
  readonly knuckle: P;
}

/** The knuckle in first position lies at this share of the string's length from the bridge. */
const FIRST_POSITION = 0.85;
/**
 * Where a left hand in first position has its joints: along the string from {@link FIRST_POSITION},
 * out from the high side of the board, over it; and how far people differ (mm of a grown player; ours, from figures of several sizes and postures).
 */
const USUAL = {
  knuckle: { at: [5, 21, -26], sigma: [25, 20, 20] },
  wrist: { at: [0, 10, -105], sigma: [30, 70, 60] },
  elbow: { at: [-195, 15, -250], sigma: [50, 60, 60] },
} as const;

/** How far people's left hands differ from the usual place, mm of a grown player along, out and over. */
export const USUAL_SPREAD: Readonly<LeftHand<Vec3>> = { knuckle: USUAL.knuckle.sigma, wrist: USUAL.wrist.sigma, elbow: USUAL.elbow.sigma };

/** Where the left arm of a player of such a height (mm) usually is at a violin or viola, in the instrument's frame. `nutHigh`: the nut's end on the side of the highest string. */
export function usualLeftHand(stringLength: number, nutHigh: Vec3, stature: number): LeftHand<Vec3> {
  const k = stature / GROWN;
  const side = Math.sign(nutHigh[1]) || -1;
  const place = ({ at: [along, out, over] }: { readonly at: Vec3 }): Vec3 => [FIRST_POSITION * stringLength + along * k, nutHigh[1] + side * out * k, nutHigh[2] + over * k];
  return { knuckle: place(USUAL.knuckle), wrist: place(USUAL.wrist), elbow: place(USUAL.elbow) };
}

import { addScaled, cross, dot, normalize, subtract, type Vec2, type Vec3 } from '../geometry/vec3';

/** A joint of the bow hand as the hand network of our own saw it. */
export interface HeldJoint {
  /** Place in the picture, px. */
  readonly point: Vec2;
  /** How widely the network's word for the place is spread, px. */
  readonly sigma: number;
  /** How much further away than the hand's middle, mm. */
  readonly deeper: number;
}

/** Joints of our own network are off by so much beside the spread it gives, mm of a grown hand (ours). */
const BESIDE = 3;

/** Standard uncertainty of a joint's place in the picture, px: `middle` as in {@link handMiddle}, `size` the player's against a grown one. */
export const heldSigma = (joint: HeldJoint, middle: Vec3, focal: number, size: number): number => Math.hypot(joint.sigma, (BESIDE * size * focal) / Math.hypot(...middle));

/** Middle of the hand from the frog in the bow's axes: along the hair, toward the player, out of the top (mm of a grown player's hand at a full-size bow; arm and hand recipe). */
export const HAND_MIDDLE: Vec3 = [-8, 60, 30];

/** Where the middle of the bow hand must be, camera axes, mm. `size`: of the player against a grown one, or of the bow against a full one. */
export const handMiddle = (frog: Vec3, axes: readonly [Vec3, Vec3, Vec3], size: number): Vec3 =>
  axes.reduce<Vec3>((p, axis, i) => addScaled(p, axis, HAND_MIDDLE[i]! * size), frog);

/**
 * How the bow lies to whoever looks straight at a point: its axes along the hair and out of the top, in axes to the
 * right, downward and away along the line of sight (unit vectors; given in camera axes). That is what a square of the
 * picture about that point shows, whatever its place in the picture.
 */
export function bowAsSeen(middle: Vec3, axes: readonly [Vec3, Vec3, Vec3]): readonly [along: Vec3, off: Vec3] {
  const away = normalize(middle);
  const right = normalize(cross([0, 1, 0], away));
  const down = cross(away, right);
  const seen = (v: Vec3): Vec3 => [dot(v, right), dot(v, down), dot(v, away)];
  return [seen(axes[0]), seen(axes[2])];
}

/** How much further away along the line of sight to `middle` a point lies, mm. */
export const deeper = (point: Vec3, middle: Vec3): number => dot(subtract(point, middle), normalize(middle));

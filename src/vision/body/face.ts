import type { PartSquare } from '../../core/body/partSquare';
import { type Joints, middleOf, seenTorso } from '../../core/body/sighting';
import type { Vec2 } from '../../core/geometry/vec3';
import { mean } from '../../core/statistics';

/** Side of a square that holds a head with room about it, as a share of the torso seen (ours). */
const SIDE = 0.8;
/** The face's middle lies this near the head's, as a share of the square's side (ours). */
const NEAR = 0.3;

/** Where the player's face must be, by the joints of the head. */
export function facePlace(joints: Joints): PartSquare {
  return { centre: middleOf(joints, 'ear.left', 'ear.right'), side: SIDE * seenTorso(joints) };
}

/** Whether points found are the face looked for, rather than another person's. */
export function isThere(points: readonly Vec2[], { centre, side }: PartSquare): boolean {
  return Math.hypot(mean(points.map((p) => p[0])) - centre[0], mean(points.map((p) => p[1])) - centre[1]) < NEAR * side;
}

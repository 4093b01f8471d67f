import { type Pose, toOuter } from '../geometry/pose';
import { rotate } from '../geometry/rotation';
import { addScaled, cross, dot, normalize, scale, subtract, type Vec3 } from '../geometry/vec3';
import { type BowOnString, hairLine } from './bowState';
import type { BowContext } from './residuals';

/** A bow before the camera: mm, camera axes. */
export interface BowInSpace {
  /** Ends of the hair, and where it touches the string. */
  readonly frog: Vec3;
  readonly tip: Vec3;
  readonly contact: Vec3;
  /** Unit vectors along the hair from frog to tip, toward the player, and out of the instrument's top. */
  readonly axes: readonly [Vec3, Vec3, Vec3];
  /** Share of the hair from the frog to the contact. */
  readonly position: number;
}

/** Where a bow on a string of an instrument in that pose lies in space. */
export function bowInSpace(context: Pick<BowContext, 'strings' | 'hair' | 'side'>, pose: Pose, bow: BowOnString): BowInSpace {
  const line = hairLine(bow.state, context.strings[bow.string]!, context.hair, context.side);
  const [frog, tip, contact] = [line.frog, line.tip, line.contact].map((p) => toOuter(pose, p)) as [Vec3, Vec3, Vec3];
  const x = normalize(subtract(tip, frog));
  const top = rotate(pose.rotation, [0, 0, 1]);
  const z = normalize(addScaled(top, x, -dot(top, x)));
  // The player is on the tailpiece's side of the bow whichever way it points.
  return { frog, tip, contact, axes: [x, scale(cross(z, x), context.side), z], position: bow.state.position };
}

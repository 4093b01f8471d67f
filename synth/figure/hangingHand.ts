import { FINGERS } from '../../src/core/body/hand';
import { addScaled, type Vec3 } from '../../src/core/geometry/vec3';
import type { FretHand } from './fretHand';
import { fingerJoints, handScale, type Palm, thumbJoints } from './hand';

/** A hand that hangs at the side, its back outward: its palm and the 21 joints. */
export function hangingHand(wrist: Vec3, ahead: Vec3, out: Vec3, stature: number): FretHand {
  const s = handScale(stature);
  const along: Vec3 = [0, 0, -1];
  const palm: Palm = { wrist, along, radial: ahead, dorsal: out };
  const fingers = FINGERS.map((_, i) => fingerJoints(palm, i, { mcp: 18, pip: 30, dip: 16, spread: 0 }, s));
  const tip = addScaled(addScaled(addScaled(wrist, along, 92 * s), ahead, 42 * s), out, -26 * s);
  return { palm, joints: [wrist, ...thumbJoints(palm, tip, ahead, 18, s), ...fingers.flat()] };
}

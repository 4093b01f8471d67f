import type { Vec2 } from '../geometry/vec3';
import { type BodySighting, seenTorso } from './sighting';

/** A wrist this far under the shoulders plays no instrument held at the shoulder (share of the torso, ours). */
const LOW = 0.5;

/** Whether an arm hangs, or holds something low, as seen in the picture. */
export function hangs(joints: NonNullable<BodySighting['joints']>, wrist: 'wrist.left' | 'wrist.right'): boolean {
  const middle = (part: 'shoulder' | 'hip'): Vec2 => {
    const [l, r] = [joints[`${part}.left`].point, joints[`${part}.right`].point];
    return [(l[0] + r[0]) / 2, (l[1] + r[1]) / 2];
  };
  const [chest, hips] = [middle('shoulder'), middle('hip')];
  const [x, y] = joints[wrist].point;
  return (x - chest[0]) * (hips[0] - chest[0]) + (y - chest[1]) * (hips[1] - chest[1]) > LOW * seenTorso(joints) ** 2;
}

import { addScaled, cross, dot, length, normalize, scale, subtract, type Vec3 } from '../geometry/vec3';
import { elbowAngle } from './arm';
import type { ArmFrame } from './fitArm';

type Arm = Pick<ArmFrame, 'shoulder' | 'elbow' | 'wrist'>;

/** A path shorter than this (mm) is not split: the hand hardly moved. */
const LEAST_PATH = 60;

/**
 * Part of the hand's way from one arm posture to another that the elbow's opening makes, the rest being the upper arm's:
 * the way is replayed with the upper arm held, from either end, and both are averaged (section 6 of the measurement
 * reference). 1 when the forearm does all; may lie outside 0..1 where one works against the other. Undefined for a
 * path too short to split.
 */
export function forearmShare(from: Arm, to: Arm): number | undefined {
  // Seen from the shoulder: where the player sways, the hand's way is not the arm's.
  const wrist = (arm: Arm) => subtract(arm.wrist, arm.shoulder);
  const way = subtract(wrist(to), wrist(from));
  const path = length(way);
  if (path < LEAST_PATH) return undefined;
  const along = scale(way, 1 / path);
  const opened = subtract(bentTo(from, elbowAngle(to)), from.wrist);
  const closed = subtract(to.wrist, bentTo(to, elbowAngle(from)));
  return (dot(opened, along) + dot(closed, along)) / 2 / path;
}

/** Where the wrist comes to lie when the elbow is bent to an angle (degrees, 180 straight) with the upper arm held. */
function bentTo({ shoulder, elbow, wrist }: Arm, angle: number): Vec3 {
  const back = normalize(subtract(shoulder, elbow));
  const forearm = subtract(wrist, elbow);
  const hinge = cross(back, forearm);
  if (length(hinge) < 1e-6) return wrist;
  const across = normalize(cross(hinge, back));
  const a = (angle * Math.PI) / 180;
  const reach = length(forearm);
  return addScaled(addScaled(elbow, back, reach * Math.cos(a)), across, reach * Math.sin(a));
}

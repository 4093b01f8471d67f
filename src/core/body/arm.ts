import { DEGREES, distance, dot, length, normalize, scale, subtract, type Vec3 } from '../geometry/vec3';

/** Joints of the bow arm, in any frame with a known up; mm. */
export interface Arm {
  readonly shoulder: Vec3;
  readonly elbow: Vec3;
  readonly wrist: Vec3;
}

const arcsine = (x: number): number => Math.asin(Math.max(-1, Math.min(1, x))) * DEGREES;

/** Angle at the elbow, degrees: 180 straight, 90 square. */
export function elbowAngle({ shoulder, elbow, wrist }: Arm): number {
  const cosine = dot(normalize(subtract(shoulder, elbow)), normalize(subtract(wrist, elbow)));
  return Math.acos(Math.max(-1, Math.min(1, cosine))) * DEGREES;
}

/** How much higher the elbow is than the wrist, degrees of the forearm's slope; 0 level, + elbow higher. */
export const elbowRise = ({ elbow, wrist }: Arm, up: Vec3): number => arcsine(dot(subtract(elbow, wrist), up) / distance(elbow, wrist));

/** Slope of the upper arm, degrees: 0 horizontal, - hanging. */
export const upperArmElevation = ({ shoulder, elbow }: Arm, up: Vec3): number => arcsine(dot(subtract(elbow, shoulder), up) / distance(elbow, shoulder));

/** The upper arm's slope less the bow's, degrees: 0 the upper arm runs parallel to the bow. `bow` points from frog to tip. */
export const armBowGap = (arm: Arm, bow: Vec3, up: Vec3): number => upperArmElevation(arm, up) - arcsine(-dot(normalize(bow), up));

/** Height of the elbow over the contact point in lengths of the upper arm. */
export const elbowHeight = ({ shoulder, elbow }: Arm, contact: Vec3, up: Vec3): number => dot(subtract(elbow, contact), up) / distance(shoulder, elbow);

/**
 * How far the elbow is behind the upright plane through both shoulders, in shoulder widths; + behind. The
 * plane's back is on the side away from where `ahead` points.
 */
export function elbowBehind({ shoulder, elbow }: Arm, otherShoulder: Vec3, ahead: Vec3, up: Vec3): number {
  const across = subtract(otherShoulder, shoulder);
  const level = subtract(across, scale(up, dot(across, up)));
  const forward = subtract(ahead, scale(up, dot(ahead, up)));
  const u = normalize(level);
  const normal = normalize(subtract(forward, scale(u, dot(forward, u))));
  return -dot(subtract(elbow, shoulder), normal) / length(across);
}

import { fromRotationVector, type Mat3, multiply, rotate, rotateBack, toRotationVector, transpose } from './rotation';
import { add, normalize, subtract, type Vec3 } from './vec3';

/** Rigid motion from an inner frame (an instrument) to an outer one (the camera): outer = rotation inner + translation. Millimetres. */
export interface Pose {
  readonly rotation: Mat3;
  readonly translation: Vec3;
}

export const toOuter = (pose: Pose, inner: Vec3): Vec3 => add(rotate(pose.rotation, inner), pose.translation);
export const toInner = (pose: Pose, outer: Vec3): Vec3 => rotateBack(pose.rotation, subtract(outer, pose.translation));

/** Sine of the angle at which the camera stands over the inner frame's plane of x and y, -1..1: + on the side of its z axis. */
export const facingOf = (pose: Pose): number => normalize(toInner(pose, [0, 0, 0]))[2];

/** The pose so many times as far away in depth: through a lens longer by as much it looks about as large. */
export const deepenPose = ({ rotation, translation: [x, y, z] }: Pose, times: number): Pose => ({ rotation, translation: [x, y, times * z] });

/** Steps of a pose (see {@link stepPose}) for numerical derivatives: radians, mm. */
export const POSE_INCREMENTS = [1e-5, 1e-5, 1e-5, 1e-2, 1e-2, 1e-2] as const;

/**
 * The pose moved by a small step: first three numbers a rotation vector in radians about the inner frame's
 * origin, in the outer frame's axes; last three a translation in millimetres.
 */
export function stepPose(pose: Pose, step: ArrayLike<number>, at = 0): Pose {
  return {
    rotation: multiply(fromRotationVector([step[at]!, step[at + 1]!, step[at + 2]!]), pose.rotation),
    translation: add(pose.translation, [step[at + 3]!, step[at + 4]!, step[at + 5]!]),
  };
}

/** The step (see {@link stepPose}) that leads from one pose to another. */
export const stepBetween = (from: Pose, to: Pose): number[] => [
  ...toRotationVector(multiply(to.rotation, transpose(from.rotation))),
  ...subtract(to.translation, from.translation),
];

/** The pose moved by a small step in the inner frame's own axes: rotation vector (radians) about its origin, then a translation (mm). A thing placed wrongly in itself is off by the same such step wherever it goes. */
export function stepInside(pose: Pose, step: ArrayLike<number>): Pose {
  return {
    rotation: multiply(pose.rotation, fromRotationVector([step[0]!, step[1]!, step[2]!])),
    translation: toOuter(pose, [step[3]!, step[4]!, step[5]!]),
  };
}

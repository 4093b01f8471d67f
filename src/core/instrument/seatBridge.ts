import { type Camera, project } from '../geometry/camera';
import { type Pose, stepPose, toInner } from '../geometry/pose';
import { multiply, toRotationVector, transpose } from '../geometry/rotation';
import { add, type Vec2, type Vec3 } from '../geometry/vec3';
import { bridgeInPicture } from './bridgeInPicture';
import type { Dimensions } from './dimensions';
import { instrumentModel } from './landmarks';
import type { MarksSolution } from './solveMarks';

/** The bridge as a film shows it: how far (mm along the strings, + toward the nut) from where a solution has it, and how sure that is. */
export interface BridgePlace {
  readonly along: number;
  readonly sigma: number;
}

/** How surely (mm along the strings, 1 sigma) a solution tells where its bridge stands in the picture, on the mean of its frames. */
export const bridgeSigma = (solution: MarksSolution): number => Math.sqrt(told(solution).variance);

/**
 * A solution with its bridge moved to where the film shows it, as far as that is surer than the marks: one step of Kalman's
 * filter over poses, focal length and shape.
 * @returns the solution, and the step in the instrument's own axes (see stepInside) that leads its poses there
 */
export function seatBridge(solution: MarksSolution, dimensions: Dimensions, { along, sigma }: BridgePlace): { readonly solution: MarksSolution; readonly step: Float64Array } {
  const { camera, poses, covariance, unknowns: n } = solution;
  const focal = 6 * poses.length;
  const { carried, variance } = told(solution);
  const all = variance + sigma * sigma;
  const gain = carried.map((c) => c / all);
  const shape = solution.shape.map((s, i) => s + along * gain[focal + 1 + i]!);
  const seated = poses.map((pose, f) =>
    stepPose(
      pose,
      gain.map((g) => along * g),
      6 * f,
    ),
  );
  const next = Float64Array.from(covariance, (c, at) => {
    const [i, k] = [Math.floor(at / n), at % n];
    return c - gain[i]! * carried[k]!;
  });
  return {
    solution: {
      ...solution,
      camera: { ...camera, focal: camera.focal * Math.exp(along * gain[focal]!) },
      poses: seated,
      shape,
      model: instrumentModel(dimensions, shape),
      covariance: next,
    },
    step: meanStep(poses, seated),
  };
}

/** The covariance of each unknown with the bridge's place along the strings in the picture (mm), and that place's own variance. */
function told({ camera, poses, covariance, unknowns: n }: MarksSolution): { readonly carried: Float64Array; readonly variance: number } {
  const slope = new Float64Array(n);
  poses.forEach((pose, f) => {
    const { moved, zoomed } = placeSlope(camera, pose);
    moved.forEach((s, i) => {
      slope[6 * f + 3 + i] = s / poses.length;
    });
    slope[6 * poses.length]! += zoomed / poses.length;
  });
  const carried = Float64Array.from({ length: n }, (_, i) => slope.reduce((sum, s, k) => sum + s * covariance[i * n + k]!, 0));
  return { carried, variance: slope.reduce((sum, s, i) => sum + s * carried[i]!, 0) };
}

/** By how much (mm along the strings) the bridge comes to lie elsewhere in the picture for each mm that the pose is `moved` along the camera's axes, and for a focal length e times as long; nothing where it is not seen. */
function placeSlope(camera: Camera, pose: Pose): { readonly moved: Vec3; readonly zoomed: number } {
  const seen = bridgeInPicture(camera, pose);
  if (!seen) return { moved: [0, 0, 0], zoomed: 0 };
  const { at, across, pxPerMm } = seen;
  const over = ([x, y]: Vec2) => ((x - at[0]) * across[0] + (y - at[1]) * across[1]) / pxPerMm;
  const movedBy = (step: Vec3) => over(project(camera, add(pose.translation, step)) ?? at);
  return { moved: [movedBy([1, 0, 0]), movedBy([0, 1, 0]), movedBy([0, 0, 1])], zoomed: over([2 * at[0] - camera.width / 2, 2 * at[1] - camera.height / 2]) };
}

/** The mean step in the inner frame's own axes from poses to others. */
function meanStep(from: readonly Pose[], to: readonly Pose[]): Float64Array {
  const mean = new Float64Array(6);
  from.forEach((pose, f) => {
    const turn = toRotationVector(multiply(transpose(pose.rotation), to[f]!.rotation));
    [...turn, ...toInner(pose, to[f]!.translation)].forEach((v, i) => {
      mean[i]! += v / from.length;
    });
  });
  return mean;
}

import { type Camera, project } from '../geometry/camera';
import { deepenPose, type Pose, stepPose, toOuter } from '../geometry/pose';
import type { Vec2 } from '../geometry/vec3';
import type { Dimensions } from '../instrument/dimensions';
import { type InstrumentModel, instrumentModel } from '../instrument/landmarks';
import type { MarksSolution } from '../instrument/solveMarks';
import { choleskyFactor, choleskyInverse, choleskySolve } from '../linalg/cholesky';
import { normal, seededRandom } from '../random';
import { ANCHORS, anchorEquations } from './anchorEquations';

/** One way the truth may differ from the solved marks: another camera, shape and pose in the marked frame. */
export interface Draw {
  readonly camera: Camera;
  readonly model: InstrumentModel;
  /** Image shift of each landmark in the marked frame that this draw would mean, pixels. */
  readonly shift: readonly Vec2[];
}

/** Draws camera, shape and pose from the covariance of the solved marks. Repeatable. */
export function drawAlternatives(solution: MarksSolution, dimensions: Dimensions, count: number, seed = 7): Draw[] {
  const n = solution.unknowns;
  const factor = choleskyFactor(solution.covariance, n);
  const random = seededRandom(seed);
  const frames = solution.poses.length;
  const focalAt = 6 * frames;
  const draws: Draw[] = [];
  for (let d = 0; d < count; d++) {
    const white = Float64Array.from({ length: n }, () => normal(random));
    const delta = new Float64Array(n);
    for (let i = 0; i < n; i++) for (let k = 0; k <= i; k++) delta[i]! += factor[i * n + k]! * white[k]!;
    const camera = { ...solution.camera, focal: solution.camera.focal * Math.exp(Math.max(-0.25, Math.min(0.25, delta[focalAt]!))) };
    const shape = Float64Array.from(solution.shape, (s, i) => s + delta[focalAt + 1 + i]!);
    const model = instrumentModel(dimensions, shape);
    const pose = stepPose(solution.poses[0]!, delta);
    const shift = ANCHORS.map((name): Vec2 => {
      const a = project(solution.camera, toOuter(solution.poses[0]!, solution.model.landmarks[name]));
      const b = project(camera, toOuter(pose, model.landmarks[name]));
      return a && b ? [b[0] - a[0], b[1] - a[1]] : [0, 0];
    });
    draws.push({ camera, model, shift });
  }
  return draws;
}

/**
 * The pose a draw implies in another frame: the picture was laid over the marked frame, so the landmarks
 * moved by `shift` there are moved alike here. One Gauss-Newton step from the nominal pose, then a second.
 */
export function poseOfDraw(nominal: Pose, camera: Camera, model: InstrumentModel, draw: Draw): Pose {
  // Depth scales with focal length; start there so that two steps suffice.
  let pose = deepenPose(nominal, draw.camera.focal / camera.focal);
  for (let iteration = 0; iteration < 3; iteration++) {
    const { matrix, rhs } = anchorEquations(pose, draw.camera, draw.model, (name, i) => {
      const target = project(camera, toOuter(nominal, model.landmarks[name]));
      return target && [target[0] + draw.shift[i]![0], target[1] + draw.shift[i]![1]];
    });
    try {
      pose = stepPose(pose, choleskySolve(choleskyFactor(matrix, 6), 6, rhs));
    } catch {
      return nominal;
    }
  }
  return pose;
}

/**
 * Six steps of a pose (see stepPose; one a column, 6 x 6 row-major) that together are its error where the picture of the
 * whole instrument may be off by `px` pixels: the lower triangular factor of the covariance, which changes little from frame to frame.
 * Every anchor errs by itself, so that what its outline tells badly, as a turn about an axis across the view, may be off by more.
 * @returns undefined where the instrument cannot be projected
 */
export function poseSpread(pose: Pose, camera: Camera, model: InstrumentModel, px: number): Float64Array | undefined {
  const { matrix, count } = anchorEquations(pose, camera, model, () => undefined);
  try {
    const covariance = choleskyInverse(choleskyFactor(matrix, 6), 6);
    return choleskyFactor(
      covariance.map((v) => v * count * px * px),
      6,
    );
  } catch {
    return undefined;
  }
}

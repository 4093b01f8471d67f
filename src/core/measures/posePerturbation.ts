import { type Camera, project } from '../geometry/camera';
import { type Pose, stepPose, toOuter } from '../geometry/pose';
import type { Vec2, Vec3 } from '../geometry/vec3';
import type { Dimensions } from '../instrument/dimensions';
import { INSTRUMENT_LANDMARKS, type InstrumentLandmark, type InstrumentModel, instrumentModel } from '../instrument/landmarks';
import type { MarksSolution } from '../instrument/solveMarks';
import { choleskyFactor, choleskyInverse, choleskySolve } from '../linalg/cholesky';
import { normal, seededRandom } from '../random';

/** One way the truth may differ from the solved marks: another camera, shape and pose in the marked frame. */
export interface Draw {
  readonly camera: Camera;
  readonly model: InstrumentModel;
  /** Image shift of each landmark in the marked frame that this draw would mean, pixels. */
  readonly shift: readonly Vec2[];
}

/** Landmarks that stand for the whole instrument when a pose is solved again. */
const ANCHORS = INSTRUMENT_LANDMARKS.filter((name) => !name.includes('endButton') && !name.includes('tailpiece'));

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
  let pose: Pose = nominal;
  // Depth scales with focal length; start there so that two steps suffice.
  const k = draw.camera.focal / camera.focal;
  pose = { rotation: nominal.rotation, translation: [nominal.translation[0], nominal.translation[1], nominal.translation[2] * k] as Vec3 };
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

/** Normal equations of a step of the pose that brings the anchors to where they were seen; anchors unseen count with no residual. */
function anchorEquations(
  pose: Pose,
  camera: Camera,
  model: InstrumentModel,
  seen: (name: InstrumentLandmark, i: number) => Vec2 | undefined,
): { matrix: Float64Array; rhs: Float64Array; count: number } {
  const matrix = new Float64Array(36);
  const rhs = new Float64Array(6);
  let count = 0;
  ANCHORS.forEach((name, i) => {
    const q = toOuter(pose, model.landmarks[name]);
    const here = project(camera, q);
    if (!here) return;
    count++;
    const target = seen(name, i) ?? here;
    const rx = q[0] - pose.translation[0];
    const ry = q[1] - pose.translation[1];
    const rz = q[2] - pose.translation[2];
    const f = camera.focal / q[2];
    const x = q[0] / q[2];
    const y = q[1] / q[2];
    const rows = [
      [-f * x * ry, f * rz + f * x * rx, -f * ry, f, 0, -f * x],
      [-f * rz - f * y * ry, f * y * rx, f * rx, 0, f, -f * y],
    ];
    const e = [target[0] - here[0], target[1] - here[1]];
    rows.forEach((row, m) => {
      for (let a = 0; a < 6; a++) {
        rhs[a]! += row[a]! * e[m]!;
        for (let b = 0; b < 6; b++) matrix[6 * a + b]! += row[a]! * row[b]!;
      }
    });
  });
  for (let a = 0; a < 6; a++) matrix[7 * a]! *= 1 + 1e-9;
  return { matrix, rhs, count };
}

import { type Camera, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import type { Vec2 } from '../geometry/vec3';
import { INSTRUMENT_LANDMARKS, type InstrumentLandmark, type InstrumentModel } from '../instrument/landmarks';

/** Landmarks that stand for the whole instrument when a pose is solved again. */
export const ANCHORS = INSTRUMENT_LANDMARKS.filter((name) => !name.includes('endButton') && !name.includes('tailpiece'));

/**
 * Normal equations (6 x 6 row-major, px²) of a step of the pose (see stepPose) that brings the anchors to where they were
 * seen, of `count` anchors that can be projected; anchors unseen count with no residual.
 */
export function anchorEquations(
  pose: Pose,
  camera: Camera,
  model: InstrumentModel,
  seen: (name: InstrumentLandmark, i: number, here: Vec2) => Vec2 | undefined,
): { matrix: Float64Array; rhs: Float64Array; count: number } {
  const matrix = new Float64Array(36);
  const rhs = new Float64Array(6);
  let count = 0;
  ANCHORS.forEach((name, i) => {
    const q = toOuter(pose, model.landmarks[name]);
    const here = project(camera, q);
    if (!here) return;
    count++;
    const target = seen(name, i, here) ?? here;
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

import { createRequire } from 'node:module';
import { beforeAll, describe, expect, it } from 'vitest';
import { HEAD_POINTS, headPose } from '../body/headPose';
import { FACE_POINTS } from '../body/sighting';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { fromRotationVector, rotationDistance } from '../geometry/rotation';
import { DEGREES, distance, type Vec2, type Vec3 } from '../geometry/vec3';
import { normal, seededRandom } from '../random';
import { dimensionsOf } from './dimensions';
import { instrumentModel } from './landmarks';
import { solvePose } from './solveMarks';

// Outside check: the same points given to OpenCV's perspective-n-point solver.
// biome-ignore lint/suspicious/noExplicitAny: OpenCV.js is not fully typed
const cv: any = createRequire(import.meta.url)('@techstark/opencv-js');

// The module has a `then` of its own: awaiting it would never end.
beforeAll(
  (): Promise<void> =>
    new Promise((ready) => {
      if (cv.Mat) ready();
      else cv.onRuntimeInitialized = () => ready();
    }),
  60_000,
);

const camera = cameraFromFieldOfView(1280, 720);
const model = instrumentModel(dimensionsOf('violin', '4/4'));
const names = [
  'instrument.nut.low',
  'instrument.nut.high',
  'instrument.fingerboardEnd.low',
  'instrument.fingerboardEnd.high',
  'instrument.bridge.low',
  'instrument.bridgeFoot.high',
  'instrument.scroll',
  'instrument.upperCorner.low',
  'instrument.lowerCorner.high',
] as const;

/** The pose OpenCV finds for points in space (mm) seen in the picture (px). */
function theirPose(space: readonly Vec3[], seen: readonly Vec2[]): Pose {
  const matrix = (rows: readonly (readonly number[])[]) =>
    cv.matFromArray(
      rows.length,
      rows[0]!.length,
      cv.CV_64F,
      rows.flatMap((r) => [...r]),
    );
  const intrinsics = cv.matFromArray(3, 3, cv.CV_64F, [camera.focal, 0, 640, 0, camera.focal, 360, 0, 0, 1]);
  const rvec = new cv.Mat();
  const tvec = new cv.Mat();
  cv.solvePnP(matrix(space), matrix(seen), intrinsics, new cv.Mat(), rvec, tvec, false, cv.SOLVEPNP_ITERATIVE);
  return { rotation: fromRotationVector([...rvec.data64F] as unknown as Vec3), translation: [...tvec.data64F] as unknown as Vec3 };
}

describe('pose against OpenCV', () => {
  it.each([1, 2, 3])('of an instrument agrees on noisy points, seed %i', (seed) => {
    const random = seededRandom(seed);
    const truth: Pose = { rotation: fromRotationVector([2.6 + 0.2 * normal(random), 0.3 * normal(random), 0.5]), translation: [40, -30, 1150] };
    const sightings = names.map((landmark) => {
      const [u, v] = project(camera, toOuter(truth, model.landmarks[landmark]))!;
      return { landmark, point: [u + 0.5 * normal(random), v + 0.5 * normal(random)] as const, sigma: 0.5 };
    });
    const ours = solvePose(camera, model, sightings)!.pose;
    const theirs = theirPose(
      names.map((n) => model.landmarks[n]),
      sightings.map((s) => s.point),
    );
    expect(rotationDistance(ours.rotation, theirs.rotation) * DEGREES).toBeLessThan(0.1);
    expect(distance(ours.translation, theirs.translation)).toBeLessThan(3);
  });

  it.each([-0.7, 0.1, 0.9])('of a head turned by %f radians agrees', (turn) => {
    const truth: Pose = { rotation: fromRotationVector([0.1, -turn, 0.15]), translation: [120, -90, 1400] };
    const head = FACE_POINTS.map((name) => HEAD_POINTS[name]);
    const face = head.map((p): Vec2 => project(camera, toOuter(truth, p))!);
    const theirs = theirPose(head, face);
    // Ours leans a little on how heads usually nod.
    expect(rotationDistance(headPose(camera, face, 1)!.pose.rotation, theirs.rotation) * DEGREES).toBeLessThan(1.5);
  });
});

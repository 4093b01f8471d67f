import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { fromRotationVector, multiply, rotate, rotationDistance } from '../geometry/rotation';
import { DEGREES, dot, scale, type Vec2, type Vec3 } from '../geometry/vec3';
import { normal, seededRandom } from '../random';
import { quantile } from '../statistics';
import { HEAD_POINTS, headPose, turnedAway } from './headPose';
import { FACE_POINTS, mirrorBody } from './sighting';

const camera = cameraFromFieldOfView(1280, 720);

/** A head turned to its left, nodding and tilted by radians, so far from the camera (mm). */
const headAt = (turn: number, nod: number, tilt: number, [x, y, z]: Vec3): Pose => ({
  rotation: multiply(fromRotationVector([0, 0, tilt]), multiply(fromRotationVector([0, -turn, 0]), fromRotationVector([nod, 0, 0]))),
  translation: [x, y, z],
});
const seen = (pose: Pose, size = 1, off: () => number = () => 0): Vec2[] =>
  FACE_POINTS.map((name) => {
    const [u, v] = project(camera, toOuter(pose, scale(HEAD_POINTS[name], size)))!;
    return [u + off(), v + off()];
  });
const turnedApart = (a: Pose, b: Pose) => rotationDistance(a.rotation, b.rotation) * DEGREES;

describe('the pose of a head from the points of its face', () => {
  it('is that of the head, however it is turned and wherever it is', () => {
    const angle = (most: number) => fc.double({ min: -most, max: most, noNaN: true });
    fc.assert(
      fc.property(angle(1), angle(0.25), angle(0.5), angle(400), angle(200), fc.double({ min: 700, max: 3500, noNaN: true }), (turn, nod, tilt, x, y, z) => {
        const pose = headAt(turn, nod, tilt, [x, y, z]);
        const found = headPose(camera, seen(pose), 1)!;
        // The usual nod draws a little.
        expect(turnedApart(found.pose, pose)).toBeLessThan(2.5);
        expect(found.misfit).toBeLessThan(0.3);
      }),
      { numRuns: 60 },
    );
  });

  it('is known to some degrees from points a few millimetres off', () => {
    const random = seededRandom(11);
    const errors = Array.from({ length: 60 }, () => {
      const pose = headAt(0.5 * normal(random), 0.15 * normal(random), 0.2 * normal(random), [200 * normal(random), -150, 2400]);
      const px = (3 * camera.focal) / 2400;
      const found = headPose(
        camera,
        seen(pose, 1, () => px * normal(random)),
        1,
      )!;
      const [a, b] = [rotate(found.pose.rotation, [1, 0, 0]), rotate(pose.rotation, [1, 0, 0])];
      return Math.acos(Math.min(1, dot(a, b))) * DEGREES;
    });
    expect(quantile(errors, 0.5)).toBeLessThan(5);
    expect(quantile(errors, 0.95)).toBeLessThan(12);
  });

  it('does not depend on the size of the head it is taken for', () => {
    const pose = headAt(0.4, 0.1, 0.2, [100, -100, 2000]);
    const child = headPose(camera, seen(pose, 0.85), 0.85)!;
    expect(turnedApart(child.pose, pose)).toBeLessThan(2);
    expect(turnedApart(headPose(camera, seen(pose, 0.85), 1)!.pose, child.pose)).toBeLessThan(2);
  });

  it('is mirrored with the picture', () => {
    const pose = headAt(0.6, 0.1, 0.25, [150, -100, 1800]);
    const { face } = mirrorBody({ frame: 0, t: 0, face: seen(pose) }, camera.width);
    const [a, b] = [rotate(headPose(camera, face!, 1)!.pose.rotation, [1, 0, 0]), rotate(headPose(camera, seen(pose), 1)!.pose.rotation, [1, 0, 0])];
    // The ears change sides: what pointed to the left and up in the picture points to the left and down.
    expect(a[0]).toBeCloseTo(b[0], 2);
    expect(a[1]).toBeCloseTo(-b[1], 2);
    expect(a[2]).toBeCloseTo(-b[2], 2);
  });

  it('tells how far the face is turned from the camera, wherever in the picture it is', () => {
    expect(turnedAway(headAt(0.7, 0, 0, [0, 0, 2000]))).toBeCloseTo(0.7);
    expect(turnedAway(headAt(-0.4, 0, 0.6, [0, 0, 900]))).toBeCloseTo(0.4);
    // Looking straight at the camera from the picture's edge.
    expect(turnedAway(headAt(Math.atan(-0.4), 0, 0, [800, 0, 2000]))).toBeCloseTo(0);
  });

  it('is none where the points are no face', () => {
    const face = seen(headAt(0.2, 0, 0, [0, 0, 2000]));
    const swapped = [face[0]!, face[1]!, face[4]!, face[3]!, face[2]!, face[5]!];
    expect(headPose(camera, swapped, 1)).toBeUndefined();
    expect(
      headPose(
        camera,
        face.map(() => [400, 300] as Vec2),
        1,
      ),
    ).toBeUndefined();
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project, ray, supposedCamera } from './camera';
import { facingOf, type Pose, stepPose, toInner, toOuter } from './pose';
import { fromAxes, fromRotationVector, multiply, rotate, rotateBack, rotationDistance, toRotationVector, transpose } from './rotation';
import { cross, dot, length, normalize, scale, subtract, type Vec3 } from './vec3';

const part = fc.double({ min: -2, max: 2, noNaN: true });
const vector = fc.tuple(part, part, part) as fc.Arbitrary<[number, number, number]>;

describe('rotation', () => {
  it('comes back from its rotation vector', () => {
    fc.assert(
      fc.property(vector, (w) => {
        fc.pre(length(w) < Math.PI - 1e-3);
        const back = toRotationVector(fromRotationVector(w));
        expect(length(subtract(back, w))).toBeLessThan(1e-7);
      }),
    );
  });

  it('keeps lengths and angles, and its transpose undoes it', () => {
    fc.assert(
      fc.property(vector, vector, vector, (w, a, b) => {
        const m = fromRotationVector(w);
        expect(dot(rotate(m, a), rotate(m, b))).toBeCloseTo(dot(a, b), 9);
        expect(length(subtract(rotateBack(m, rotate(m, a)), a))).toBeLessThan(1e-9);
        expect(rotationDistance(multiply(m, transpose(m)), fromRotationVector([0, 0, 0]))).toBeLessThan(1e-7);
      }),
    );
  });

  it('finds the axis of half a turn', () => {
    const w = toRotationVector(fromRotationVector([0, Math.PI, 0]));
    expect(Math.abs(w[1])).toBeCloseTo(Math.PI, 6);
  });

  it('builds right-handed frames from two axes', () => {
    const m = fromAxes([2, 0, 0], [1, 3, 0]);
    expect(rotate(m, [0, 0, 1])).toEqual(cross([1, 0, 0], [0, 1, 0]));
  });
});

describe('camera', () => {
  const camera = cameraFromFieldOfView(1280, 720, 65);
  const upright = cameraFromFieldOfView(720, 1280, 65);

  it('has the asked field of view across the long side', () => {
    expect((2 * Math.atan(640 / camera.focal) * 180) / Math.PI).toBeCloseTo(65, 9);
    expect(cameraFromFieldOfView(720, 1280, 65).focal).toBe(camera.focal);
  });

  it('is supposed to see half as wide where the lens was zoomed in twice', () => {
    const film = { width: 720, height: 1280 };
    expect(supposedCamera(film)).toEqual(upright);
    expect(supposedCamera({ ...film, zoom: 2 }).focal).toBe(2 * upright.focal);
    // Wide lenses of phones see some 100 to 105 degrees across the long side of a film (from memory).
    const wide = supposedCamera({ ...film, zoom: 0.5 }).focal;
    expect((2 * Math.atan(640 / wide) * 180) / Math.PI).toBeGreaterThan(98);
    expect((2 * Math.atan(640 / wide) * 180) / Math.PI).toBeLessThan(108);
  });

  it('projects a point on its own ray back to the same pixel', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1280, noNaN: true }), fc.double({ min: 0, max: 720, noNaN: true }), fc.double({ min: 10, max: 5000, noNaN: true }), (u, v, depth) => {
        const p = project(camera, scale(ray(camera, [u, v]), depth))!;
        expect(p[0]).toBeCloseTo(u, 6);
        expect(p[1]).toBeCloseTo(v, 6);
      }),
    );
  });

  it('gives no picture of what is behind it', () => {
    expect(project(camera, [0, 0, -100])).toBeUndefined();
  });
});

describe('pose', () => {
  it('goes out and back', () => {
    const pose: Pose = { rotation: fromRotationVector([0.3, -1, 0.2]), translation: [10, -20, 900] };
    const p: Vec3 = [12, 34, -56];
    expect(length(subtract(toInner(pose, toOuter(pose, p)), p))).toBeLessThan(1e-9);
    const moved = stepPose(pose, [0, 0, 0, 1, 2, 3]);
    expect(subtract(toOuter(moved, p), toOuter(pose, p)).map((x) => Math.round(x))).toEqual([1, 2, 3]);
  });

  it('faces the camera with its z axis by as much as that leans against the line of sight', () => {
    const ahead: Vec3 = [0, 0, 900];
    // Looking down on the plane, along it, and from below (closed form).
    expect(facingOf({ rotation: fromRotationVector([Math.PI, 0, 0]), translation: ahead })).toBeCloseTo(1, 12);
    expect(facingOf({ rotation: fromRotationVector([Math.PI / 2, 0, 0]), translation: ahead })).toBeCloseTo(0, 12);
    expect(facingOf({ rotation: fromRotationVector([0, 0, 1]), translation: ahead })).toBeCloseTo(-1, 12);
    fc.assert(
      fc.property(vector, vector, (turn, sideways) => {
        const pose: Pose = { rotation: fromRotationVector(turn), translation: [100 * sideways[0], 100 * sideways[1], 900] };
        expect(facingOf(pose)).toBeCloseTo(-dot(rotate(pose.rotation, [0, 0, 1]), normalize(pose.translation)), 9);
      }),
    );
  });

  it('refuses a direction of length zero', () => {
    expect(() => normalize([0, 0, 0])).toThrow(RangeError);
  });
});

import fc from 'fast-check';
import { Matrix4, Quaternion, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { fromAxes, fromRotationVector, type Mat3, multiply, rotate, rotateBack, rotationDistance, toRotationVector } from './rotation';
import { cross, length, normalize, type Vec3 } from './vec3';

/** Rotation code against three.js, which turns by unit quaternions. */
const part = fc.double({ min: -1.7, max: 1.7, noNaN: true });
const vector = fc.tuple(part, part, part) as fc.Arbitrary<[number, number, number]>;
const turn = vector.filter((w) => length(w) > 1e-3 && length(w) < Math.PI - 1e-3);

const quaternionOf = (w: Vec3): Quaternion => new Quaternion().setFromAxisAngle(new Vector3(...w).normalize(), length(w));
const turned = (q: Quaternion, v: Vec3): Vec3 => new Vector3(...v).applyQuaternion(q).toArray() as Vec3;
const near = (a: Vec3, b: Vec3): void => {
  for (const i of [0, 1, 2] as const) expect(a[i]).toBeCloseTo(b[i], 9);
};
const quaternionFrom = (m: Mat3): Quaternion =>
  new Quaternion().setFromRotationMatrix(new Matrix4().set(m[0], m[1], m[2], 0, m[3], m[4], m[5], 0, m[6], m[7], m[8], 0, 0, 0, 0, 1));

describe('rotations agree with three.js', () => {
  it('turning a vector, there and back', () => {
    fc.assert(
      fc.property(turn, vector, (w, v) => {
        near(rotate(fromRotationVector(w), v), turned(quaternionOf(w), v));
        near(rotateBack(fromRotationVector(w), v), turned(quaternionOf(w).invert(), v));
      }),
    );
  });

  it('one turn after another: the right one first', () => {
    fc.assert(
      fc.property(turn, turn, vector, (a, b, v) => {
        near(rotate(multiply(fromRotationVector(a), fromRotationVector(b)), v), turned(quaternionOf(a).multiply(quaternionOf(b)), v));
      }),
    );
  });

  it('axis and angle of a matrix, and the angle between two', () => {
    fc.assert(
      fc.property(turn, turn, (a, b) => {
        const q = quaternionFrom(fromRotationVector(a));
        const s = Math.sqrt(Math.max(0, 1 - q.w ** 2));
        const w = toRotationVector(fromRotationVector(a));
        const sign = q.w < 0 ? -1 : 1;
        expect(length(w)).toBeCloseTo(2 * Math.acos(Math.min(1, Math.abs(q.w))), 6);
        near(normalize(w), [(sign * q.x) / s, (sign * q.y) / s, (sign * q.z) / s]);
        expect(rotationDistance(fromRotationVector(a), fromRotationVector(b))).toBeCloseTo(quaternionOf(a).angleTo(quaternionOf(b)), 6);
      }),
    );
  });

  it('a frame built from two axes', () => {
    fc.assert(
      fc.property(vector, vector, (x, y) => {
        fc.pre(length(cross(x, y)) > 1e-2);
        const [u, n] = [new Vector3(...x).normalize(), new Vector3(...x).cross(new Vector3(...y)).normalize()];
        const frame = new Matrix4().makeBasis(u, new Vector3().crossVectors(n, u), n);
        const m = fromAxes(x, y);
        near(rotate(m, [1, 2, 3]), new Vector3(1, 2, 3).applyMatrix4(frame).toArray() as Vec3);
      }),
    );
  });
});

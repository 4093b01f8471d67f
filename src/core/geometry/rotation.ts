import { cross, normalize, subtract, type Vec3 } from './vec3';

/** Rotation matrix, row by row. */
export type Mat3 = readonly [number, number, number, number, number, number, number, number, number];

export const rotate = (m: Mat3, v: Vec3): Vec3 => [m[0] * v[0] + m[1] * v[1] + m[2] * v[2], m[3] * v[0] + m[4] * v[1] + m[5] * v[2], m[6] * v[0] + m[7] * v[1] + m[8] * v[2]];

/** m transposed times v: from the outer frame back to the inner one. */
export const rotateBack = (m: Mat3, v: Vec3): Vec3 => [m[0] * v[0] + m[3] * v[1] + m[6] * v[2], m[1] * v[0] + m[4] * v[1] + m[7] * v[2], m[2] * v[0] + m[5] * v[1] + m[8] * v[2]];

export const transpose = (m: Mat3): Mat3 => [m[0], m[3], m[6], m[1], m[4], m[7], m[2], m[5], m[8]];

export function multiply(a: Mat3, b: Mat3): Mat3 {
  const out = new Array<number>(9);
  for (let r = 0; r < 3; r++) {
    for (let c = 0; c < 3; c++) {
      out[3 * r + c] = a[3 * r]! * b[c]! + a[3 * r + 1]! * b[3 + c]! + a[3 * r + 2]! * b[6 + c]!;
    }
  }
  return out as unknown as Mat3;
}

/** Rotation by |w| radians about the axis w (Rodrigues' formula). */
export function fromRotationVector(w: Vec3): Mat3 {
  const angle = Math.hypot(w[0], w[1], w[2]);
  // Series near zero keeps the derivative exact for small steps of a solver.
  const a = angle < 1e-6 ? 1 - (angle * angle) / 6 : Math.sin(angle) / angle;
  const b = angle < 1e-6 ? 0.5 - (angle * angle) / 24 : (1 - Math.cos(angle)) / (angle * angle);
  const [x, y, z] = w;
  return [
    1 - b * (y * y + z * z),
    b * x * y - a * z,
    b * x * z + a * y,
    b * x * y + a * z,
    1 - b * (x * x + z * z),
    b * y * z - a * x,
    b * x * z - a * y,
    b * y * z + a * x,
    1 - b * (x * x + y * y),
  ];
}

/** Inverse of {@link fromRotationVector}: axis times angle in radians, angle in 0..pi. */
export function toRotationVector(m: Mat3): Vec3 {
  const v: Vec3 = [m[7] - m[5], m[2] - m[6], m[3] - m[1]];
  const s = Math.hypot(v[0], v[1], v[2]) / 2;
  const c = (m[0] + m[4] + m[8] - 1) / 2;
  const angle = Math.atan2(s, c);
  if (s > 1e-9) return [(v[0] * angle) / (2 * s), (v[1] * angle) / (2 * s), (v[2] * angle) / (2 * s)];
  if (c > 0) return [v[0] / 2, v[1] / 2, v[2] / 2];
  // Half a turn: the axis is the strongest column of (m + 1) / 2.
  const d = [m[0], m[4], m[8]];
  const k = d.indexOf(Math.max(...d));
  const axis = normalize([m[k]! + (k === 0 ? 1 : 0), m[3 + k]! + (k === 1 ? 1 : 0), m[6 + k]! + (k === 2 ? 1 : 0)]);
  return [axis[0] * Math.PI, axis[1] * Math.PI, axis[2] * Math.PI];
}

/** Angle between two rotations in radians. */
export function rotationDistance(a: Mat3, b: Mat3): number {
  const w = toRotationVector(multiply(a, transpose(b)));
  return Math.hypot(w[0], w[1], w[2]);
}

/** Rotation whose columns are the axes x and y (made orthogonal to x) and z = x cross y. */
export function fromAxes(x: Vec3, y: Vec3): Mat3 {
  const ex = normalize(x);
  const k = ex[0] * y[0] + ex[1] * y[1] + ex[2] * y[2];
  const ey = normalize(subtract(y, [k * ex[0], k * ex[1], k * ex[2]]));
  const ez = cross(ex, ey);
  return [ex[0], ey[0], ez[0], ex[1], ey[1], ez[1], ex[2], ey[2], ez[2]];
}

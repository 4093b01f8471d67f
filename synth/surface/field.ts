import type { Vec3 } from '../../src/core/geometry/vec3';

/** A solid as a function of place: negative inside, near its surface about the distance in mm. */
export type Field = (x: number, y: number, z: number) => number;

/** A segment whose radius runs evenly from `ra` at `a` to `rb` at `b`, with round ends. */
export function roundCone(a: Vec3, b: Vec3, ra: number, rb: number): Field {
  const [ax, ay, az] = a;
  const bx = b[0] - ax;
  const by = b[1] - ay;
  const bz = b[2] - az;
  const n = 1 / Math.max(1e-9, bx * bx + by * by + bz * bz);
  const dr = rb - ra;
  return (x, y, z) => {
    const px = x - ax;
    const py = y - ay;
    const pz = z - az;
    let h = (px * bx + py * by + pz * bz) * n;
    h = Math.max(0, Math.min(1, h));
    const dx = px - bx * h;
    const dy = py - by * h;
    const dz = pz - bz * h;
    return Math.sqrt(dx * dx + dy * dy + dz * dz) - ra - dr * h;
  };
}

/** Joined round cones through points with a radius at each. */
export function chain(points: readonly Vec3[], radii: readonly number[], k = 0): Field {
  return union(
    points.slice(1).map((p, i) => roundCone(points[i]!, p, radii[i]!, radii[i + 1]!)),
    k,
  );
}

export function ball(c: Vec3, r: number): Field {
  const [cx, cy, cz] = c;
  return (x, y, z) => Math.sqrt((x - cx) ** 2 + (y - cy) ** 2 + (z - cz) ** 2) - r;
}

/** An ellipsoid along the axes; the distance is exact on the surface and near enough about it. */
export function ellipsoid(c: Vec3, r: Vec3): Field {
  const [cx, cy, cz] = c;
  const [ix, iy, iz] = [1 / r[0], 1 / r[1], 1 / r[2]];
  return (x, y, z) => {
    const a = (x - cx) * ix;
    const b = (y - cy) * iy;
    const d = (z - cz) * iz;
    const k0 = Math.sqrt(a * a + b * b + d * d);
    const k1 = Math.sqrt(a * a * ix * ix + b * b * iy * iy + d * d * iz * iz);
    return k1 < 1e-9 ? -Math.min(...r) : (k0 * (k0 - 1)) / k1;
  };
}

/** Half space on the side the normal points away from. */
export function halfSpace(at: Vec3, normal: Vec3): Field {
  const d = at[0] * normal[0] + at[1] * normal[1] + at[2] * normal[2];
  return (x, y, z) => x * normal[0] + y * normal[1] + z * normal[2] - d;
}

/** Smooth minimum: the fillet between two solids is about `k` mm wide. */
export const smoothMin = (a: number, b: number, k: number): number => {
  if (k <= 0) return Math.min(a, b);
  const h = k - Math.abs(a - b);
  return Math.min(a, b) - (h > 0 ? (h * h) / (4 * k) : 0);
};

export const smoothMax = (a: number, b: number, k: number): number => -smoothMin(-a, -b, k);

export function union(fields: readonly Field[], k = 0): Field {
  return (x, y, z) => {
    let d = fields[0]!(x, y, z);
    for (let i = 1; i < fields.length; i++) d = smoothMin(d, fields[i]!(x, y, z), k);
    return d;
  };
}

export const join =
  (a: Field, b: Field, k: number): Field =>
  (x, y, z) =>
    smoothMin(a(x, y, z), b(x, y, z), k);
export const carve =
  (a: Field, b: Field, k = 0): Field =>
  (x, y, z) =>
    smoothMax(a(x, y, z), -b(x, y, z), k);
export const meet =
  (a: Field, b: Field, k = 0): Field =>
  (x, y, z) =>
    smoothMax(a(x, y, z), b(x, y, z), k);
export const inflate =
  (a: Field, by: number): Field =>
  (x, y, z) =>
    a(x, y, z) - by;

/** A field that is the same on both sides of x = 0, given for x >= 0. */
export const mirrored =
  (a: Field): Field =>
  (x, y, z) =>
    a(Math.abs(x), y, z);

/** Unit normal of the surface through or near a place. */
export function gradient(field: Field, x: number, y: number, z: number, step = 0.5): Vec3 {
  const gx = field(x + step, y, z) - field(x - step, y, z);
  const gy = field(x, y + step, z) - field(x, y - step, z);
  const gz = field(x, y, z + step) - field(x, y, z - step);
  const n = Math.hypot(gx, gy, gz) || 1;
  return [gx / n, gy / n, gz / n];
}

const hash = (x: number, y: number, z: number, seed: number): number => {
  let h = Math.imul(x, 374761393) ^ Math.imul(y, 668265263) ^ Math.imul(z, 2147483647) ^ Math.imul(seed, 1274126177);
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
};

/** Smooth noise of space, -1..1, features about one unit wide. */
export function noise(x: number, y: number, z: number, seed: number): number {
  const xi = Math.floor(x);
  const yi = Math.floor(y);
  const zi = Math.floor(z);
  const ease = (t: number) => t * t * (3 - 2 * t);
  const fx = ease(x - xi);
  const fy = ease(y - yi);
  const fz = ease(z - zi);
  let sum = 0;
  for (let i = 0; i < 8; i++) {
    const [dx, dy, dz] = [i & 1, (i >> 1) & 1, i >> 2];
    sum += hash(xi + dx, yi + dy, zi + dz, seed) * (dx ? fx : 1 - fx) * (dy ? fy : 1 - fy) * (dz ? fz : 1 - fz);
  }
  return 2 * sum - 1;
}

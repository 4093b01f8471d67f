/** Three-dimensional vectors as plain tuples. Lengths in millimetres unless a caller says otherwise. */
export type Vec3 = readonly [number, number, number];
/** A point of the picture in pixels: origin at the top left corner, x right, y down. */
export type Vec2 = readonly [number, number];

export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
export const subtract = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
export const scale = (a: Vec3, k: number): Vec3 => [a[0] * k, a[1] * k, a[2] * k];
/** a + k b */
export const addScaled = (a: Vec3, b: Vec3, k: number): Vec3 => [a[0] + k * b[0], a[1] + k * b[1], a[2] + k * b[2]];
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
export const cross = (a: Vec3, b: Vec3): Vec3 => [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
export const length = (a: Vec3): number => Math.hypot(a[0], a[1], a[2]);
export const distance = (a: Vec3, b: Vec3): number => length(subtract(a, b));
export const mix = (a: Vec3, b: Vec3, k: number): Vec3 => addScaled(scale(a, 1 - k), b, k);

/** @throws RangeError when the vector has no direction. */
export function normalize(a: Vec3): Vec3 {
  const n = length(a);
  if (!(n > 0)) throw new RangeError('a vector of length zero has no direction');
  return scale(a, 1 / n);
}

export const DEGREES = 180 / Math.PI;
export const RADIANS = Math.PI / 180;

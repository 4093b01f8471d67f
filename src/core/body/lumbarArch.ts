import { type Camera, project, ray } from '../geometry/camera';
import { addScaled, dot, length, normalize, subtract, type Vec2, type Vec3 } from '../geometry/vec3';
import type { Measured } from '../measures/measures';

/** Three points of the back's outline as it is seen from the side. */
export const BACK_POINTS = ['upper', 'small', 'seat'] as const;
export type BackPoint = (typeof BACK_POINTS)[number];

/** The view must be so much from the side: sine of the angle between where the chest looks and where the camera does (ours). */
const FROM_THE_SIDE = 0.75;
/** How well a point of an outline is placed along the chest's direction, share of the line from between the shoulder blades to the seat (ours). */
const PLACED = 0.015;
/** How well the trunk's turn is known, radians (ours). */
const TURN_SIGMA = 0.25;

/**
 * How deep the small of the back lies before the straight line from between the shoulder blades to the seat, as a share
 * of that line: about 0.07 at ease, more = hollow. `ahead` is where the chest looks, a level unit vector; mm.
 */
export function lumbarArch(back: Readonly<Record<BackPoint, Vec3>>, ahead: Vec3): number {
  const line = subtract(back.seat, back.upper);
  const down = normalize(line);
  const out = subtract(back.small, back.upper);
  return dot(addScaled(out, down, -dot(out, down)), ahead) / length(line);
}

/**
 * The same from a picture: points of the outline in px, `ahead` and `up` in the camera's axes, `trunk` a place in the
 * trunk (mm, camera axes). Undefined where the player is not seen from the side.
 */
export function lumbarArchSeen(camera: Camera, points: Readonly<Record<BackPoint, Vec2>>, ahead: Vec3, up: Vec3, trunk: Vec3): Measured | undefined {
  const view = normalize(ray(camera, [(points.upper[0] + points.seat[0]) / 2, (points.upper[1] + points.seat[1]) / 2]));
  const side = Math.sqrt(Math.max(0, 1 - dot(ahead, view) ** 2));
  if (side < FROM_THE_SIDE) return undefined;
  const [from, to] = [project(camera, trunk), project(camera, addScaled(trunk, ahead, 100))];
  if (!from || !to) return undefined;
  const forward: Vec2 = unit([to[0] - from[0], to[1] - from[1]]);
  const line: Vec2 = [points.seat[0] - points.upper[0], points.seat[1] - points.upper[1]];
  const size = Math.hypot(...line);
  if (size < 1) return undefined;
  const down = unit(line);
  const out: Vec2 = [points.small[0] - points.upper[0], points.small[1] - points.upper[1]];
  const along = out[0] * down[0] + out[1] * down[1];
  const depth = (out[0] - along * down[0]) * forward[0] + (out[1] - along * down[1]) * forward[1];
  const upright = Math.sqrt(Math.max(0.2, 1 - dot(up, view) ** 2));
  const value = ((depth / size) * upright) / side;
  const tilt = (Math.sqrt(1 - side * side) / side) * TURN_SIGMA;
  return { value, u: Math.hypot((PLACED * Math.sqrt(1.5) * upright) / side, value * tilt) };
}

const unit = ([x, y]: Vec2): Vec2 => [x / Math.hypot(x, y), y / Math.hypot(x, y)];

import { ray } from '../geometry/camera';
import { type Pose, toInner } from '../geometry/pose';
import { rotateBack } from '../geometry/rotation';
import { add, addScaled, cross, DEGREES, dot, normalize, RADIANS, subtract, type Vec2, type Vec3 } from '../geometry/vec3';
import { type BowState, hairDirection, overString } from './bowState';
import type { BowContext } from './residuals';

/** An end of the hair whose place in the picture is known. */
export interface KnownEnd {
  readonly which: 'frog' | 'tip';
  readonly point: Vec2;
}

/** The end that is known when only one is marked; the tip where both are. */
export const knownEnd = (frog: Vec2 | undefined, tip: Vec2 | undefined): KnownEnd | undefined =>
  tip ? { which: 'tip', point: tip } : frog ? { which: 'frog', point: frog } : undefined;

/** Lines seen along which the string runs nearly (sine of the angle) do not tell where it is crossed. */
const PARALLEL = 0.02;

/**
 * The bow that lies on a string at a given inclination (degrees) and is seen along the image line through two
 * places (frog side first), with one end of the hair seen at a place on that line. Closed form: hair, eye and image line share a plane.
 * @returns undefined where the line does not cross the string, or the view is along it.
 */
export function stateOnLine(context: BowContext, pose: Pose, line: readonly [Vec2, Vec2], string: number, inclinationDeg: number, end: KnownEnd): BowState | undefined {
  const { camera, side, hair } = context;
  const eye = toInner(pose, [0, 0, 0]);
  const sight = (p: Vec2): Vec3 => rotateBack(pose.rotation, ray(camera, p));
  const plane = normalize(cross(sight(line[0]), sight(line[1])));
  const { bridge, nut } = context.strings[string]!;
  const d = normalize(subtract(nut, bridge));
  const slope = dot(plane, d);
  if (Math.abs(slope) < PARALLEL) return undefined;
  if (Math.abs(plane[0]) < PARALLEL) return undefined;
  // hairDirection is along (tan skew, s, -s tan inclination) and square to the plane's normal.
  const skew = Math.atan((-side * (plane[1] - plane[2] * Math.tan(inclinationDeg * RADIANS))) / plane[0]) * DEGREES;
  const b = hairDirection(skew, inclinationDeg, side);
  const over = overString(b, context.strings[string]!);
  const along = dot(plane, subtract(eye, add(bridge, over))) / slope;
  const onHair = add(addScaled(bridge, d, along), over);
  // Place on the hair nearest the sight line of the seen end.
  const v = normalize(sight(end.point));
  const w = subtract(onHair, eye);
  const bv = dot(b, v);
  const slant = 1 - bv * bv;
  if (slant < PARALLEL * PARALLEL) return undefined;
  const at = (bv * dot(w, v) - dot(w, b)) / slant;
  return { contact: bridge[0] + d[0] * along, skew, inclination: inclinationDeg, position: end.which === 'frog' ? -at / hair : 1 - at / hair };
}

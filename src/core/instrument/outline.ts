import { LOWER_CORNER, UPPER_CORNER } from './body';

/**
 * Outline of a full-size violin's plate, low half, as (u, half-width) from the upper end over the upper
 * corner, waist and lower corner to the lower end. u in mm from the bridge toward the scroll. Bouts of
 * 168 / 112 / 208 mm, 195 mm above and 161 mm below the bridge (from memory, lutherie common practice);
 * the curve between is ours.
 */
export type OutlinePoint = readonly [u: number, halfWidth: number];

type Cubic = readonly [OutlinePoint, OutlinePoint, OutlinePoint, OutlinePoint];

const CURVES: readonly Cubic[] = [
  [
    [195, 0],
    [195, 30],
    [194, 48],
    [182, 62],
  ],
  [
    [182, 62],
    [171, 76],
    [158, 84],
    [143, 84],
  ],
  [
    [143, 84],
    [118, 84],
    [98, 77],
    [88, 74],
  ],
  [
    [88, 74],
    [80, 74],
    [75, 76],
    [UPPER_CORNER.u, UPPER_CORNER.y],
  ],
  [
    [UPPER_CORNER.u, UPPER_CORNER.y],
    [61, 70],
    [53, 56],
    [30, 56],
  ],
  [
    [30, 56],
    [8, 56],
    [-7, 72],
    [LOWER_CORNER.u, LOWER_CORNER.y],
  ],
  [
    [LOWER_CORNER.u, LOWER_CORNER.y],
    [-18, 89],
    [-23, 90],
    [-30, 94],
  ],
  [
    [-30, 94],
    [-42, 99],
    [-58, 104],
    [-78, 104],
  ],
  [
    [-78, 104],
    [-112, 104],
    [-140, 88],
    [-152, 58],
  ],
  [
    [-152, 58],
    [-159, 40],
    [-161, 20],
    [-161, 0],
  ],
];

function along(curve: Cubic, t: number): OutlinePoint {
  const k = 1 - t;
  const f = (i: 0 | 1) => k * k * k * curve[0][i] + 3 * k * k * t * curve[1][i] + 3 * k * t * t * curve[2][i] + t * t * t * curve[3][i];
  return [f(0), f(1)];
}

/** Points along the low half from the upper to the lower end, `perCurve` a curve. */
export function halfOutline(perCurve = 6): OutlinePoint[] {
  const points: OutlinePoint[] = [];
  for (const curve of CURVES) {
    for (let i = 0; i < perCurve; i++) points.push(along(curve, i / perCurve));
  }
  points.push([-161, 0]);
  return points;
}

const TABLE = halfOutline(24);
const LOWEST = -161;

/** For every millimetre of u from {@link LOWEST} on, the stretches of the table that pass through it: corners overhang, so there are up to three. */
const STRETCHES: readonly (readonly number[])[] = (() => {
  const out: number[][] = [];
  for (let i = 1; i < TABLE.length; i++) {
    const [u0, u1] = [TABLE[i - 1]![0], TABLE[i]![0]];
    for (let mm = Math.floor(Math.min(u0, u1)); mm <= Math.floor(Math.max(u0, u1)); mm++) {
      out[mm - LOWEST] ??= [];
      out[mm - LOWEST]!.push(i);
    }
  }
  return out;
})();

/** Half width of the plate at u by the outermost crossing; 0 beyond its ends. */
export function halfWidthAt(u: number): number {
  let widest = 0;
  for (const i of STRETCHES[Math.floor(u) - LOWEST] ?? []) {
    const [u0, w0] = TABLE[i - 1]!;
    const [u1, w1] = TABLE[i]!;
    if ((u - u0) * (u - u1) <= 0 && u0 !== u1) widest = Math.max(widest, w0 + ((w1 - w0) * (u - u0)) / (u1 - u0));
  }
  return widest;
}

/** Height of the arched top above the edge plane at (u, y), full-size violin; arching of 15 mm (from memory), shape ours. */
export function archAt(u: number, y: number): number {
  const half = halfWidthAt(u);
  if (half <= 0) return 2;
  const across = Math.min(1, Math.abs(y) / half);
  const long = u > 17 ? (u - 17) / 178 : (17 - u) / 178;
  const crown = 13 * (1 - Math.min(1, long) ** 2.6);
  return 2 + crown * Math.cos((across * Math.PI) / 2) ** 1.5;
}

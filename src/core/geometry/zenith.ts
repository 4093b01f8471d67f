import { type Camera, ray } from './camera';
import { add, addScaled, cross, DEGREES, dot, normalize, RADIANS, scale, type Vec2, type Vec3 } from './vec3';

/** A straight line of the picture that may be the image of a plumb line: a door's edge, a shelf's side. */
export interface ImageSegment {
  readonly a: Vec2;
  readonly b: Vec2;
}

/** Direction opposite to gravity in the camera frame. */
export interface Zenith {
  readonly direction: Vec3;
  /** Standard uncertainty of the direction, the worse way, degrees. */
  readonly sigmaDeg: number;
  /** Where one way is less sure than the other: what to add to the direction for a standard deviation each way, the two independent of each other. */
  readonly tilts?: readonly [Vec3, Vec3];
}

/** Standard uncertainty of a number that hangs on up, to first order. */
export function sigmaByUp({ direction, sigmaDeg, tilts }: Zenith, value: (up: Vec3) => number): number {
  const aside = normalize(cross(direction, [0, 0, 1]));
  const here = value(direction);
  return Math.hypot(...(tilts ?? [aside, cross(direction, aside)].map((way) => scale(way, sigmaDeg * RADIANS))).map((tilt) => value(normalize(add(direction, tilt))) - here));
}

/**
 * Up, so far alike unsure both ways, with the doubt of the focal length added (standard uncertainty of its logarithm): where upright
 * lines meet in the picture is told by the picture alone, but how far the camera looks down by that and the focal length.
 */
export function withFocalDoubt({ direction, sigmaDeg }: Omit<Zenith, 'tilts'>, logFocalSigma: number): Zenith {
  // The lines meet where (x, y) / z times the focal length says: with them fixed, the angle turns by its sine times its cosine.
  const byFocal = Math.abs(direction[2]) * Math.hypot(direction[0], direction[1]) * logFocalSigma * DEGREES;
  const aside = normalize(cross(direction, [0, 0, 1]));
  const worst = Math.hypot(sigmaDeg, byFocal);
  return { direction, sigmaDeg: worst, tilts: [scale(aside, sigmaDeg * RADIANS), scale(cross(direction, aside), worst * RADIANS)] };
}

/** Standard uncertainty of up in the mean of both ways, degrees. */
export const meanSigmaDeg = ({ sigmaDeg, tilts }: Zenith): number => (tilts ? Math.sqrt((dot(tilts[0], tilts[0]) + dot(tilts[1], tilts[1])) / 2) * DEGREES : sigmaDeg);

/** Phones are held nearly upright and look from level to steeply down (degrees; ours). */
const MOST_ROLL = 18;
const TILTS = [-20, 60] as const;
/** and mostly upright within so much (degrees, 1 sigma; ours): an arm and a bow that lean alike are then no door. */
const USUAL_ROLL = 10;
/** Boards of a floor run away from the camera: a direction so far from up that more lines point to than to it (degrees, ours). */
const AWAY = 50;
/** A segment belongs to the vertical lines if it points to their vanishing point within this angle (degrees, ours). */
const INLIER_DEG = 1.2;
/** Together they must be so long, as a share of the picture's height, and stand so far apart, as a share of its width (ours). */
const LEAST_LENGTH = 0.7;
const LEAST_SPREAD = 0.15;
const LEAST_SEGMENTS = 3;
/** The direction of one segment errs by about this many pixels at its ends (ours). */
const END_SIGMA = 0.5;
/** Segments whose planes lie this near each other are pieces of one line (degrees, ours). */
const ONE_LINE_DEG = 0.6;
/** What is not told without a line may be off by this, for what hangs on it (degrees, ours: as phones are tilted). */
const HALF_KNOWN = 15;
/** What lenses and rooms that are not quite square leave (degrees, ours). */
const FLOOR_DEG = 0.4;

/** Plane through the eye and an image segment, as its unit normal: square to the segment's direction in space. */
export const planeOf = (camera: Camera, s: ImageSegment): Vec3 => normalize(cross(ray(camera, s.a), ray(camera, s.b)));

/** Angle between two unit vectors, degrees. */
const angleBetween = (a: Vec3, b: Vec3): number => Math.acos(Math.max(-1, Math.min(1, dot(a, b)))) * DEGREES;

const rollOf = (up: Vec3): number => Math.atan2(up[0], -up[1]) * DEGREES;

const plausible = (up: Vec3): boolean => {
  const roll = rollOf(up);
  const tilt = Math.asin(Math.max(-1, Math.min(1, -up[2]))) * DEGREES;
  return Math.abs(roll) <= MOST_ROLL && tilt >= TILTS[0] && tilt <= TILTS[1];
};

/** Angle (degrees) between a segment and the image of the vertical through its middle. */
function missOf(camera: Camera, s: ImageSegment, up: Vec3): number {
  const m: Vec2 = [(s.a[0] + s.b[0]) / 2, (s.a[1] + s.b[1]) / 2];
  const r = ray(camera, m);
  // Image motion of the point at m when it moves up a little.
  const vx = up[0] - r[0] * up[2];
  const vy = up[1] - r[1] * up[2];
  const sx = s.b[0] - s.a[0];
  const sy = s.b[1] - s.a[1];
  const miss = Math.abs(Math.atan2(vx * sy - vy * sx, vx * sx + vy * sy) * DEGREES);
  return Math.min(miss, 180 - miss);
}

const lengthOf = (s: ImageSegment) => Math.hypot(s.b[0] - s.a[0], s.b[1] - s.a[1]);

/** The direction to which most of the segments point, by their length: of every two where they meet, if that is allowed. */
function bestDirection(
  camera: Camera,
  lines: readonly ImageSegment[],
  weight: (s: ImageSegment) => number,
  worth: (direction: Vec3) => number,
): { up: Vec3; score: number } | undefined {
  const planes = lines.map((s) => planeOf(camera, s));
  let best: { up: Vec3; score: number } | undefined;
  for (let i = 0; i < lines.length; i++) {
    for (let j = i + 1; j < lines.length; j++) {
      const c = cross(planes[i]!, planes[j]!);
      if (Math.hypot(...c) < 1e-3) continue;
      const n = normalize(c);
      const up = n[1] < 0 ? n : scale(n, -1);
      const share = worth(up);
      if (share === 0) continue;
      let score = 0;
      for (const s of lines) if (missOf(camera, s, up) < INLIER_DEG) score += share * weight(s);
      if (!best || score > best.score) best = { up, score };
    }
  }
  return best;
}

/**
 * Up from the lines of a room: the vanishing point on which most near-vertical segments agree (every pair is
 * tried), then least squares over those. What points to another vanishing point with more lines, as a floor's boards
 * do, is left out. `plumb` lines were marked as vertical by hand and always belong.
 * @returns undefined where the picture shows too few vertical lines to be sure.
 */
export function zenithOf(camera: Camera, segments: readonly ImageSegment[], plumb: readonly ImageSegment[] = []): Zenith | undefined {
  const steep = segments.filter((s) => Math.abs(s.b[0] - s.a[0]) < Math.abs(s.b[1] - s.a[1])).sort((x, y) => lengthOf(y) - lengthOf(x));
  const weight = (s: ImageSegment) => (plumb.includes(s) ? 3 : 1) * Math.min(lengthOf(s), camera.height / 3);
  const likely = (up: Vec3) => (plausible(up) && plumb.every((s) => missOf(camera, s, up) <= 2 * INLIER_DEG) ? Math.exp(-0.5 * (rollOf(up) / USUAL_ROLL) ** 2) : 0);
  const search = (among: readonly ImageSegment[]) => bestDirection(camera, among, weight, likely);
  let lines = [...plumb, ...steep.slice(0, 60)];
  let best = search(lines);
  if (!best) return undefined;
  const [first, cosine] = [best, Math.cos(AWAY / DEGREES)];
  const other = bestDirection(camera, lines, weight, (d) => (Math.abs(dot(d, first.up)) < cosine ? 1 : 0));
  if (other && other.score > best.score) {
    lines = lines.filter((s) => plumb.includes(s) || missOf(camera, s, other.up) >= INLIER_DEG);
    best = search(lines);
    if (!best) return undefined;
  }
  const weighed = lines.map((s) => ({ plane: planeOf(camera, s), length: lengthOf(s) }));
  const picked = (at: readonly number[]) => at.map((i) => weighed[i]!);
  let fit: UpFit = { up: best.up, spread: 0 };
  let inliers: number[] = [];
  for (let round = 0; round < 5; round++) {
    inliers = lines.flatMap((s, i) => (missOf(camera, s, fit.up) < INLIER_DEG ? [i] : []));
    const next = squareTo(picked(inliers), fit.up);
    if (!next) return undefined;
    fit = next;
  }
  const total = inliers.reduce((sum, i) => sum + lengthOf(lines[i]!), 0);
  const xs = inliers.map((i) => (lines[i]!.a[0] + lines[i]!.b[0]) / 2);
  if (inliers.length < LEAST_SEGMENTS || total < LEAST_LENGTH * camera.height) return undefined;
  if (Math.max(...xs) - Math.min(...xs) < LEAST_SPREAD * camera.width) return undefined;
  const alone = leftOutSpread(picked(inliers), fit.up);
  return { direction: fit.up, sigmaDeg: Math.hypot(FLOOR_DEG, Math.max(2 * fit.spread, alone)) };
}

interface WeighedPlane {
  readonly plane: Vec3;
  /** Pixels. */
  readonly length: number;
}

interface UpFit {
  readonly up: Vec3;
  /** Standard uncertainty in the worse of both directions, degrees, if the planes err by their ends alone. */
  readonly spread: number;
}

/** The direction near `near` that lies in all planes as well as can be; undefined where they do not tell. */
function squareTo(planes: readonly WeighedPlane[], near: Vec3): UpFit | undefined {
  const along = normalize(cross(near, [0, 0, 1]));
  const across = cross(near, along);
  let a11 = 1e-9;
  let a12 = 0;
  let a22 = 1e-9;
  let b1 = 0;
  let b2 = 0;
  for (const { plane, length } of planes) {
    // Plane normals err by the ends' error over the segment's length.
    const w = (length / (END_SIGMA * Math.SQRT2)) ** 2;
    const [u, v, e] = [dot(plane, along), dot(plane, across), dot(plane, near)];
    a11 += w * u * u;
    a12 += w * u * v;
    a22 += w * v * v;
    b1 -= w * u * e;
    b2 -= w * v * e;
  }
  const det = a11 * a22 - a12 * a12;
  if (!(det > 0)) return undefined;
  return {
    up: normalize(addScaled(addScaled(near, along, (a22 * b1 - a12 * b2) / det), across, (a11 * b2 - a12 * b1) / det)),
    spread: Math.sqrt((a11 + a22 + Math.hypot(a11 - a22, 2 * a12)) / 2 / det) * DEGREES,
  };
}

/**
 * How far up moves when one of the room's lines is left out (the jackknife's standard error, degrees): a line that is
 * none of the room's, on which all hangs, shows by it. Pieces of one line stand or fall together.
 */
function leftOutSpread(planes: readonly WeighedPlane[], up: Vec3): number {
  const groups: WeighedPlane[][] = [];
  for (const p of planes) {
    const group = groups.find((g) => Math.abs(dot(g[0]!.plane, p.plane)) > Math.cos(ONE_LINE_DEG / DEGREES));
    if (group) group.push(p);
    else groups.push([p]);
  }
  let sum = 0;
  for (const out of groups) {
    const without = squareTo(groups.filter((g) => g !== out).flat(), up);
    const away = without ? angleBetween(without.up, up) : HALF_KNOWN;
    sum += Math.min(HALF_KNOWN, away) ** 2;
  }
  return Math.sqrt(((groups.length - 1) / groups.length) * sum);
}

/** Mean of several frames' zeniths, those that disagree by more than `tolerance` degrees with the median left out. */
export function meanZenith(list: readonly Zenith[], tolerance = 3): Zenith | undefined {
  if (list.length === 0) return undefined;
  const medoid = list.reduce((best, z) => {
    const cost = (of: Zenith) => list.reduce((sum, o) => sum + Math.min(tolerance, angleBetween(of.direction, o.direction)), 0);
    return cost(z) < cost(best) ? z : best;
  });
  const near = list.filter((z) => angleBetween(z.direction, medoid.direction) <= tolerance);
  if (near.length < list.length / 2) return undefined;
  const sum = near.reduce<Vec3>((s, z) => addScaled(s, z.direction, 1 / z.sigmaDeg ** 2), [0, 0, 0]);
  const direction = normalize(sum);
  const scatter = Math.sqrt(near.reduce((s, z) => s + angleBetween(z.direction, direction) ** 2, 0) / near.length);
  return { direction, sigmaDeg: Math.hypot(Math.min(...near.map((z) => z.sigmaDeg)), scatter) };
}

import { linearFit } from '../linalg/linearFit';
import type { FrameMeasures, Measured } from '../measures/measures';
import { nearestIndex } from '../nearestIndex';

/** How early and how late an arm is looked for (seconds, ours). */
const EARLIEST = -0.4;
const LATEST = 0.4;
const STEP = 0.01;
/** Where only the fitted course of the arm is known, scatter closer than this is one (seconds: the time between looked-at pictures). */
const MEMORY = 0.2;
/** The inclination must cover so many degrees, or the arm's level follows nothing (ours: from one string's level to the next). */
const LEAST_RANGE = 10;
/** The level must follow the inclination by so much, in degrees a degree, to speak of early or late (ours). */
const LEAST_FOLLOWING = 0.15;
const LEAST_SIGHTINGS = 12;
/** So many crossings must have been watched: the arm seen so often within reach of a lag on either side. Else the course along the bow alone would tell the time (ours: invented once, at tip and frog, where the arm was straight and out of sight). */
const LEAST_WATCHED = 2;
const LEAST_BESIDE = 2;
/** A straight arm goes with the hand, whatever its player means: only a bent one shows when it is lifted. Degrees of the elbow's angle; where that is unknown, the share of the bow (ours). */
const BENT = 130;
const LOWER_BOW = 0.7;
/** Scatter of a well seen elbow's level, degrees; what lies far beyond is a lost arm and counts for little (ours, from renders of two renderers: 2 to 6, a lost arm 30). */
const SCATTER = 9;
/** A few sightings may fit by chance: they scatter by so much at least, degrees; and what is fitted to them. */
const LEAST_SCATTER = 3;
const UNKNOWNS = 6;
/** What the course of the bow adds, which no number of crossings averages away (seconds, ours: renders of two renderers were found at -0.03 to +0.01 of the truth). */
const LASTING = 0.025;
/** A lag this doubtful says nothing (seconds, ours). */
const LIMIT = 0.12;
const ROUNDS = 6;
/** A share of the weight at the first or last lag beyond which the lag may lie outside (ours). */
const MOST_AT_EDGE = 0.02;

/** Height of the upper arm at a moment, degrees (as upper_arm_elevation_deg). */
export interface ArmLevel {
  readonly t: number;
  readonly level: number;
}

/** What tells the arm's level of a take. */
export interface ArmCourse {
  readonly frames: readonly FrameMeasures[];
  /** The bow arm in the pictures that were looked at. */
  readonly arms?: readonly { readonly t: number; readonly seenLevel?: number }[] | undefined;
}

/**
 * The arm's level at the moments at which it was seen, each from its own picture: a smoothed course spreads a step
 * over half a second and draws it toward the bow's turns. Where no picture tells it, the course there is.
 */
export function armLevels({ frames, arms = [] }: ArmCourse): ArmLevel[] {
  const seen = arms.flatMap(({ t, seenLevel }) => (seenLevel === undefined ? [] : [{ t, level: seenLevel }]));
  if (seen.length > 0) return seen;
  return frames.flatMap((f) => (f.values.upper_arm_elevation_deg ? [{ t: f.t, level: f.values.upper_arm_elevation_deg.value }] : []));
}

/**
 * How much later the arm's level changes than the bow's, over a whole clip: seconds, + = the arm is late. The height
 * of the upper arm is fitted as a + b i + c p + d p^2 + e i p, i the inclination `lag` before and p the bow position,
 * for every lag, robustly, where the arm is bent; every lag counts by how well it explains the levels. Half-way
 * times of single crossings are too noisy for this. Undefined where the bow stays on one level or the arm is not known.
 */
export function armLag({ frames, arms }: ArmCourse): Measured | undefined {
  const course = courseOf(frames, 'inclination_deg');
  const positions = courseOf(frames, 'bow_position');
  if (course.length < LEAST_SIGHTINGS || positions.length < LEAST_SIGHTINGS) return undefined;
  const all = course.map((c) => c.v);
  if (Math.max(...all) - Math.min(...all) < LEAST_RANGE) return undefined;
  // The same moments for every lag, so that costs compare.
  const times = Float64Array.from(frames, (f) => f.t);
  const bent = (t: number) => {
    const { elbow_angle_deg: elbow, bow_position: position } = frames[nearestIndex(times, t)]!.values;
    return elbow ? elbow.value < BENT : position !== undefined && position.value < LOWER_BOW;
  };
  const inside = armLevels({ frames, arms })
    .filter(({ t }) => bent(t))
    .filter(({ t }) => t - LATEST >= course[0]!.t && t - EARLIEST <= course[course.length - 1]!.t)
    .map(({ t, level }) => ({ t, level, p: valueAt(positions, t) }));
  if (inside.length < LEAST_SIGHTINGS || watchedCrossings(frames, inside) < LEAST_WATCHED) return undefined;
  const lags = Array.from({ length: Math.round((LATEST - EARLIEST) / STEP) + 1 }, (_, i) => EARLIEST + i * STEP);
  const fits = lags.map((lag) => levelAfter(inside, course, lag));
  const told = fits.filter((f) => f !== undefined);
  if (told.length < lags.length) return undefined;
  const best = told.reduce((a, f) => (f.cost < a.cost ? f : a));
  if (Math.abs(best.following) < LEAST_FOLLOWING) return undefined;
  // Every lag weighs by how well it explains the levels; neighbouring moments err alike. One that fits best at the edge is none.
  const span = inside[inside.length - 1]!.t - inside[0]!.t;
  const pieces = Math.max(5, Math.min(inside.length, span / MEMORY));
  const variance = Math.max(LEAST_SCATTER ** 2, best.cost / (inside.length - UNKNOWNS)) * (inside.length / pieces);
  const weights = told.map((f) => Math.exp((best.cost - f.cost) / (2 * variance)));
  const whole = weights.reduce((a, b) => a + b, 0);
  if (weights[0]! + weights[weights.length - 1]! > whole * MOST_AT_EDGE) return undefined;
  const value = weights.reduce((sum, w, i) => sum + w * lags[i]!, 0) / whole;
  const u = Math.hypot(Math.sqrt(weights.reduce((sum, w, i) => sum + w * (lags[i]! - value) ** 2, 0) / whole), LASTING);
  return u < LIMIT ? { value, u } : undefined;
}

/** How many changes of string the arm was seen at, before and after. */
function watchedCrossings(frames: readonly FrameMeasures[], seen: readonly ArmLevel[]): number {
  const named = frames.filter((f) => f.string);
  const changes = named.flatMap((f, k) => (k > 0 && f.string !== named[k - 1]!.string ? [(f.t + named[k - 1]!.t) / 2] : []));
  const within = (from: number, to: number) => seen.filter(({ t }) => t >= from && t <= to).length >= LEAST_BESIDE;
  return changes.filter((t) => within(t + EARLIEST, t) && within(t, t + LATEST)).length;
}

const courseOf = (frames: readonly FrameMeasures[], quantity: 'inclination_deg' | 'bow_position'): Point[] =>
  frames.flatMap((f) => (f.values[quantity] ? [{ t: f.t, v: f.values[quantity].value }] : []));

interface Point {
  readonly t: number;
  readonly v: number;
}

/** Value of a course at a time, between its points. */
function valueAt(course: readonly Point[], t: number): number {
  let low = 0;
  let high = course.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (course[middle]!.t <= t) low = middle;
    else high = middle;
  }
  const [a, b] = [course[low]!, course[high]!];
  const share = b.t > a.t ? Math.min(1, Math.max(0, (t - a.t) / (b.t - a.t))) : 0;
  return a.v + (b.v - a.v) * share;
}

/** Robust least squares of the level for one lag (Cauchy's weights, a few rounds): cost and how far the level follows the inclination at mid-bow. */
function levelAfter(rows: readonly (ArmLevel & { p: number })[], course: readonly Point[], lag: number): { cost: number; following: number } | undefined {
  const terms = rows.map(({ t, p }) => {
    const i = valueAt(course, t - lag);
    return [1, i, p, p * p, i * p];
  });
  const levels = rows.map((r) => r.level);
  let weights = rows.map(() => 1);
  let misses: number[] = [];
  let x: Float64Array | undefined;
  for (let round = 0; round < ROUNDS; round++) {
    const solved = linearFit(terms, levels, weights);
    if (!solved) return undefined;
    x = solved;
    misses = terms.map((term, i) => (rows[i]!.level - term.reduce((v, q, j) => v + q * solved[j]!, 0)) / SCATTER);
    weights = misses.map((r) => 1 / (1 + r * r));
  }
  const cost = SCATTER ** 2 * misses.reduce((sum, r) => sum + Math.log1p(r * r), 0);
  return { cost, following: x![1]! + x![4]! / 2 };
}

import { choleskyFactor, choleskySolve } from '../linalg/cholesky';
import type { FrameMeasures, Measured } from '../measures/measures';

/** How early and how late an arm is looked for (seconds, ours). */
const EARLIEST = -0.3;
const LATEST = 0.4;
const STEP = 0.01;
/** The arm's course is known about so often (seconds: the time between looked-at frames); scatter closer than this is one. */
const MEMORY = 0.2;
/** The inclination must cover so many degrees, or the arm's level follows nothing (ours: from one string's level to the next). */
const LEAST_RANGE = 10;
/** The level must follow the inclination by so much, in degrees a degree, to speak of early or late (ours). */
const LEAST_FOLLOWING = 0.15;
const LEAST_FRAMES = 40;
/** What the smoothing of arm and bow adds, which no number of crossings averages away (seconds, ours: good players were found at -0.04 to +0.06). */
const LASTING = 0.03;
/** A lag this doubtful says nothing (seconds, ours). */
const LIMIT = 0.12;

/**
 * How much later the arm's level changes than the bow's, over a whole clip: seconds, + = the arm is late. The height
 * of the upper arm is fitted as a + b inclination(t - lag) + c p + d p^2, p the bow position, for every lag; the best
 * one stands. Half-way times of single crossings are too noisy for this. Undefined where the bow stays on one level or
 * the arm is not known.
 */
export function armLag(frames: readonly FrameMeasures[]): Measured | undefined {
  const rows = frames.flatMap((f) => {
    const arm = f.values.upper_arm_elevation_deg;
    const p = f.values.bow_position;
    return arm && p ? [{ t: f.t, level: arm.value, p: p.value }] : [];
  });
  if (rows.length < LEAST_FRAMES) return undefined;
  const course = frames.flatMap((f) => (f.values.inclination_deg ? [{ t: f.t, v: f.values.inclination_deg.value }] : []));
  if (course.length < LEAST_FRAMES) return undefined;
  const all = course.map((c) => c.v);
  if (Math.max(...all) - Math.min(...all) < LEAST_RANGE) return undefined;
  // The same frames for every lag, so that costs compare.
  const inside = rows.filter((r) => r.t - LATEST >= course[0]!.t && r.t - EARLIEST <= course[course.length - 1]!.t);
  if (inside.length < LEAST_FRAMES) return undefined;
  const lags = Array.from({ length: Math.round((LATEST - EARLIEST) / STEP) + 1 }, (_, i) => EARLIEST + i * STEP);
  const fits = lags.map((lag) => levelAfter(inside, course, lag));
  const best = fits.reduce((b, f, i) => (f && (b < 0 || f.cost < fits[b]!.cost) ? i : b), -1);
  if (best <= 0 || best >= lags.length - 1) return undefined;
  const [before, here, after] = [fits[best - 1], fits[best]!, fits[best + 1]];
  if (!before || !after || Math.abs(here.following) < LEAST_FOLLOWING) return undefined;
  const bend = before.cost - 2 * here.cost + after.cost;
  if (!(bend > 0)) return undefined;
  const value = lags[best]! + (STEP * (before.cost - after.cost)) / (2 * bend);
  // Chi squared rises by one a standard uncertainty; neighbouring frames err alike.
  const span = inside[inside.length - 1]!.t - inside[0]!.t;
  const pieces = Math.max(5, Math.min(inside.length, span / MEMORY));
  const variance = here.cost / inside.length;
  const curvature = (bend / STEP ** 2) * (pieces / inside.length);
  const u = Math.hypot(Math.sqrt((2 * variance) / curvature), LASTING);
  return u < LIMIT ? { value, u } : undefined;
}

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

/** Least squares of the level for one lag: cost and how far the level follows the inclination. */
function levelAfter(rows: readonly { t: number; level: number; p: number }[], course: readonly Point[], lag: number): { cost: number; following: number } | undefined {
  const n = 4;
  const a = new Float64Array(n * n);
  const b = new Float64Array(n);
  const terms = rows.map((r) => [1, valueAt(course, r.t - lag), r.p, r.p * r.p]);
  terms.forEach((term, i) => {
    for (let j = 0; j < n; j++) {
      b[j]! += term[j]! * rows[i]!.level;
      for (let k = 0; k < n; k++) a[j * n + k]! += term[j]! * term[k]!;
    }
  });
  for (let j = 0; j < n; j++) a[j * n + j]! += 1e-9 * (1 + a[j * n + j]!);
  try {
    const x = choleskySolve(choleskyFactor(a, n), n, b);
    const cost = terms.reduce((sum, term, i) => sum + (rows[i]!.level - term.reduce((v, q, j) => v + q * x[j]!, 0)) ** 2, 0);
    return { cost, following: x[1]! };
  } catch {
    return undefined;
  }
}

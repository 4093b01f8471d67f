import { linearFit } from '../linalg/linearFit';
import type { FrameMeasures, Measured } from '../measures/measures';
import { mean, quantile } from '../statistics';

/** Fewer frames than this in the take do not tell the arm's usual course, fewer in a stroke not its range (ours). */
const LEAST_FRAMES = 30;
const LEAST_IN_STROKE = 8;
/** What is not shared by a stroke's frames of the doubt in the arm's height (share, ours: over nine clips of two renderers truth lay within 2 u in 95 %). */
const OWN_SHARE = 0.42;
/** A number this doubtful says nothing: half of the band (degrees). */
const LIMIT = 5;

/**
 * How far the upper arm leaves its expected course in a stroke, degrees (5 to 95 %), for every stroke: the course is
 * that of the whole take, by the bow's level and its place, as a + b inclination + c p + d p^2. Undefined where the
 * arm was not measured, or not well enough.
 */
export function levelHolds(strokes: readonly { readonly first: number; readonly last: number }[], frames: readonly FrameMeasures[]): (Measured | undefined)[] {
  const known = frames.flatMap(({ values: { upper_arm_elevation_deg: arm, inclination_deg: level, bow_position: p } }, i) =>
    arm && level && p ? [{ i, arm, terms: [1, level.value, p.value, p.value ** 2] }] : [],
  );
  const nothing = strokes.map(() => undefined);
  if (known.length < LEAST_FRAMES) return nothing;
  const course = linearFit(
    known.map((k) => k.terms),
    known.map((k) => k.arm.value),
  );
  if (!course) return nothing;
  const off = known.map((k) => ({ ...k, off: k.arm.value - k.terms.reduce((sum, term, j) => sum + term * course[j]!, 0) }));
  return strokes.map(({ first, last }) => {
    const inside = off.filter(({ i }) => i >= first && i <= last);
    const u = OWN_SHARE * mean(inside.map((k) => k.arm.u));
    if (inside.length < LEAST_IN_STROKE || u > LIMIT) return undefined;
    const values = inside.map((k) => k.off);
    return { value: quantile(values, 0.95) - quantile(values, 0.05), u };
  });
}

import type { FrameMeasures, Measured, Quantity } from '../measures/measures';
import type { Stage } from '../rubric/rubric';
import { mean } from '../statistics';
import { type Stroke, THIRDS, type Third, thirdOf } from '../strokes/stroke';

/** An edge counts as passed only for so long in a stroke, seconds (ours). */
export const MIN_EXCESS_SECONDS = 0.2;
/** and by more than so many standard uncertainties (ours). */
export const MIN_EXCESS_U = 1;

/** A stretch of one stroke in which a quantity is beyond its fault edge. */
export interface Excess {
  readonly stroke: number;
  readonly from: number;
  readonly to: number;
  /** Mean over the stretch. */
  readonly value: Measured;
  /** Seconds in each third of the bow. */
  readonly seconds: Readonly<Record<Third, number>>;
}

/** Distance beyond an edge, + beyond. */
export type Beyond = (value: number) => number;

/**
 * The longest stretch per stroke in which `beyond(value) > u`. In the first term the last tenth of the bow
 * is not judged for the bow's direction (short arms). `within` keeps it to a part of the bow.
 */
export function excessesOf(
  frames: readonly FrameMeasures[],
  strokes: readonly Stroke[],
  quantity: Quantity,
  beyond: Beyond,
  stage: Stage,
  within?: readonly [number, number],
): Excess[] {
  const out: Excess[] = [];
  for (const [k, stroke] of strokes.entries()) {
    // The turn of the bow belongs half to the bow before and half to the one after: there the tip shows most.
    const first = halfWay(strokes[k - 1], stroke)?.to ?? stroke.first;
    const last = halfWay(stroke, strokes[k + 1])?.from ?? stroke.last;
    let run: FrameMeasures[] = [];
    let best: FrameMeasures[] = [];
    const close = () => {
      if (run.length > best.length) best = run;
      run = [];
    };
    for (let i = first; i <= last; i++) {
      const f = frames[i]!;
      const m = f.values[quantity];
      const p = f.values.bow_position?.value;
      const spared = stage === 'first-term' && quantity === 'skew_deg' && p !== undefined && p > 0.9;
      // Where the place on the bow is not known, it counts for rows that ask for most of the bow.
      const there = !within || (p === undefined ? within[1] - within[0] > 0.5 : p >= within[0] && p <= within[1]);
      if (m && there && !spared && beyond(m.value) > MIN_EXCESS_U * m.u) run.push(f);
      else close();
    }
    close();
    if (best.length < 2) continue;
    const from = best[0]!.t;
    const to = best[best.length - 1]!.t;
    const step = (to - from) / (best.length - 1);
    // Each frame stands for its own time too.
    if (to - from + step < MIN_EXCESS_SECONDS - 1e-6) continue;
    const seconds = { frog: 0, middle: 0, tip: 0 };
    for (const f of best) if (f.values.bow_position) seconds[thirdOf(f.values.bow_position.value)] += step;
    const values = best.map((f) => f.values[quantity]!);
    out.push({ stroke: stroke.index, from, to, value: { value: mean(values.map((v) => v.value)), u: mean(values.map((v) => v.u)) }, seconds });
  }
  return out;
}

/** A bow change without a stop takes no longer (seconds, ours). */
const LONGEST_TURN = 0.25;

/** Last frame that counts to the earlier of two strokes, and first that counts to the later; undefined where the bow stops between them. */
function halfWay(before: Stroke | undefined, after: Stroke | undefined): { from: number; to: number } | undefined {
  if (!before || !after || after.from - before.to > LONGEST_TURN) return undefined;
  const middle = Math.floor((before.last + after.first) / 2);
  return { from: middle, to: middle + 1 };
}

/** The third in which most of the excess lies, or `all` when none has more than three fifths of it (ours). */
export function dominantThird(excesses: readonly Excess[]): Third | 'all' {
  const total = { frog: 0, middle: 0, tip: 0 };
  for (const e of excesses) for (const third of THIRDS) total[third] += e.seconds[third];
  const sum = total.frog + total.middle + total.tip;
  const top = THIRDS.reduce((a, b) => (total[b] > total[a] ? b : a));
  return sum > 0 && total[top] >= 0.6 * sum ? top : 'all';
}

/** Strokes in which a quantity was measured long enough, in a third or at all, to have shown an excess. */
export function eligibleStrokes(frames: readonly FrameMeasures[], strokes: readonly Stroke[], quantity: Quantity, third: Third | 'all'): Stroke[] {
  return strokes.filter((stroke) => {
    const part = frames.slice(stroke.first, stroke.last + 1).filter((f) => {
      const p = f.values.bow_position?.value;
      return f.values[quantity] && (third === 'all' || (p !== undefined && thirdOf(p) === third));
    });
    const step = (stroke.to - stroke.from) / Math.max(1, stroke.last - stroke.first);
    return part.length * step >= MIN_EXCESS_SECONDS;
  });
}

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
 * is not judged for the bow's direction (short arms).
 */
export function excessesOf(frames: readonly FrameMeasures[], strokes: readonly Stroke[], quantity: Quantity, beyond: Beyond, stage: Stage): Excess[] {
  const out: Excess[] = [];
  for (const stroke of strokes) {
    let run: FrameMeasures[] = [];
    let best: FrameMeasures[] = [];
    const close = () => {
      if (run.length > best.length) best = run;
      run = [];
    };
    for (let i = stroke.first; i <= stroke.last; i++) {
      const f = frames[i]!;
      const m = f.values[quantity];
      const p = f.values.bow_position?.value;
      const spared = stage === 'first-term' && quantity === 'skew_deg' && p !== undefined && p > 0.9;
      if (m && !spared && beyond(m.value) > MIN_EXCESS_U * m.u) run.push(f);
      else close();
    }
    close();
    if (best.length < 2) continue;
    const from = best[0]!.t;
    const to = best[best.length - 1]!.t;
    if (to - from < MIN_EXCESS_SECONDS) continue;
    const step = (to - from) / (best.length - 1);
    const seconds = { frog: 0, middle: 0, tip: 0 };
    for (const f of best) if (f.values.bow_position) seconds[thirdOf(f.values.bow_position.value)] += step;
    const values = best.map((f) => f.values[quantity]!);
    out.push({ stroke: stroke.index, from, to, value: { value: mean(values.map((v) => v.value)), u: mean(values.map((v) => v.u)) }, seconds });
  }
  return out;
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

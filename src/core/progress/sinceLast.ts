import { rowOf } from '../findings/faults';
import type { Finding } from '../findings/finding';
import type { FrameMeasures, Measured } from '../measures/measures';
import { goodEdges } from '../rubric/band';
import type { Bands } from '../rubric/rubric';
import { mean, median } from '../statistics';
import type { Stroke } from '../strokes/stroke';
import { thirdOf } from '../strokes/stroke';
import { type Change, changeOf, pointFrom, type TrendPoint } from './trend';

/** The parts of a take that a finding's number is read from again. */
export interface Compared {
  readonly frames: readonly FrameMeasures[];
  readonly strokes: readonly Stroke[];
}

/** A finding's number in the last take and in this one, read the same way, and whether it changed. */
export interface SinceLast {
  readonly before: TrendPoint;
  readonly now: TrendPoint;
  readonly change: Change;
}

/** Frames a stroke must have where the fault shows. */
const LEAST_FRAMES = 3;

/** One stroke's number of a finding: the mean where it shows, or the fault's own number of a stroke. */
function readOf(finding: Finding, take: Compared, stroke: Stroke): Measured | undefined {
  const fault = rowOf(finding);
  if (!fault || fault.kind === 'take') return undefined;
  if (fault.kind === 'stroke') return fault.measure(stroke);
  const { within } = fault;
  const values = take.frames.slice(stroke.first, stroke.last + 1).flatMap((f) => {
    const p = f.values.bow_position?.value;
    const there = (!within || (p !== undefined && p >= within[0] && p <= within[1])) && (finding.third === 'all' || (p !== undefined && thirdOf(p) === finding.third));
    const m = f.values[fault.quantity];
    return there && m ? [m] : [];
  });
  return values.length >= LEAST_FRAMES ? { value: mean(values.map((v) => v.value)), u: mean(values.map((v) => v.u)) } : undefined;
}

const pointOf = (finding: Finding, take: Compared): TrendPoint | undefined => pointFrom(take.strokes.flatMap((s) => readOf(finding, take, s) ?? []));

/** A finding against the take before; undefined where either take cannot tell the number over three strokes. */
export function sinceLast(finding: Finding, now: Compared, last: Compared, bands: Bands): SinceLast | undefined {
  const band = rowOf(finding)?.band(bands);
  const [after, before] = [pointOf(finding, now), pointOf(finding, last)];
  return band && after && before ? { before, now: after, change: changeOf(before, after, goodEdges(band)) } : undefined;
}

/** How the last take's bow lay where this one's is: at the same place of the bow, on the same string where it was played. */
export interface EarlierBow {
  readonly skew: number;
  /** Share of the strip. */
  readonly fraction: number;
}

/** So near on the bow it counts as the same place (shares of the hair, ours). */
const SAME_PLACE = 0.05;

export function earlierBow(last: Compared, string: string | undefined, position: number): EarlierBow | undefined {
  const near = last.frames.filter((f) => f.values.skew_deg && f.values.contact_fraction && f.values.bow_position && Math.abs(f.values.bow_position.value - position) < SAME_PLACE);
  const same = near.filter((f) => f.string === string);
  const used = same.length >= LEAST_FRAMES ? same : near;
  if (used.length < LEAST_FRAMES) return undefined;
  return { skew: median(used.map((f) => f.values.skew_deg!.value)), fraction: median(used.map((f) => f.values.contact_fraction!.value)) };
}

import type { SoundEvents } from '../crossings/soundEvents';
import type { Family } from '../instrument/family';
import type { FrameMeasures, Measured, Quantity } from '../measures/measures';
import { type Band, goodEdges } from '../rubric/band';
import { type Bands, bandsFor, type Rubric, type Stage, wordFor } from '../rubric/rubric';
import { mean, median, normalCdf } from '../statistics';
import type { RoomMotion } from '../strokes/armOrInstrument';
import type { Stroke } from '../strokes/stroke';
import { TASK_FACTS, type Task } from '../take/task';
import { armOrInstrument, withForearm } from './causes';
import { dominantThird, type Excess, eligibleStrokes, excessesOf, MIN_EXCESS_SECONDS, MIN_EXCESS_U } from './excess';
import { explain } from './explain';
import { faultById, ROWS } from './faults';
import { beyondOf, type FrameFault, type PostureFault, type StrokeFault, type TakeFault } from './faults/fault';
import type { Finding, Fitness, Judgement, Unjudged } from './finding';
import { goesWith } from './links';

/** A habit: in at least so many strokes, and in this share of those that could show it (ours). */
export const MIN_STROKES = 3;
export const MIN_SHARE = 0.3;

/** A posture: for this share of the time in which it was measured (ours). */
export const MIN_TIME_SHARE = 0.3;

export interface JudgingInput {
  readonly frames: readonly FrameMeasures[];
  readonly strokes: readonly Stroke[];
  readonly rubric: Rubric;
  readonly stage: Stage;
  /** Violin where left out. */
  readonly family?: Family;
  readonly motion?: RoomMotion;
  /** What picture and sound tell together; crossings are not judged without. */
  readonly events?: SoundEvents;
  /** What was played; ordinary playing where left out. */
  readonly task?: Task;
}

/** From strokes to findings. Pure and fast, so that a changed band re-judges at once. */
export function judge(input: JudgingInput): Judgement {
  const bands = bandsFor(input.rubric, input.stage);
  const findings: Finding[] = [];
  const oneOffs: Finding[] = [];
  const { leavesOut, says } = TASK_FACTS[input.task ?? 'ordinary'];
  const unjudged = [...(says ? [{ quantity: 'task', why: says }] : []), ...unjudgedQuantities(input.frames, bands).filter((u) => !leavesOut.includes(u.quantity))];
  for (const fault of ROWS) {
    if (findings.some((f) => f.fault === fault.id)) continue;
    if (leavesOut.includes(fault.quantity)) continue;
    if (fault.families && !fault.families.includes(input.family ?? 'violin')) continue;
    const band = fault.band(bands);
    if (!band) continue;
    const base = fault.kind === 'stroke' ? fault.restsOn : fault.kind === 'take' ? undefined : fault.quantity;
    const fitness = base ? fitnessOf(medianU(input.frames, base), halfBand(bands, base, band)) : 'fit';
    if (!fitness) continue;
    const found =
      fault.kind === 'frame'
        ? frameFinding(fault, input, band, fitness)
        : fault.kind === 'posture'
          ? postureFinding(fault, input, band, fitness)
          : fault.kind === 'take'
            ? takeFinding(fault, input, bands, band)
            : strokeFinding(fault, input, band, fitness);
    if (!found) continue;
    const finding: Finding = { ...explain(found, input), ...(fault.sound ? { word: wordFor(input.rubric, fault.sound) } : {}) };
    const habit =
      fault.kind === 'posture'
        ? finding.share >= MIN_TIME_SHARE
        : (fault.kind === 'take' && !fault.counted) || (finding.strokes.length >= MIN_STROKES && finding.share >= MIN_SHARE);
    if (habit) findings.push(finding);
    else if (fault.kind !== 'posture') oneOffs.push(finding);
  }
  // Not twice: a habit that another habit says already, a single occurrence that anything says already.
  const notTwice = (list: readonly Finding[], said: readonly Finding[]) => {
    const ids = new Set(said.map((f) => f.fault));
    return list.filter((f) => !faultById(f.fault)?.unless?.some((id) => ids.has(id)));
  };
  const links = goesWith([...findings, ...oneOffs]);
  return { findings: notTwice(findings, findings), oneOffs: notTwice(oneOffs, [...findings, ...oneOffs]).filter((f) => !links.has(f.fault)), unjudged };
}

const medianU = (frames: readonly FrameMeasures[], quantity: Quantity): number => {
  const u = frames.flatMap((f) => (f.values[quantity] ? [f.values[quantity].u] : []));
  return u.length ? median(u) : Number.POSITIVE_INFINITY;
};

/** Half of what is good of the frame quantity a fault rests on. A one-sided band says nothing of how exact its number must be: there the excess over u must do. */
function halfBand(bands: Bands, quantity: Quantity, band: Band): number {
  if (quantity === 'contact_fraction') return bands.contactFraction.good;
  if (quantity === 'skew_deg') return bands.skew.good;
  return 'middle' in band ? band.good : Number.POSITIVE_INFINITY;
}

/** Fit up to a third of the half-band, doubtful up to the half-band, else undefined: not to be judged. */
export function fitnessOf(u: number, half: number): Fitness | undefined {
  if (!Number.isFinite(u)) return undefined;
  return u <= half / 3 ? 'fit' : u <= half ? 'doubtful' : undefined;
}

const WORDS: Partial<Record<Quantity, string>> = { skew_deg: 'The angle of the bow', contact_fraction: 'The contact point' };

function unjudgedQuantities(frames: readonly FrameMeasures[], bands: Bands): Unjudged[] {
  const out: Unjudged[] = [];
  for (const [quantity, half] of [
    ['skew_deg', bands.skew.good],
    ['contact_fraction', bands.contactFraction.good],
  ] as const) {
    const measured = frames.filter((f) => f.values[quantity]).length;
    if (measured === 0)
      out.push({ quantity, why: `${WORDS[quantity]} could not be measured in this film. Film from in front and a little above, with the whole bow in the picture.` });
    else if (!fitnessOf(medianU(frames, quantity), half)) {
      out.push({ quantity, why: `${WORDS[quantity]} cannot be judged from this side. Film from in front and a little above the strings.` });
    }
  }
  return out;
}

/** A posture held beyond its edge: the share of the time in which it was measured, whether a bow was drawn or not. */
function postureFinding(fault: PostureFault, { frames, strokes }: JudgingInput, band: Band, fitness: Fitness): Finding | undefined {
  const beyond = beyondOf(fault, band);
  const { within } = fault;
  const there = (f: FrameMeasures) => {
    const p = f.values.bow_position?.value;
    return !within || (p !== undefined && p >= within[0] && p <= within[1]);
  };
  const judged = frames.filter(there);
  const measured = judged.filter((f) => f.values[fault.quantity]);
  const over = (f: FrameMeasures) => {
    const m = f.values[fault.quantity];
    return m !== undefined && beyond(m.value) > (fault.excess ?? MIN_EXCESS_U) * m.u;
  };
  const past = measured.filter(over);
  if (past.length === 0) return undefined;
  const stretches: { from: number; to: number; stroke: number }[] = [];
  let open: { from: number; to: number } | undefined;
  // Each frame stands for its own time too.
  const step = frames.length > 1 ? (frames.at(-1)!.t - frames[0]!.t) / (frames.length - 1) : 0;
  const close = () => {
    if (open && open.to - open.from + step >= MIN_EXCESS_SECONDS - 1e-6) stretches.push({ ...open, stroke: strokes.findIndex((s) => s.to >= open!.from) });
    open = undefined;
  };
  for (const f of judged) {
    if (over(f)) open = { from: open?.from ?? f.t, to: f.t };
    else close();
  }
  close();
  if (stretches.length === 0) return undefined;
  const clearest = stretches.reduce((a, b) => (b.to - b.from > a.to - a.from ? b : a));
  const values = past.map((f) => f.values[fault.quantity]!);
  const value: Measured = { value: mean(values.map((v) => v.value)), u: mean(values.map((v) => v.u)) };
  const shown = strokes.filter((s) => stretches.some((p) => p.from < s.to && p.to > s.from));
  return {
    fault: fault.id,
    from: clearest.from,
    to: clearest.to,
    strokes: shown.map((s) => s.index),
    third: 'all',
    quantity: fault.quantity,
    value,
    band: goodEdges(band),
    share: past.length / measured.length,
    eligible: strokes.length,
    evidence: [],
    fitness,
    confidence: confidenceOf(beyond(value.value), value.u),
    stretches,
  };
}

/** Chance that the true value is beyond the edge, from how far it is beyond in uncertainties. */
const confidenceOf = (beyond: number, u: number) => normalCdf(beyond / Math.max(u, 1e-6));

function frameFinding(fault: FrameFault, input: JudgingInput, band: Band, fitness: Fitness): Finding | undefined {
  const { frames, strokes, stage } = input;
  const beyond = beyondOf(fault, band);
  const excesses = excessesOf(frames, strokes, fault.quantity, beyond, stage, fault.within);
  if (excesses.length === 0) return undefined;
  const third = dominantThird(excesses);
  const eligible = eligibleStrokes(frames, strokes, fault.quantity, third);
  const clearest = excesses.reduce((a, b) => (weightOf(b, beyond) > weightOf(a, beyond) ? b : a));
  const values = excesses.map((e) => e.value);
  const value: Measured = { value: mean(values.map((v) => v.value)), u: mean(values.map((v) => v.u)) };
  const count = Math.max(eligible.length, excesses.length);
  const cause =
    fault.quantity === 'skew_deg' && input.motion
      ? withForearm(
          armOrInstrument(frames, strokes, excesses, input.motion),
          excesses.map((e) => strokes[e.stroke]!),
        )
      : { evidence: [] };
  const strings = new Set(excesses.flatMap((e) => strokes[e.stroke]!.string ?? []));
  return {
    fault: fault.id,
    from: clearest.from,
    to: clearest.to,
    strokes: excesses.map((e) => e.stroke),
    ...(strings.size === 1 ? { string: [...strings][0]! } : {}),
    third,
    quantity: fault.quantity,
    value,
    band: goodEdges(band),
    share: excesses.length / count,
    eligible: count,
    ...cause,
    fitness,
    confidence: confidenceOf(beyond(value.value), value.u),
    stretches: excesses.map((e) => ({ from: e.from, to: e.to, stroke: e.stroke })),
  };
}

const weightOf = (e: Excess, beyond: (v: number) => number) => beyond(e.value.value) * (e.to - e.from);

function strokeFinding(fault: StrokeFault, input: JudgingInput, band: Band, fitness: Fitness): Finding | undefined {
  const measured = input.strokes.flatMap((stroke) => {
    const m = fault.measure(stroke);
    return m ? [{ stroke, m }] : [];
  });
  const beyond = beyondOf(fault, band);
  const over = measured.filter(({ stroke, m }) => beyond(m.value) > m.u && (fault.shows?.(stroke) ?? true));
  if (over.length === 0) return undefined;
  const clearest = over.reduce((a, b) => (beyond(b.m.value) > beyond(a.m.value) ? b : a));
  const value: Measured = { value: mean(over.map((o) => o.m.value)), u: mean(over.map((o) => o.m.u)) };
  const strings = new Set(over.flatMap((o) => o.stroke.string ?? []));
  return {
    fault: fault.id,
    from: clearest.stroke.from,
    to: clearest.stroke.to,
    strokes: over.map((o) => o.stroke.index),
    ...(strings.size === 1 ? { string: [...strings][0]! } : {}),
    third: fault.restsOn === 'contact_fraction' ? thirdOfDrift(over.map((o) => o.stroke)) : 'all',
    quantity: fault.quantity,
    value,
    band: goodEdges(band),
    share: over.length / measured.length,
    eligible: measured.length,
    evidence: [],
    fitness,
    confidence: confidenceOf(beyond(value.value), value.u),
    stretches: over.map((o) => ({ from: o.stroke.from, to: o.stroke.to, stroke: o.stroke.index })),
  };
}

/** One number for the take: its doubt is its own, so what is beyond the edge by more than it is found. */
function takeFinding(fault: TakeFault, { events, strokes, frames }: JudgingInput, bands: Bands, band: Band): Finding | undefined {
  const number = events && fault.measure(events, strokes, { frames, bands });
  if (!number) return undefined;
  const beyond = beyondOf(fault, band)(number.value);
  if (beyond <= MIN_EXCESS_U * number.u) return undefined;
  const clearest = number.stretches[0];
  if (!clearest) return undefined;
  const shown = [...new Set(number.stretches.map((s) => s.stroke))];
  return {
    fault: fault.id,
    from: clearest.from,
    to: clearest.to,
    strokes: shown.map((i) => strokes[i]!.index),
    third: 'all',
    quantity: fault.quantity,
    value: { value: number.value, u: number.u },
    band: goodEdges(band),
    share: number.eligible > 0 ? Math.min(1, number.stretches.length / number.eligible) : 1,
    eligible: number.eligible,
    ...(number.cause ? { cause: number.cause } : {}),
    evidence: number.evidence ?? [],
    fitness: 'fit',
    confidence: confidenceOf(beyond, number.u),
    stretches: number.stretches,
  };
}

/** The third whose contact departs most from that of the other two, over the strokes. */
function thirdOfDrift(strokes: readonly Stroke[]): Finding['third'] {
  const at = (third: 'frog' | 'middle' | 'tip') => {
    const values = strokes.flatMap((s) => s.thirds[third].contact_fraction?.value ?? []);
    return values.length ? median(values) : undefined;
  };
  const [frog, middle, tip] = [at('frog'), at('middle'), at('tip')];
  if (middle === undefined || frog === undefined || tip === undefined) return 'all';
  const fromTip = Math.abs(tip - (frog + middle) / 2);
  const fromFrog = Math.abs(frog - (tip + middle) / 2);
  if (fromTip > 1.3 * fromFrog) return 'tip';
  if (fromFrog > 1.3 * fromTip) return 'frog';
  return 'all';
}

import type { FrameMeasures, Measured, Quantity } from '../measures/measures';
import { bandsFor, type Rubric, type Stage } from '../rubric/rubric';
import { mean, median, normalCdf } from '../statistics';
import type { RoomMotion } from '../strokes/armOrInstrument';
import type { Stroke } from '../strokes/stroke';
import { armOrInstrument } from './causes';
import { dominantThird, type Excess, eligibleStrokes, excessesOf } from './excess';
import { FAULTS } from './faults';
import type { Fault, StrokeFault } from './faults/fault';
import type { Finding, Fitness, Judgement, Unjudged } from './finding';

/** A habit: in at least so many strokes, and in this share of those that could show it (ours). */
export const MIN_STROKES = 3;
export const MIN_SHARE = 0.3;

export interface JudgingInput {
  readonly frames: readonly FrameMeasures[];
  readonly strokes: readonly Stroke[];
  readonly rubric: Rubric;
  readonly stage: Stage;
  readonly motion?: RoomMotion;
}

/** From strokes to findings. Pure and fast, so that a changed band re-judges at once. */
export function judge(input: JudgingInput): Judgement {
  const bands = bandsFor(input.rubric, input.stage);
  const findings: Finding[] = [];
  const oneOffs: Finding[] = [];
  const unjudged = unjudgedQuantities(input.frames, bands);
  const doubtful = new Map(unjudged.filter((u) => u.quantity).map((u) => [u.quantity, u]));
  for (const fault of FAULTS) {
    const base = fault.kind === 'frame' ? fault.quantity : fault.restsOn;
    if (doubtful.has(base)) continue;
    const fitness = fitnessOf(medianU(input.frames, base), halfBand(bands, base));
    if (!fitness) continue;
    const finding = fault.kind === 'frame' ? frameFinding(fault, input, bands, fitness) : strokeFinding(fault, input, bands, fitness);
    if (!finding) continue;
    const habit = finding.strokes.length >= MIN_STROKES && finding.share >= MIN_SHARE;
    (habit ? findings : oneOffs).push(finding);
  }
  return { findings, oneOffs, unjudged };
}

const medianU = (frames: readonly FrameMeasures[], quantity: Quantity): number => {
  const u = frames.flatMap((f) => (f.values[quantity] ? [f.values[quantity].u] : []));
  return u.length ? median(u) : Number.POSITIVE_INFINITY;
};

function halfBand(bands: Rubric['bands'], quantity: Quantity): number {
  return quantity === 'skew_deg' ? bands.skew.good : bands.contactFraction.good;
}

/** Fit up to a third of the half-band, doubtful up to the half-band, else undefined: not to be judged. */
export function fitnessOf(u: number, half: number): Fitness | undefined {
  return u <= half / 3 ? 'fit' : u <= half ? 'doubtful' : undefined;
}

const WORDS: Partial<Record<Quantity, string>> = { skew_deg: 'The angle of the bow', contact_fraction: 'The contact point' };

function unjudgedQuantities(frames: readonly FrameMeasures[], bands: Rubric['bands']): Unjudged[] {
  const out: Unjudged[] = [];
  for (const quantity of ['skew_deg', 'contact_fraction'] as const) {
    const measured = frames.filter((f) => f.values[quantity]).length;
    if (measured === 0)
      out.push({ quantity, why: `${WORDS[quantity]} could not be measured in this film. Film from in front and a little above, with the whole bow in the picture.` });
    else if (!fitnessOf(medianU(frames, quantity), halfBand(bands, quantity))) {
      out.push({ quantity, why: `${WORDS[quantity]} cannot be judged from this side. Film from in front and a little above the strings.` });
    }
  }
  return out;
}

/** Chance that the true value is beyond the edge, from how far it is beyond in uncertainties. */
const confidenceOf = (beyond: number, u: number) => normalCdf(beyond / Math.max(u, 1e-6));

function frameFinding(fault: Extract<Fault, { kind: 'frame' }>, input: JudgingInput, bands: Rubric['bands'], fitness: Fitness): Finding | undefined {
  const { frames, strokes, stage } = input;
  const excesses = excessesOf(frames, strokes, fault.quantity, fault.beyond(bands), stage);
  if (excesses.length === 0) return undefined;
  const third = dominantThird(excesses);
  const eligible = eligibleStrokes(frames, strokes, fault.quantity, third);
  const clearest = excesses.reduce((a, b) => (weightOf(b, fault.beyond(bands)) > weightOf(a, fault.beyond(bands)) ? b : a));
  const values = excesses.map((e) => e.value);
  const value: Measured = { value: mean(values.map((v) => v.value)), u: mean(values.map((v) => v.u)) };
  const count = Math.max(eligible.length, excesses.length);
  const cause = fault.quantity === 'skew_deg' && input.motion ? armOrInstrument(frames, strokes, excesses, input.motion) : { evidence: [] };
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
    band: fault.band(bands),
    share: excesses.length / count,
    eligible: count,
    ...cause,
    fitness,
    confidence: confidenceOf(fault.beyond(bands)(value.value), value.u),
    stretches: excesses.map((e) => ({ from: e.from, to: e.to, stroke: e.stroke })),
  };
}

const weightOf = (e: Excess, beyond: (v: number) => number) => beyond(e.value.value) * (e.to - e.from);

function strokeFinding(fault: StrokeFault, input: JudgingInput, bands: Rubric['bands'], fitness: Fitness): Finding | undefined {
  const measured = input.strokes.flatMap((stroke) => {
    const m = fault.measure(stroke);
    return m ? [{ stroke, m }] : [];
  });
  const beyond = fault.beyond(bands);
  const over = measured.filter(({ m }) => beyond(m.value) > m.u);
  if (over.length === 0) return undefined;
  const clearest = over.reduce((a, b) => (b.m.value > a.m.value ? b : a));
  const value: Measured = { value: mean(over.map((o) => o.m.value)), u: mean(over.map((o) => o.m.u)) };
  const strings = new Set(over.flatMap((o) => o.stroke.string ?? []));
  return {
    fault: fault.id,
    from: clearest.stroke.from,
    to: clearest.stroke.to,
    strokes: over.map((o) => o.stroke.index),
    ...(strings.size === 1 ? { string: [...strings][0]! } : {}),
    third: thirdOfDrift(over.map((o) => o.stroke)),
    quantity: fault.quantity,
    value,
    band: fault.band(bands),
    share: over.length / measured.length,
    eligible: measured.length,
    evidence: [],
    fitness,
    confidence: confidenceOf(beyond(value.value), value.u),
    stretches: over.map((o) => ({ from: o.stroke.from, to: o.stroke.to, stroke: o.stroke.index })),
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

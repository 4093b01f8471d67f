import type { Measured } from '../measures/measures';
import type { Third } from '../strokes/stroke';

/** A measured fact that speaks for a cause. */
export interface Evidence {
  readonly quantity: string;
  readonly value: number;
  readonly u: number;
  /** In the teacher's words. */
  readonly says: string;
}

/** What a finding may come of; the ids are the contract of `findings.json`. */
export type CauseId =
  | 'instrument-turned'
  | 'arm-swung'
  | 'shoulder-opened'
  | 'elbow-went-behind'
  | 'wrist-locked'
  | 'fingers-rigid'
  | 'arm-level-wrong'
  | 'arm-late'
  | 'arm-early'
  | 'wrist-only-crossing'
  | 'scroll-sank'
  | 'left-arm-tired'
  | 'slouching'
  | 'stick-too-long'
  | 'squeezing'
  | 'hold-slipped'
  | 'too-slow-for-weight'
  | 'instrument-too-large';

export type Fitness = 'fit' | 'doubtful';

/** One fault found in a take. */
export interface Finding {
  readonly fault: string;
  /** The clearest stretch, seconds. */
  readonly from: number;
  readonly to: number;
  /** The strokes that show it. */
  readonly strokes: readonly number[];
  readonly string?: string;
  readonly third: Third | 'all';
  readonly quantity: string;
  readonly value: Measured;
  /** Edges of what is good, in the quantity's unit. */
  readonly band: readonly [number, number];
  /** Of the strokes that could show it, 0..1. */
  readonly share: number;
  /** How many could show it. */
  readonly eligible: number;
  readonly cause?: CauseId;
  readonly evidence: readonly Evidence[];
  /** What the rubric calls the sound a finding is about. */
  readonly word?: string;
  readonly fitness: Fitness;
  /** Chance, as far as measured, that the edge is truly passed, 0..1. */
  readonly confidence: number;
  /** Every stretch in which the edge is passed, seconds. */
  readonly stretches: readonly { readonly from: number; readonly to: number; readonly stroke: number }[];
}

/** A quantity that this take cannot judge, and why, in the teacher's words. */
export interface Unjudged {
  readonly quantity: string;
  readonly why: string;
}

export interface Judgement {
  readonly findings: readonly Finding[];
  /** Seen, but in too few strokes to be a habit. */
  readonly oneOffs: readonly Finding[];
  readonly unjudged: readonly Unjudged[];
}

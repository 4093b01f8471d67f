import { faultById } from '../findings/faults';
import type { Fault } from '../findings/faults/fault';
import { quantile } from '../statistics';
import { type Band, beyond } from './band';
import type { Bands } from './rubric';

/** Why a finding was set aside. */
export const DISMISSAL_REASONS = ['measured-wrongly', 'good-enough', 'not-now'] as const;
export type DismissalReason = (typeof DISMISSAL_REASONS)[number];

/** The teacher's word on one finding, with the number it rested on. */
export interface Word {
  readonly fault: string;
  readonly verdict: 'confirmed' | 'dismissed';
  readonly reason?: DismissalReason | undefined;
  readonly value?: number | undefined;
}

/** How one rule fared under the teacher's judgement. */
export interface RuleRecord {
  readonly fault: string;
  readonly judged: number;
  readonly dismissed: number;
  readonly reasons: Readonly<Record<DismissalReason, number>>;
  /** A fault edge under which most of what was "good enough" would not have been told; absent with too little to go by. */
  readonly suggested?: number | undefined;
}

/** So many words on a rule, and so many "good enough" among them, before a band is suggested (ours). */
const LEAST_JUDGED = 5;
const LEAST_ENOUGH = 3;
/** Share of the "good enough" that a suggested band takes in, and share of the confirmed that it must leave out. */
const TAKES_IN = 0.8;
const LEAVES_OUT = 0.7;

/**
 * Rules with the teacher's words on them, the most dismissed first. Nothing changes by itself: a suggestion is one.
 * @param bands the bands the words were given under, as the rubric has them for the stage "later"
 */
export function ruleRecords(words: readonly Word[], bands: Bands): RuleRecord[] {
  const ids = [...new Set(words.map((w) => w.fault))];
  return ids
    .flatMap((id): RuleRecord[] => {
      const fault = faultById(id);
      if (!fault) return [];
      const on = words.filter((w) => w.fault === id);
      const dismissed = on.filter((w) => w.verdict === 'dismissed');
      const reasons = Object.fromEntries(DISMISSAL_REASONS.map((r) => [r, dismissed.filter((w) => w.reason === r).length])) as Record<DismissalReason, number>;
      return [{ fault: id, judged: on.length, dismissed: dismissed.length, reasons, suggested: suggestedEdge(fault, fault.band(bands), on) }];
    })
    .sort((a, b) => b.dismissed / b.judged - a.dismissed / a.judged || b.judged - a.judged);
}

/** Where the fault would have to begin, as the band has its edge; undefined when the words do not ask for another. */
function suggestedEdge(fault: Fault, band: Band | undefined, words: readonly Word[]): number | undefined {
  if (!band || words.length < LEAST_JUDGED) return undefined;
  const past = (w: Word) => (w.value === undefined ? [] : [beyond(band, fault.side, w.value)]);
  const enough = words.filter((w) => w.verdict === 'dismissed' && w.reason === 'good-enough').flatMap(past);
  if (enough.length < LEAST_ENOUGH) return undefined;
  const further = quantile(enough, TAKES_IN);
  const confirmed = words.filter((w) => w.verdict === 'confirmed').flatMap(past);
  const stillTold = confirmed.filter((v) => v > further).length;
  if (further <= 0 || (confirmed.length > 0 && stillTold < LEAVES_OUT * confirmed.length)) return undefined;
  return 'least' in band ? band.fault - further : band.fault + further;
}

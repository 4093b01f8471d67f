import { MOST_FOCI } from '../practice/weekPlan';
import { FAULTS } from './faults';
import type { Finding } from './finding';
import { goesWith } from './links';

/** A finding worth making a focus of the week, and why. */
export interface FocusSuggestion {
  readonly fault: string;
  readonly reasons: readonly string[];
}

/** A finding this much surer, oftener and further out than another may pass it in the order of the work (ours). */
const OUTWEIGHS = 2.5;

/** How much a finding weighs: how sure, in how many of the bows, how doubtful the view. */
const weightOf = (f: Finding, brings: number): number => f.confidence * f.share * (f.fitness === 'doubtful' ? 0.6 : 1) * (1 + 0.5 * brings);

/**
 * At most two findings to begin with, in the order of the work (instrument, hold, path, contact, levels, strokes); what
 * goes with another is mended with it and not suggested beside it. Findings that were set aside are left out by the caller.
 */
export function suggestFoci(findings: readonly Finding[]): FocusSuggestion[] {
  const links = goesWith(findings);
  const order = new Map(FAULTS.map((f, i) => [f.id, i]));
  const candidates = findings
    .filter((f) => !links.has(f.fault))
    .map((f) => {
      const brings = [...links.values()].filter((by) => by === f.fault).length;
      return { f, brings, place: order.get(f.fault) ?? FAULTS.length, weight: weightOf(f, brings) };
    })
    .sort((a, b) => a.place - b.place);
  const out: FocusSuggestion[] = [];
  const rest = [...candidates];
  while (out.length < MOST_FOCI && rest.length > 0) {
    const first = rest[0]!;
    const heavy = rest.reduce((a, b) => (b.weight > a.weight ? b : a));
    const chosen = heavy.weight > OUTWEIGHS * first.weight ? heavy : first;
    rest.splice(rest.indexOf(chosen), 1);
    out.push({ fault: chosen.f.fault, reasons: reasonsOf(chosen, chosen === first, candidates.length) });
  }
  return out;
}

function reasonsOf({ f, brings }: { f: Finding; brings: number }, inOrder: boolean, count: number): readonly string[] {
  const parts: string[] = [];
  if (brings > 0) parts.push(brings === 1 ? 'another finding goes with it' : `${brings} other findings go with it`);
  if (count > 1) parts.push(inOrder ? 'it comes first in the order of the work' : 'it weighs far more than what comes before it');
  if (f.share > 0.75) parts.push('nearly every bow shows it');
  return parts.length > 0 ? parts : ['it is what was found'];
}

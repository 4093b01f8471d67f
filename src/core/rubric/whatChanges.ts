import { faultById } from '../findings/faults';
import type { Finding, Judgement } from '../findings/finding';

/** What another rubric would tell of one take: faults no longer told, and faults told anew. */
export interface ChangeOfTake {
  readonly gone: readonly Finding[];
  readonly fresh: readonly Finding[];
}

/** Compares two judgements of the same take. */
export function whatChanges(before: Judgement, after: Judgement): ChangeOfTake {
  const had = new Set(before.findings.map((f) => f.fault));
  const has = new Set(after.findings.map((f) => f.fault));
  return { gone: before.findings.filter((f) => !has.has(f.fault)), fresh: after.findings.filter((f) => !had.has(f.fault)) };
}

/** A fault's title without its place on the bow. */
export function titleOf(id: string): string {
  const title = (faultById(id)?.title('all') ?? id).replace(/^Along the whole bow, /, '').replace(/\.$/, '');
  return title.charAt(0).toUpperCase() + title.slice(1);
}

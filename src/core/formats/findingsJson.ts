import type { Judgement } from '../findings/finding';
import type { Rubric, Stage } from '../rubric/rubric';

const round = (x: number, digits = 3) => Number(x.toFixed(digits));

/** Findings as JSON text, `gestometra-findings/1`. Absent values are left out, never null. */
export function findingsToText(judgement: Judgement, rubric: Rubric, stage: Stage): string {
  return `${JSON.stringify(
    {
      format: 'gestometra-findings/1',
      rubric: { id: rubric.id, stage, version: rubric.version },
      unjudged: judgement.unjudged,
      findings: judgement.findings.map((f) => ({
        fault: f.fault,
        from: round(f.from),
        to: round(f.to),
        strokes: f.strokes,
        ...(f.string ? { string: f.string } : {}),
        third: f.third,
        quantity: f.quantity,
        value: round(f.value.value),
        u: round(f.value.u),
        band: f.band.map((b) => round(b)),
        share: round(f.share),
        ...(f.cause ? { cause: f.cause } : {}),
        evidence: f.evidence.map((e) => ({ ...e, value: round(e.value), u: round(e.u) })),
        fitness: f.fitness,
        confidence: round(f.confidence),
      })),
    },
    null,
    1,
  )}\n`;
}

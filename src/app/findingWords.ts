import { faultById } from '../core/findings/faults';
import type { Finding } from '../core/findings/finding';
import { degrees, plusMinus } from './drawings/words';

export const faultTitle = (finding: Finding): string => faultById(finding.fault)?.title(finding.third) ?? finding.fault;

/** Value and doubt: "14° ±2" or "0.80 of the strip ±0.03". */
export function findingInWords(finding: Finding): string {
  const fault = faultById(finding.fault);
  if (fault?.unit === 'deg') return `${degrees(finding.value.value)} ${plusMinus(finding.value.u)}`;
  return `${finding.value.value.toFixed(2)} of the strip ${plusMinus(finding.value.u, 2)}`;
}

/** "In 4 of 5 bows that reach the tip." */
export function shareInWords(finding: Finding): string {
  const reach = finding.third === 'tip' ? ' that pass the middle' : finding.third === 'frog' ? ' that reach the frog' : '';
  return `In ${finding.strokes.length} of ${finding.eligible} bows${reach}${finding.string ? `, on the ${finding.string} string` : ''}.`;
}

const CAUSES: Record<string, string> = {
  'arm-swung': 'the arm swung, not the instrument',
  'instrument-turned': 'the instrument turned under the bow',
};

/** Cause in words, and what was measured for and against it. */
export function causeInWords(finding: Finding): { cause: string; evidence: string } | undefined {
  if (finding.evidence.length === 0) return undefined;
  const turned = (quantity: string) => {
    const e = finding.evidence.find((x) => x.quantity === quantity);
    return e ? `${degrees(e.value)} ${plusMinus(e.u)}` : '?';
  };
  return {
    cause: finding.cause ? (CAUSES[finding.cause] ?? finding.cause) : 'arm or instrument cannot be told apart here',
    evidence: `From its squarest place to here the bow turned ${turned('bow_rotation_deg')} in the room, the instrument ${turned('instrument_rotation_deg')}.`,
  };
}

export const exercisesOf = (finding: Finding): readonly string[] => faultById(finding.fault)?.exercises ?? [];

import { faultById, rowOf } from '../core/findings/faults';
import type { Unit } from '../core/findings/faults/fault';
import type { CauseId, Finding } from '../core/findings/finding';
import type { SinceLast } from '../core/progress/sinceLast';
import { degrees, plusMinus } from './drawings/words';

/** The catalogue's row a finding was judged by: some faults show in two quantities. */
const rowFor = (finding: Finding) => rowOf(finding) ?? faultById(finding.fault);

export const faultTitle = (finding: Finding): string => rowFor(finding)?.title(finding.third, finding.word) ?? finding.fault;

/** Value and doubt: "14° ±2" or "0.80 of the strip ±0.03". */
export function findingInWords(finding: Finding): string {
  const { value, doubt } = valueInWords(finding);
  const of = { deg: '', strip: ' of the strip', shoulders: ' shoulder widths', fingers: ' finger widths', ms: '', mm: '', share: '', plain: '' }[rowFor(finding)?.unit ?? 'strip'];
  return `${value}${of} ${doubt}`;
}

/** A number and its doubt as each unit writes them. */
const WRITTEN: Partial<Record<Unit, { value(v: number): string; doubt(u: number): string }>> = {
  deg: { value: degrees, doubt: (u) => plusMinus(u) },
  ms: { value: (v) => `${Math.abs(v).toFixed(0)} ms`, doubt: (u) => plusMinus(u) },
  mm: { value: (v) => `${Math.abs(v).toFixed(0)} mm`, doubt: (u) => plusMinus(u) },
  share: { value: (v) => `${Math.round(100 * Math.abs(v))} %`, doubt: (u) => plusMinus(100 * u) },
};
const PLAIN = { value: (v: number) => Math.abs(v).toFixed(2), doubt: (u: number) => plusMinus(u, 2) };
const writtenFor = (finding: Finding) => WRITTEN[rowFor(finding)?.unit ?? 'plain'] ?? PLAIN;

/** The number and its doubt, as they stand beside each other. */
export function valueInWords(finding: Finding): { value: string; doubt: string } {
  const { value, u } = finding.value;
  const written = writtenFor(finding);
  return { value: written.value(value), doubt: written.doubt(u) };
}

/** "In 4 of 5 bows that reach the tip." */
export function shareInWords(finding: Finding): string {
  const fault = faultById(finding.fault);
  if (fault?.kind === 'take' && !fault.counted) return `Over ${finding.eligible} ${finding.eligible === 1 ? fault.over.replace(/s$/, '') : fault.over}.`;
  if (fault?.kind === 'posture') return `For ${Math.round(finding.share * 100)} % of the time it could be seen.`;
  const reach = finding.third === 'tip' ? ' that pass the middle' : finding.third === 'frog' ? ' that reach the frog' : '';
  return `In ${finding.strokes.length} of ${finding.eligible} bows${reach}${finding.string ? `, on the ${finding.string} string` : ''}.`;
}

/** "19° on 3 Nov: better by 5° ±2."; a change within the measuring error is none. */
export function sinceInWords(finding: Finding, { before, change }: SinceLast, when: string): string {
  const { value, doubt } = writtenFor(finding);
  return `${value(before.value)} on ${when}: ${change.verdict === 'same' ? 'no real change' : `${change.verdict} by ${value(change.by)} ${doubt(change.u)}`}`;
}

/** Causes in the teacher's words. */
export const CAUSES: Readonly<Record<CauseId, string>> = {
  'scroll-sank': 'the scroll hangs, and the bow slides down to it',
  squeezing: 'the hand squeezes the bow',
  'hold-slipped': 'the hold was good at first and slipped',
  'too-slow-for-weight': 'the bow is too slow for its weight',
  'arm-swung': 'the arm swung, not the instrument',
  'shoulder-opened': 'the upper arm swung from the shoulder, the elbow opened too little',
  'instrument-turned': 'the instrument turned under the bow',
  'elbow-went-behind': 'the elbow went behind the back',
  'stick-too-long': 'the arm is at its end before the bow is',
  'instrument-too-large': 'the instrument is large for this arm, or held far away',
  slouching: 'the trunk stoops',
  'left-arm-tired': 'the left arm grew tired on the way',
  'wrist-locked': 'the wrist does not give along the bow',
  'fingers-rigid': 'the fingers do not give along the bow',
  'arm-late': 'the arm follows the bow',
  'arm-early': 'the arm runs ahead of the bow',
  'arm-level-wrong': 'the arm is not at the level of its string',
  'wrist-only-crossing': 'wrist and forearm make the crossing, the upper arm stays',
};

/** Cause in words, and what was measured for and against it. */
export function causeInWords(finding: Finding): { cause: string; evidence: string } | undefined {
  if (finding.evidence.length === 0) return finding.cause ? { cause: CAUSES[finding.cause], evidence: 'As you see it.' } : undefined;
  if (!finding.evidence.some((e) => e.quantity === 'bow_rotation_deg')) {
    return {
      cause: finding.cause ? CAUSES[finding.cause] : 'the cause cannot be told here',
      evidence: sentence(finding.evidence.map((e) => e.says).join('; ')),
    };
  }
  const turned = (quantity: string) => {
    const e = finding.evidence.find((x) => x.quantity === quantity);
    return e ? `${degrees(e.value)} ${plusMinus(e.u)}` : '?';
  };
  return {
    cause: finding.cause ? CAUSES[finding.cause] : 'arm or instrument cannot be told apart here',
    evidence: `${armInWords(finding)}${elbowInWords(finding)}From its squarest place to here the bow turned ${turned('bow_rotation_deg')} in the room, the instrument ${turned('instrument_rotation_deg')}.`,
  };
}

/** What the arm itself showed, where that is the cause. */
function armInWords(finding: Finding): string {
  const arm = finding.evidence.find((e) => e.quantity === 'elbow_behind' || e.quantity === 'elbow_angle_deg');
  return arm ? `${sentence(arm.says)} ` : '';
}

/** A share told with more doubt than this helps nobody. */
const SURE_ENOUGH = 0.25;

/** What elbow and upper arm each did past the middle, where it was measured. */
function elbowInWords(finding: Finding): string {
  const share = finding.evidence.find((e) => e.quantity === 'forearm_share');
  if (!share || share.u > SURE_ENOUGH || finding.third !== 'tip') return '';
  return `Past the middle the elbow made ${Math.round(100 * share.value)} % ${plusMinus(100 * share.u)} of the hand's way. `;
}

export const exercisesOf = (finding: Finding): readonly string[] => faultById(finding.fault)?.exercises ?? [];

const sentence = (text: string) => `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;

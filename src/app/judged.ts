import { useMemo } from 'react';
import { faultById } from '../core/findings/faults';
import type { Finding, Judgement } from '../core/findings/finding';
import { goesWith } from '../core/findings/links';
import { type FocusSuggestion, suggestFoci } from '../core/findings/suggestFoci';
import { MIDDLE_OF_STRIP, type Rubric, rubricById } from '../core/rubric/rubric';
import { judgeTake } from '../core/take/analyse';
import type { MeasuresRecord, StudentRecord, VerdictRecord } from '../store/records';
import { stageIn, type TakeWithStudent } from '../store/takes';
import type { Slice } from './drawings/StrokeRibbon';
import type { Sign } from './drawings/tokens';
import { useRubrics } from './queries';

/** The rubric a student is judged by, of those there are; the plainest school while they are read, or where it is gone. */
export function useRubricOf(student: StudentRecord | undefined): Rubric {
  const rubrics = useRubrics();
  return (student && (rubrics.data?.find((r) => r.id === student.rubric) ?? rubricById(student.rubric))) ?? MIDDLE_OF_STRIP;
}

/** A take judged by its student's rubric and stage, with the teacher's verdicts laid over. */
export interface Judged {
  readonly judgement: Judgement;
  readonly rubric: Rubric;
  readonly signOf: (finding: Finding) => Sign;
  readonly noteOf: (finding: Finding) => string | undefined;
  /** Findings made a focus of the week, in the order of the work. */
  readonly foci: readonly Finding[];
  /** Which finding each of the others goes with. */
  readonly links: ReadonlyMap<string, string>;
  /** At most two findings to begin with, of those not set aside, and why. */
  readonly suggested: readonly FocusSuggestion[];
  readonly slices: readonly Slice[];
}

export function useJudged(record: MeasuresRecord | null | undefined, entry: TakeWithStudent | undefined, verdicts: readonly VerdictRecord[] | undefined): Judged | undefined {
  const rubric = useRubricOf(entry?.student);
  const stage = entry && stageIn(entry);
  const [shift, task] = [entry?.take.soundShift, entry?.take.task];
  return useMemo(
    () => (record && stage ? judgedWith(judgeTake(record.measures, rubric, stage, { shift, task }), rubric, verdicts ?? []) : undefined),
    [record, stage, verdicts, rubric, shift, task],
  );
}

/** What was measured with the teacher's verdicts laid over: what the teacher sees otherwise stands before it. */
export function judgedWith(measured: Judgement, rubric: Rubric, verdicts: readonly VerdictRecord[]): Judged {
  const byFault = new Map(verdicts.map((v) => [v.fault, v]));
  const judgement = { ...measured, findings: measured.findings.map((f) => ({ ...f, ...byFault.get(f.fault)?.adjusted })) };
  const signOf = (finding: Finding): Sign => byFault.get(finding.fault)?.verdict ?? 'found';
  const standing = judgement.findings.filter((f) => signOf(f) !== 'dismissed');
  return {
    judgement,
    rubric,
    signOf,
    noteOf: (finding) => byFault.get(finding.fault)?.note,
    foci: standing.filter((f) => byFault.get(f.fault)?.focus),
    links: goesWith(standing),
    suggested: suggestFoci(standing),
    slices: slicesOf(judgement.findings, signOf),
  };
}

/** Slices for the ribbon: of the findings that are judged bow by bow and frame by frame; dismissed ones are not shown. */
function slicesOf(findings: readonly Finding[], signOf: (f: Finding) => Sign): Slice[] {
  return findings
    .filter((f) => signOf(f) !== 'dismissed' && faultById(f.fault)?.kind === 'frame')
    .flatMap((f) => f.stretches.map((s) => ({ from: s.from, to: s.to, sign: signOf(f) })));
}

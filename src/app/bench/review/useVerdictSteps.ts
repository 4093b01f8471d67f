import { useState } from 'react';
import { toast } from 'sonner';
import type { Finding } from '../../../core/findings/finding';
import { MOST_FOCI } from '../../../core/practice/weekPlan';
import type { DismissalReason } from '../../../core/rubric/dismissals';
import type { Adjustment, Verdict, VerdictRecord } from '../../../store/records';
import { faultTitle } from '../../findingWords';
import type { Judged } from '../../judged';
import { useSaveVerdict } from '../../queries';
import type { Echo } from './Docket';

type Said = Omit<VerdictRecord, 'takeId' | 'fault'>;

/** A step that can be taken back: what the record of a fault held before. */
interface Change {
  readonly fault: string;
  readonly before: Said;
}

export interface VerdictSteps {
  /** What was just said; until another finding is chosen. */
  readonly echo: Echo | undefined;
  readonly forgetEcho: () => void;
  /** Says a word on the finding in hand. */
  readonly judge: (verdict: Verdict) => void;
  /** Why a finding was set aside, right after it was. */
  readonly giveReason: (reason: DismissalReason) => void;
  readonly adjust: (adjusted: Adjustment) => void;
  readonly note: (text: string) => void;
  /** Makes the finding in hand a focus of the week, or takes that back; says so where the week is full. */
  readonly toggleFocus: () => void;
  /** Takes the last step back; the fault it was about, undefined where there is none. */
  readonly undo: () => string | undefined;
}

/** What the teacher says of a take's findings, step by step, each to be taken back. */
export function useVerdictSteps(takeId: string, finding: Finding | undefined, judged: Judged | undefined, verdicts: readonly VerdictRecord[] | undefined): VerdictSteps {
  const save = useSaveVerdict(takeId);
  const [past, setPast] = useState<Change[]>([]);
  const [echo, setEcho] = useState<Echo>();
  const say = (of: Finding, change: Partial<Said>) => {
    const { verdict, reason, value, adjusted, note, focus } = verdicts?.find((v) => v.fault === of.fault) ?? {};
    setPast((p) => [...p, { fault: of.fault, before: { verdict, reason, value, adjusted, note, focus } as Said }]);
    save.mutate({ fault: of.fault, ...change });
  };
  return {
    echo,
    forgetEcho: () => setEcho(undefined),
    judge: (verdict) => {
      if (!finding) return;
      say(finding, { verdict, value: finding.value.value, reason: undefined, ...(verdict === 'dismissed' ? { focus: undefined } : {}) });
      setEcho({ fault: finding.fault, verdict });
    },
    giveReason: (reason) => {
      if (echo?.verdict !== 'dismissed') return;
      save.mutate({ fault: echo.fault, reason });
      setEcho({ ...echo, reason });
    },
    adjust: (adjusted) => {
      if (finding) say(finding, { verdict: 'confirmed', value: finding.value.value, adjusted });
    },
    note: (text) => {
      if (finding) save.mutate({ fault: finding.fault, note: text.trim() || undefined });
    },
    toggleFocus: () => {
      if (!finding || !judged) return;
      const is = judged.foci.includes(finding);
      if (!is && judged.foci.length >= MOST_FOCI) {
        toast(`A week has at most ${MOST_FOCI} foci: ${judged.foci.map((f) => faultTitle(f).replace(/\.$/, '')).join('; ')}. Take one back first.`);
        return;
      }
      // A focus is a finding the teacher agrees with.
      say(finding, { focus: !is, ...(is ? {} : { verdict: 'confirmed' as const, value: finding.value.value }) });
    },
    undo: () => {
      const last = past.at(-1);
      if (!last) return undefined;
      setPast((p) => p.slice(0, -1));
      save.mutate({ fault: last.fault, ...last.before });
      return last.fault;
    },
  };
}

import { describe, expect, it } from 'vitest';
import { testFinding } from '../core/findings/testFinding';
import { MIDDLE_OF_STRIP } from '../core/rubric/rubric';
import type { VerdictRecord } from '../store/records';
import { judgedWith } from './judged';

const MEASURED = [
  testFinding('tip-to-scroll'),
  testFinding('contact-drifts', { quantity: 'contact_range', third: 'all' }),
  testFinding('thumb-straight', { quantity: 'thumb_ip_deg', third: 'all' }),
];
const verdict = (fault: string, given: Partial<VerdictRecord>): VerdictRecord => ({ takeId: 't', fault, ...given });
const judged = (...verdicts: VerdictRecord[]) => judgedWith({ findings: MEASURED, oneOffs: [], unjudged: [] }, MIDDLE_OF_STRIP, verdicts);
const ids = (findings: readonly { fault: string }[]) => findings.map((f) => f.fault);

describe('a take with the verdicts of its teacher', () => {
  it('is as measured where nothing was said', () => {
    const plain = judged();
    expect(plain.judgement.findings).toEqual(MEASURED);
    expect(plain.judgement.findings.map(plain.signOf)).toEqual(['found', 'found', 'found']);
    expect([plain.foci, plain.noteOf(MEASURED[0]!)]).toEqual([[], undefined]);
    expect(plain.suggested.length).toBeGreaterThan(0);
  });

  it('keeps what was set aside in its place, but out of slices, foci and suggestions', () => {
    const aside = judged(verdict('tip-to-scroll', { verdict: 'dismissed', focus: true }));
    expect(ids(aside.judgement.findings)).toEqual(ids(MEASURED));
    expect(aside.signOf(MEASURED[0]!)).toBe('dismissed');
    expect(aside.slices).toEqual([]);
    expect(aside.foci).toEqual([]);
    expect(ids(aside.suggested)).not.toContain('tip-to-scroll');
    expect(aside.links.get('contact-drifts')).not.toBe('tip-to-scroll');
  });

  it('shows where the teacher sees it and why before what was measured', () => {
    const [first] = judged(verdict('tip-to-scroll', { verdict: 'confirmed', adjusted: { third: 'all', cause: 'arm-swung' } })).judgement.findings;
    expect(first).toMatchObject({ third: 'all', cause: 'arm-swung', value: MEASURED[0]!.value });
  });

  it('puts foci in the order of the work, whenever they were chosen, and keeps notes with their finding', () => {
    const both = judged(verdict('thumb-straight', { focus: true, note: 'softer' }), verdict('tip-to-scroll', { focus: true, verdict: 'confirmed' }));
    expect(ids(both.foci)).toEqual(['tip-to-scroll', 'thumb-straight']);
    expect(both.noteOf(MEASURED[2]!)).toBe('softer');
    expect(both.noteOf(MEASURED[0]!)).toBeUndefined();
  });

  it('slices the ribbon where a number of single frames was found, in the sign of the verdict; not for what is told of whole bows', () => {
    const { slices } = judged(verdict('tip-to-scroll', { verdict: 'confirmed' }));
    expect(slices).toEqual([
      { from: 1, to: 1.6, sign: 'confirmed' },
      { from: 3, to: 3.4, sign: 'confirmed' },
    ]);
  });
});

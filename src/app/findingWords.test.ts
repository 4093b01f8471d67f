import { describe, expect, it } from 'vitest';
import { faultById } from '../core/findings/faults';
import type { Finding } from '../core/findings/finding';
import { causeInWords, findingInWords, shareInWords } from './findingWords';

const finding = (fault: string, change: Partial<Finding> = {}): Finding => ({
  fault,
  from: 1,
  to: 2,
  strokes: [0, 1, 2],
  third: 'all',
  quantity: faultById(fault)!.quantity,
  value: { value: 0.3, u: 0.02 },
  band: [0, 0.1],
  share: 0.5,
  eligible: 6,
  evidence: [],
  fitness: 'fit',
  confidence: 0.9,
  stretches: [],
  ...change,
});

describe('a finding in words', () => {
  it('says in what it was looked for', () => {
    expect(shareInWords(finding('crossing-late'))).toBe('Over 6 crossings.');
    expect(shareInWords(finding('contact-jumps', { eligible: 1 }))).toBe('Over 1 bow change.');
    expect(shareInWords(finding('uneven-shares'))).toBe('Over 6 bows.');
    expect(shareInWords(finding('neighbour-touched', { string: 'A' }))).toBe('In 3 of 6 bows, on the A string.');
    expect(shareInWords(finding('tip-to-scroll', { third: 'tip' }))).toBe('In 3 of 6 bows that pass the middle.');
  });
  it('writes each unit as it is read', () => {
    expect(findingInWords(finding('tip-to-scroll', { value: { value: 14.4, u: 1.6 } }))).toBe('14° ±2');
    expect(findingInWords(finding('crossing-late', { value: { value: 177, u: 32 } }))).toBe('177 ms ±32');
    expect(findingInWords(finding('neighbour-touched', { value: { value: 0.71, u: 0.07 } }))).toBe('71 % ±7');
    expect(findingInWords(finding('on-fingerboard', { value: { value: 0.8, u: 0.03 } }))).toBe('0.80 of the strip ±0.03');
  });
  it('gives the cause with its evidence, and says when none can be told', () => {
    const evidence = [{ quantity: 'elbow_lag_ms', value: 200, u: 30, says: 'the upper arm changes level 200 ms after the bow' }];
    expect(causeInWords(finding('crossing-late', { cause: 'arm-late', evidence }))).toEqual({
      cause: 'the arm follows the bow',
      evidence: 'The upper arm changes level 200 ms after the bow.',
    });
    expect(causeInWords(finding('neighbour-touched', { evidence }))!.cause).toContain('cannot be told');
    expect(causeInWords(finding('contact-jumps'))).toBeUndefined();
  });
});

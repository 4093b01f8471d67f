import { describe, expect, it } from 'vitest';
import { FAULTS } from '../core/findings/faults';
import type { Finding } from '../core/findings/finding';
import { CAUSES, causeInWords, exercisesOf, faultTitle, findingInWords, shareInWords, sinceInWords } from './findingWords';

const finding = (given: Partial<Finding>): Finding =>
  ({
    fault: 'tip-to-scroll',
    third: 'tip',
    string: 'A',
    strokes: [0, 1, 3, 4],
    eligible: 5,
    share: 0.8,
    value: { value: 14.2, u: 2.1 },
    band: [-5, 5],
    evidence: [],
    ...given,
  }) as Finding;

describe('a finding in words', () => {
  it('tells every fault of the catalogue by a sentence, with exercises that exist for it', () => {
    for (const { id } of FAULTS) {
      const title = faultTitle(finding({ fault: id }));
      expect(title, id).toMatch(/^[A-Z].*\.$/);
      expect(title).not.toBe(id);
      expect(exercisesOf(finding({ fault: id })).length, id).toBeGreaterThan(0);
    }
    expect(faultTitle(finding({ fault: 'unheard-of' }))).toBe('unheard-of');
  });
  it('tells value and doubt in the unit of the fault', () => {
    expect(findingInWords(finding({}))).toBe('14° ±2');
    expect(findingInWords(finding({ fault: 'on-fingerboard', value: { value: 0.8, u: 0.03 } }))).toBe('0.80 of the strip ±0.03');
    expect(findingInWords(finding({ fault: 'crossing-late', value: { value: -112, u: 30 } }))).toBe('112 ms ±30');
    const farFromEar = finding({ fault: 'cello-leaning-off', quantity: 'peg_ear_mm', value: { value: 231.4, u: 24 } });
    expect(findingInWords(farFromEar)).toBe('231 mm ±24');
    expect(faultTitle(farFromEar)).not.toBe(faultTitle(finding({ fault: 'cello-leaning-off', quantity: 'cello_lean_deg' })));
    expect(findingInWords(finding({ fault: 'stops-between-strokes', value: { value: 0.5, u: 0.08 } }))).toBe('50 % ±8');
  });
  it('tells in how many bows, or for how much of the time', () => {
    expect(shareInWords(finding({}))).toBe('In 4 of 5 bows that pass the middle, on the A string.');
    expect(shareInWords(finding({ third: 'frog', string: undefined }))).toBe('In 4 of 5 bows that reach the frog.');
    expect(shareInWords(finding({ fault: 'crossing-late', eligible: 6 }))).toBe('Over 6 crossings.');
    expect(shareInWords(finding({ fault: 'contact-jumps', eligible: 1 }))).toBe('Over 1 bow change.');
    expect(shareInWords(finding({ fault: 'uneven-shares', eligible: 6 }))).toBe('Over 6 bows.');
    expect(shareInWords(finding({ fault: 'neighbour-touched', third: 'all', strokes: [0, 1, 2], eligible: 6 }))).toBe('In 3 of 6 bows, on the A string.');
    expect(shareInWords(finding({ fault: 'scroll-droops', share: 0.62 }))).toBe('For 62 % of the time it could be seen.');
  });
  it('calls a change within the measuring error none', () => {
    const change = { by: -5.2, u: 2, verdict: 'better' } as const;
    const before = { value: 19.4, u: 2 };
    expect(sinceInWords(finding({}), { before, change } as never, '3 Nov')).toBe('19° on 3 Nov: better by 5° ±2');
    const pegs = finding({ fault: 'cello-leaning-off', quantity: 'peg_ear_mm' });
    expect(sinceInWords(pegs, { before: { value: 231.4, u: 24 }, change: { by: -80, u: 30, verdict: 'better' } } as never, '3 Nov')).toBe('231 mm on 3 Nov: better by 80 mm ±30');
    expect(sinceInWords(finding({}), { before, change: { ...change, verdict: 'same' } } as never, '3 Nov')).toBe('19° on 3 Nov: no real change');
  });
  it('names a cause only with its evidence, and says so where it cannot be told', () => {
    const arm = { quantity: 'bow_rotation_deg', value: 13, u: 2, says: '' };
    const instrument = { quantity: 'instrument_rotation_deg', value: 1, u: 1, says: '' };
    const told = causeInWords(finding({ cause: 'arm-swung', evidence: [arm, instrument] as Finding['evidence'] }))!;
    expect(told.cause).toBe(CAUSES['arm-swung']);
    expect(told.evidence).toContain('the bow turned 13° ±2 in the room, the instrument 1° ±1');
    expect(causeInWords(finding({ evidence: [arm, instrument] as Finding['evidence'] }))!.cause).toBe('arm or instrument cannot be told apart here');
    const late = { quantity: 'elbow_lag_ms', value: 200, u: 30, says: 'the upper arm changes level 200 ms after the bow' };
    expect(causeInWords(finding({ fault: 'crossing-late', cause: 'arm-late', evidence: [late] as Finding['evidence'] }))).toEqual({
      cause: 'the arm follows the bow',
      evidence: 'The upper arm changes level 200 ms after the bow.',
    });
    expect(causeInWords(finding({ fault: 'neighbour-touched', evidence: [late] as Finding['evidence'] }))!.cause).toContain('cannot be told');
    expect(causeInWords(finding({ cause: 'squeezing' }))!.evidence).toBe('As you see it.');
    expect(causeInWords(finding({}))).toBeUndefined();
    // A doubtful share of the elbow helps nobody.
    const share = (u: number) => causeInWords(finding({ evidence: [arm, instrument, { quantity: 'forearm_share', value: 0.3, u, says: '' }] as Finding['evidence'] }))!.evidence;
    expect(share(0.1)).toContain('the elbow made 30 % ±10');
    expect(share(0.4)).not.toContain('the elbow made');
  });
});

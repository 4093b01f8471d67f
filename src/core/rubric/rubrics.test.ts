import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BAND_FACTS, type BandName } from './bandFacts';
import { ruleRecords, type Word } from './dismissals';
import { asksTheSame, changeBand, copyRubric, nextVersion, renameRubric } from './editing';
import { LEVEL_WRIST, MIDDLE_OF_STRIP, PARALLEL_ARM, RUBRICS } from './rubric';

describe('editing a rubric', () => {
  it('copies without touching the school it came from', () => {
    const own = changeBand(copyRubric(PARALLEL_ARM, 'mine', ' Mine '), 'skew', { fault: 12 });
    expect([own.name, own.version, own.bands.skew.fault, PARALLEL_ARM.bands.skew.fault]).toEqual(['Mine', 1, 12, 10]);
    expect(asksTheSame(own, PARALLEL_ARM)).toBe(false);
    expect(asksTheSame(renameRubric(own, 'Ours'), own)).toBe(true);
    expect(nextVersion(own).version).toBe(2);
  });

  it('never leaves a band whose fault begins inside of what is good', () => {
    fc.assert(
      fc.property(fc.double({ min: -5, max: 30, noNaN: true }), fc.double({ min: -5, max: 30, noNaN: true }), (good, fault) => {
        let changed = MIDDLE_OF_STRIP;
        try {
          changed = changeBand(MIDDLE_OF_STRIP, 'skew', { good, fault });
        } catch (error) {
          expect((error as Error).name).toBe('BandError');
        }
        expect(changed.bands.skew.good).toBeGreaterThan(0);
        expect(changed.bands.skew.fault).toBeGreaterThanOrEqual(changed.bands.skew.good);
      }),
    );
  });

  it('says what is wrong in words', () => {
    expect(() => changeBand(MIDDLE_OF_STRIP, 'skew', { good: Number.NaN })).toThrow('Give a number.');
    expect(() => changeBand(MIDDLE_OF_STRIP, 'armBowGap', { good: 3 })).toThrow('not asked');
    expect(() => copyRubric(MIDDLE_OF_STRIP, 'x', '  ')).toThrow('needs a name');
  });

  it('has facts and a span wide enough for every band of every school', () => {
    for (const rubric of RUBRICS)
      for (const [name, band] of Object.entries(rubric.bands)) {
        const { range } = BAND_FACTS[name as BandName];
        const middle = 'middle' in band ? band.middle : 0;
        expect(middle + band.fault).toBeLessThanOrEqual(range[1] + 1e-9);
        if ('middle' in band) expect(middle - band.fault).toBeGreaterThanOrEqual(range[0] - 1e-9);
      }
    expect(LEVEL_WRIST.bands.elbowRise).toBeDefined();
  });
});

describe('words on rules', () => {
  const { bands } = MIDDLE_OF_STRIP;
  const word = (verdict: Word['verdict'], value: number, reason?: Word['reason']): Word => ({ fault: 'tip-to-scroll', verdict, value, ...(reason ? { reason } : {}) });

  it('are counted by rule and reason, the most dismissed first', () => {
    const records = ruleRecords([word('confirmed', 15), word('dismissed', 11, 'measured-wrongly'), { fault: 'at-bridge', verdict: 'confirmed' }], bands);
    expect(records.map((r) => [r.fault, r.judged, r.dismissed])).toEqual([
      ['tip-to-scroll', 2, 1],
      ['at-bridge', 1, 0],
    ]);
    expect(records[0]!.reasons['measured-wrongly']).toBe(1);
  });

  it('suggest a wider edge only when "good enough" was said often and the confirmed lie beyond it', () => {
    const enough = [11, 12, 12.5, 13].map((v) => word('dismissed', v, 'good-enough'));
    const [wider] = ruleRecords([...enough, word('confirmed', 18), word('confirmed', 20)], bands);
    expect(wider!.suggested).toBeGreaterThan(12);
    expect(wider!.suggested).toBeLessThan(13.1);
    expect(ruleRecords(enough.slice(0, 2), bands)[0]!.suggested).toBeUndefined();
    expect(ruleRecords([...enough, word('confirmed', 11), word('confirmed', 12)], bands)[0]!.suggested).toBeUndefined();
    expect(
      ruleRecords(
        [11, 12, 13, 14, 15].map((v) => word('dismissed', v, 'not-now')),
        bands,
      )[0]!.suggested,
    ).toBeUndefined();
  });

  it('of a rule below the band measure from its middle downward', () => {
    const words: Word[] = [-11, -12, -13, -12, -12].map((value) => ({ fault: 'tip-to-player', verdict: 'dismissed', reason: 'good-enough', value }));
    const [record] = ruleRecords(words, bands);
    expect(record!.suggested).toBeCloseTo(12.2, 0);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { beyond, faultEdges, goodEdges } from './band';
import { BAND_FACTS, BAND_GROUPS, type BandName } from './bandFacts';
import { ruleRecords, type Word } from './dismissals';
import { asksTheSame, changeBand, changeWord, copyRubric, nextVersion, renameRubric, saysTheSame } from './editing';
import { bandsFor, LEVEL_WRIST, MIDDLE_OF_STRIP, PARALLEL_ARM, RUBRICS, wordFor } from './rubric';

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
        for (const edge of [...faultEdges(band), ...goodEdges(band)]) {
          expect(edge).toBeLessThanOrEqual(range[1] + 1e-9);
          expect(edge).toBeGreaterThanOrEqual(range[0] - 1e-9);
        }
      }
    expect(LEVEL_WRIST.bands.elbowRise).toBeDefined();
    // Every band stands in one group.
    expect(BAND_GROUPS.flatMap(([, bands]) => bands).sort()).toEqual(Object.keys(BAND_FACTS).sort());
  });
});

describe('words for sounds', () => {
  it("are the teacher's own until taken back", () => {
    const own = changeWord(MIDDLE_OF_STRIP, 'airy', ' foggy ');
    expect([wordFor(own, 'airy'), wordFor(own, 'glassy'), wordFor(MIDDLE_OF_STRIP, 'airy')]).toEqual(['foggy', 'glassy', 'airy']);
    expect(saysTheSame(own, MIDDLE_OF_STRIP)).toBe(false);
    expect(changeWord(own, 'airy', '')).toEqual(MIDDLE_OF_STRIP);
  });
  it('a rubric kept before a band was known is judged with the usual one', () => {
    const { trunkLean: _, ...older } = MIDDLE_OF_STRIP.bands;
    expect(bandsFor({ ...MIDDLE_OF_STRIP, bands: older as never }, 'later').trunkLean).toEqual(MIDDLE_OF_STRIP.bands.trunkLean);
  });
});

describe('bands', () => {
  it('give beginners room on every side', () => {
    const bands = bandsFor(MIDDLE_OF_STRIP, 'first-year');
    expect(bands.skew.fault).toBeCloseTo(12, 9);
    expect(bands.contactRange.fault).toBeCloseTo(0.3, 9);
    expect(bands.swing.fault).toBe(6);
    expect(bands.thumbBend.fault).toBeCloseTo(10 / 1.2, 9);
  });

  it('tell how far beyond an edge a value lies', () => {
    const { thumbBend, skew, contactRange } = MIDDLE_OF_STRIP.bands;
    expect(beyond(thumbBend, 'below', 4)).toBe(6);
    expect(beyond(skew, 'above', 13)).toBe(3);
    expect(beyond(skew, 'below', -13)).toBe(3);
    expect(beyond(skew, 'either', -13)).toBe(3);
    expect(beyond(contactRange, 'above', 0.3)).toBeCloseTo(0.05, 9);
  });

  it('of a least value are edited from below', () => {
    expect(changeBand(MIDDLE_OF_STRIP, 'thumbBend', { fault: 5 }).bands.thumbBend).toEqual({ least: 10, fault: 5, most: 90 });
    expect(() => changeBand(MIDDLE_OF_STRIP, 'thumbBend', { fault: 12 })).toThrow('inside of what is good');
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

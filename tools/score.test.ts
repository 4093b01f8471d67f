import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normal, seededRandom } from '../src/core/random';
import { pairsOf, readTable, scoreOf, stringScore } from './score';

const TRUTH = readTable('frame,skew_deg,string\r\n0,1.5,A\r\n1,2,A\r\n2,,E\r\n3,-1,E\r\n');

describe('comparing measures with the truth', () => {
  it('goes by the frame, whatever the order of the rows, and counts what could have been measured', () => {
    const measures = readTable('frame,t,skew_deg,skew_deg_u,string\n3,0.12,-0.5,0.25,E\n0,0,1.5,1,A\n1,0.04,,,G\n2,0.08,7,1,E\n');
    const { pairs, possible } = pairsOf(measures, TRUTH, 'skew_deg');
    // Frame 1 was not measured, frame 2 has no truth.
    expect(pairs).toEqual([
      { error: 0, u: 1 },
      { error: 0.5, u: 0.25 },
    ]);
    expect(possible).toBe(3);
    expect(scoreOf('skew_deg', pairs, possible).coverage).toBeCloseTo(2 / 3, 12);
    expect(stringScore(measures, TRUTH)).toEqual({ right: 3, named: 4 });
  });

  it('never takes what is absent for nought', () => {
    const { pairs } = pairsOf(readTable('frame,skew_deg,skew_deg_u\n0,,\n1,,\n3,0,0.5\n'), TRUTH, 'skew_deg');
    expect(pairs).toEqual([{ error: 1, u: 0.5 }]);
    expect(stringScore(readTable('frame,string\n0,\n1,A\n'), TRUTH)).toEqual({ right: 1, named: 1 });
    const none = scoreOf('skew_deg', [], 3);
    expect(none.coverage).toBe(0);
    expect(none.within.every(Number.isNaN)).toBe(true);
  });

  it('finds 68, 95 and 99.7 % of normal errors within one, two and three honest u (closed form: the normal distribution)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const random = seededRandom(seed);
        const pairs = Array.from({ length: 4000 }, () => {
          const u = 0.2 + random();
          return { error: u * normal(random), u };
        });
        const { within, bias } = scoreOf('x', pairs, 5000);
        expect(within[0]).toBeCloseTo(0.683, 1);
        expect(Math.abs(within[1] - 0.954)).toBeLessThan(0.02);
        expect(within[2]).toBeGreaterThan(0.99);
        expect(Math.abs(bias)).toBeLessThan(0.08);
      }),
      { numRuns: 20 },
    );
  });

  it('tells the size of errors apart from their lean', () => {
    const leaning = scoreOf(
      'x',
      Array.from({ length: 100 }, (_, i) => ({ error: 2 + i / 100, u: 1 })),
      100,
    );
    expect(leaning.bias).toBeCloseTo(2.5, 1);
    expect(leaning.median).toBeCloseTo(2.5, 1);
    const spread = scoreOf(
      'x',
      Array.from({ length: 101 }, (_, i) => ({ error: i - 50, u: 10 })),
      101,
    );
    expect(spread.bias).toBeCloseTo(0, 9);
    expect(spread.median).toBeCloseTo(25, 9);
    expect(spread.p95).toBeGreaterThanOrEqual(47);
    expect(spread.within[0]).toBeCloseTo(21 / 101, 9);
  });
});

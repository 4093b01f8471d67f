import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Stroke } from '../strokes/stroke';
import type { TakeMeasures } from '../take/analyse';
import { changeOf, type TrendPoint, trendPoint } from './trend';

const take = (ranges: readonly (number | undefined)[], u = 0.02) =>
  ({ frames: [], strokes: ranges.map((value) => (value === undefined ? {} : { contactRange: { value, u } }) as Stroke) }) as unknown as TakeMeasures;
const point = (value: number, { spread = 1, strokes = 5, shared = 1 } = {}): TrendPoint => ({ value, spread, strokes, shared });
const GOOD = [-5, 5] as const;

describe('a trend', () => {
  it('is the mean over the strokes that show it, with their spread', () => {
    const p = trendPoint(take([0.2, 0.3, undefined, 0.4]), 'contact_range')!;
    expect(p.value).toBeCloseTo(0.3, 9);
    expect(p.spread).toBeCloseTo(0.1, 9);
    expect(p).toMatchObject({ strokes: 3, shared: 0.02 });
  });
  it('says nothing from two strokes', () => {
    expect(trendPoint(take([0.2, 0.3]), 'contact_range')).toBeUndefined();
  });
});

describe('a change from take to take', () => {
  it('counts only beyond twice its uncertainty (closed form of the measurement reference, section 6)', () => {
    const { by, u, verdict } = changeOf(point(16), point(12), GOOD);
    expect(by).toBe(-4);
    expect(u).toBeCloseTo(Math.sqrt(1 / 5 + 1 / 5 + 1 + 1), 12);
    expect(verdict).toBe('better');
    expect(changeOf(point(16), point(13.2), GOOD).verdict).toBe('same');
  });
  it('is better toward what is good on either side, worse away from it, and none within it', () => {
    expect(changeOf(point(-16), point(-9), GOOD).verdict).toBe('better');
    expect(changeOf(point(7), point(15), GOOD).verdict).toBe('worse');
    expect(changeOf(point(-4), point(4), GOOD).verdict).toBe('same');
    expect(changeOf(point(12), point(-12), GOOD).verdict).toBe('same');
  });
  it('the other way round is the opposite', () => {
    const opposite = { better: 'worse', worse: 'better', same: 'same' } as const;
    fc.assert(
      fc.property(fc.float({ min: -30, max: 30, noNaN: true }), fc.float({ min: -30, max: 30, noNaN: true }), (a, b) => {
        expect(changeOf(point(b), point(a), GOOD).verdict).toBe(opposite[changeOf(point(a), point(b), GOOD).verdict]);
      }),
    );
  });
});

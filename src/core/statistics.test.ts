import * as d3 from 'd3';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { firstFrom, nearestIndex } from './nearestIndex';
import { normal, seededRandom } from './random';
import { deviation, mean, median, normalCdf, quantile, relativeSpread, SIGMA_OF_MEDIAN, slope } from './statistics';

const number = fc.double({ min: -1e4, max: 1e4, noNaN: true });
const numbers = fc.array(number, { minLength: 2, maxLength: 60 });

describe('statistics', () => {
  it('agree with d3-array, a general-purpose library: mean, median, quantiles, deviation', () => {
    fc.assert(
      fc.property(numbers, fc.double({ min: 0, max: 1, noNaN: true }), (values, q) => {
        expect(mean(values)).toBeCloseTo(d3.mean(values)!, 6);
        expect(median(values)).toBeCloseTo(d3.median(values)!, 6);
        expect(quantile(values, q)).toBeCloseTo(d3.quantile(values, q)!, 6);
        expect(deviation(values)).toBeCloseTo(d3.deviation(values)!, 6);
      }),
    );
  });
  it('say nothing of nothing: no number comes from an empty list, no spread from one', () => {
    expect(median([1, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY])).toBe(Number.POSITIVE_INFINITY);
    for (const empty of [mean([]), median([]), quantile([], 0.3), relativeSpread([]), deviation([3])]) expect(empty).toBeNaN();
  });
  it('leave what they are given as it was', () => {
    const given = [3, 1, 2];
    median(given);
    expect(given).toEqual([3, 1, 2]);
  });
  it('relative spread is 0 for alike numbers and does not depend on their unit', () => {
    expect(relativeSpread([4, 4, 4])).toBe(0);
    // Closed form: two numbers a(1 - e) and a(1 + e) spread by e.
    expect(relativeSpread([0.8, 1.2])).toBeCloseTo(0.2, 12);
    expect(relativeSpread([80, 120])).toBeCloseTo(0.2, 12);
  });
});

describe('the slope of a line through points', () => {
  it('is that of a line, without doubt, whatever its points', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: -50, max: 50 }), { minLength: 3, maxLength: 30 }),
        fc.integer({ min: -9, max: 9 }),
        fc.integer({ min: -9, max: 9 }),
        (x, k, c) => {
          const fit = slope(
            x,
            x.map((v) => k * v + c),
          )!;
          expect(fit.slope).toBeCloseTo(k, 9);
          expect(fit.u).toBeCloseTo(0, 6);
        },
      ),
    );
  });
  it('has the uncertainty of the textbook: sigma over the root of the sum of squares (closed form), as its scatter over many draws', () => {
    const random = seededRandom(5);
    const x = Array.from({ length: 20 }, (_, i) => i);
    const fits = Array.from(
      { length: 600 },
      () =>
        slope(
          x,
          x.map((v) => 2 * v + 3 * normal(random)),
        )!,
    );
    const expected = 3 / Math.sqrt(x.reduce((sum, v) => sum + (v - 9.5) ** 2, 0));
    expect(deviation(fits.map((f) => f.slope)) / expected).toBeCloseTo(1, 1);
    expect(mean(fits.map((f) => f.u)) / expected).toBeCloseTo(1, 1);
  });
  it('is not told from two points, nor from points above each other', () => {
    expect(slope([1, 2], [1, 2])).toBeUndefined();
    expect(slope([4, 4, 4], [1, 2, 3])).toBeUndefined();
  });
});

describe('the normal distribution', () => {
  it('has the values of printed tables (0, 1, 1.645, 1.96, 3 sigma)', () => {
    for (const [z, p] of [
      [0, 0.5],
      [1, 0.8413447],
      [1.6448536, 0.95],
      [1.959964, 0.975],
      [3, 0.9986501],
      [-1, 0.1586553],
    ] as const)
      expect(normalCdf(z)).toBeCloseTo(p, 6);
  });
  it('rises from 0 to 1 and is the same on both sides', () => {
    fc.assert(
      fc.property(fc.double({ min: -8, max: 8, noNaN: true }), fc.double({ min: 0.01, max: 4, noNaN: true }), (z, further) => {
        expect(normalCdf(z + further)).toBeGreaterThanOrEqual(normalCdf(z));
        expect(normalCdf(z) + normalCdf(-z)).toBeCloseTo(1, 6);
      }),
    );
  });
});

describe('seeded random numbers', () => {
  const draw = (seed: number, count: number, of: (random: () => number) => number = (random) => random()) => {
    const random = seededRandom(seed);
    return Array.from({ length: count }, () => of(random));
  };
  it('are the same for a seed and others for another', () => {
    expect(draw(7, 20)).toEqual(draw(7, 20));
    expect(draw(7, 20)).not.toEqual(draw(8, 20));
  });
  it('fill 0 to 1 evenly (chi squared over ten bins, below the 99.9 % point 27.9)', () => {
    for (const seed of [1, 2, 3]) {
      const values = draw(seed, 5000);
      const bins = Array.from({ length: 10 }, (_, k) => values.filter((v) => Math.floor(10 * v) === k).length);
      expect(bins.reduce((a, b) => a + b)).toBe(5000);
      expect(bins.reduce((sum, n) => sum + (n - 500) ** 2 / 500, 0)).toBeLessThan(27.9);
    }
  });
  it('make normal ones of mean 0 and deviation 1, whose median distance is what the constant says', () => {
    const values = draw(11, 20000, normal);
    expect(Math.abs(mean(values))).toBeLessThan(0.03);
    expect(deviation(values)).toBeCloseTo(1, 1);
    expect(SIGMA_OF_MEDIAN * median(values.map(Math.abs))).toBeCloseTo(1, 1);
    expect(values.filter((v) => v < 1.96).length / values.length).toBeCloseTo(normalCdf(1.96), 2);
  });
});

describe('finding a time in a list', () => {
  const times = fc.uniqueArray(fc.integer({ min: 0, max: 500 }), { minLength: 1, maxLength: 40 }).map((list) => list.sort((a, b) => a - b));
  it('gives the first at or after it, as d3.bisectLeft does', () => {
    fc.assert(
      fc.property(times, fc.integer({ min: -10, max: 510 }), (list, t) => {
        expect(firstFrom(list, t)).toBe(d3.bisectLeft(list, t));
      }),
    );
  });
  it('gives the nearest: none lies nearer', () => {
    fc.assert(
      fc.property(times, fc.double({ min: -10, max: 510, noNaN: true }), (list, t) => {
        const away = Math.abs(list[nearestIndex(list, t)]! - t);
        for (const other of list) expect(Math.abs(other - t)).toBeGreaterThanOrEqual(away);
      }),
    );
    expect(nearestIndex([], 3)).toBe(0);
  });
});

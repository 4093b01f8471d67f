import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lift, liftOf, lightOf, sharpen } from './tone';

/** Grey pixels of a brightness each, opaque. */
const greys = (values: readonly number[]) => Uint8ClampedArray.from(values.flatMap((v) => [v, v, v, 255]));
const values = (data: Uint8ClampedArray) => Array.from({ length: data.length / 4 }, (_, i) => data[4 * i]!);
const level = fc.integer({ min: 0, max: 255 });

describe('the light of a picture', () => {
  it('is its mean, and that of its brighter half', () => {
    expect(lightOf(greys([10, 20, 110, 120]))).toEqual({ mean: expect.closeTo(65, 3), bright: expect.closeTo(115, 3) });
    expect(lightOf(Uint8ClampedArray.from([255, 0, 0, 255])).mean).toBe(Math.round(0.2126 * 255));
  });

  it('asks for a lift only where it is dark, the more the darker', () => {
    expect(liftOf({ mean: 60, bright: 120 })).toBeUndefined();
    const lifts = [80, 60, 40, 20].map((bright) => liftOf({ mean: bright / 2, bright })!);
    for (const [i, e] of lifts.entries()) {
      expect(e).toBeLessThan(i === 0 ? 1 : lifts[i - 1]! + 1e-9);
      expect(e).toBeGreaterThanOrEqual(0.4);
    }
    // A lit player in a dark hall.
    expect(liftOf(lightOf(greys([5, 5, 5, 5, 130, 140, 150, 160])))).toBeUndefined();
    expect(liftOf({ mean: 0, bright: 0 })).toBe(0.4);
  });
});

describe('a lifted picture', () => {
  it('keeps black, white, opacity and every order of brightness', () => {
    fc.assert(
      fc.property(fc.array(level, { minLength: 2, maxLength: 20 }), fc.double({ min: 0.4, max: 1, noNaN: true }), (given, exponent) => {
        const data = greys([0, ...given, 255]);
        lift(data, exponent);
        const out = values(data);
        expect(out[0]).toBe(0);
        expect(out.at(-1)).toBe(255);
        given.forEach((v, i) => {
          expect(out[i + 1]).toBeGreaterThanOrEqual(v);
          given.forEach((w, j) => {
            if (w > v) expect(out[j + 1]).toBeGreaterThanOrEqual(out[i + 1]!);
          });
        });
        expect(data.every((v, i) => (i & 3) !== 3 || v === 255)).toBe(true);
      }),
    );
  });

  it('is as bright as asked: the dark one reaches what networks are used to', () => {
    const data = greys([70, 70, 70, 70]);
    lift(data, liftOf(lightOf(data))!);
    expect(Math.abs(values(data)[0]! - 140)).toBeLessThan(2);
  });
});

describe('a sharpened picture', () => {
  it('is the same where it was flat, and steeper at an edge, within black and white', () => {
    const flat = greys([90, 90, 90]);
    sharpen(flat, greys([90, 90, 90]), 2);
    expect(values(flat)).toEqual([90, 90, 90]);
    const edge = greys([80, 90, 120, 160, 250]);
    sharpen(edge, greys([83, 97, 123, 177, 220]), 2);
    expect(values(edge)).toEqual([74, 76, 114, 126, 255]);
  });

  it('brings back the steepness a slight blur has taken from an edge, in its place', () => {
    const soften = (list: readonly number[], sigma: number) =>
      list.map((_, i) => {
        let [sum, weights] = [0, 0];
        list.forEach((v, j) => {
          const w = Math.exp(-0.5 * ((i - j) / sigma) ** 2);
          sum += w * v;
          weights += w;
        });
        return sum / weights;
      });
    const truth = Array.from({ length: 40 }, (_, i) => (i < 20 ? 60 : 180));
    const blurred = soften(truth, 1.6);
    const data = greys(blurred);
    sharpen(data, greys(soften(blurred, 1.7)), 2);
    const steps = (list: readonly number[]) => list.slice(1).map((v, k) => v - list[k]!);
    const steepest = (list: readonly number[]) => Math.max(...steps(list));
    expect(steepest(values(data))).toBeGreaterThan(1.5 * steepest(blurred));
    expect(steps(values(data)).indexOf(steepest(values(data)))).toBe(steps(truth).indexOf(120));
  });
});

import { describe, expect, it } from 'vitest';
import { meanAbout, meanOf, nearestIn } from './stepsOverTime';

const seen = Array.from({ length: 21 }, (_, k) => ({ t: k / 5, values: [k / 5, 7] }));

describe('what was seen over time', () => {
  it('is averaged alike to both sides of a time, so that what changes evenly stays as it is', () => {
    const [first, second] = meanAbout(seen, 2)(2)!;
    expect(first).toBeCloseTo(2, 9);
    expect(second).toBeCloseTo(7, 9);
  });
  it('tells nothing of times it is far from', () => {
    expect(meanAbout(seen, 2)(5)).toBeUndefined();
    expect(meanAbout([], 2)(0)).toBeUndefined();
  });
  it('counts by weight, and not where nothing weighs', () => {
    expect(meanOf(seen, 1, ({ t }) => (t === 1 ? 3 : t === 3 ? 1 : 0))).toEqual([1.5]);
    expect(meanOf(seen, 1, () => 0)).toBeUndefined();
  });
  it('is nearest in time', () => {
    expect(nearestIn(seen, 1.29).t).toBeCloseTo(1.2, 9);
    expect(nearestIn(seen, -4).t).toBe(0);
  });
});

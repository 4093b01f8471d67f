import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { spaced } from './spaced';

const rising = fc.uniqueArray(fc.double({ min: 0, max: 20, noNaN: true }), { minLength: 1, maxLength: 80 }).map((times) => times.sort((a, b) => a - b));

describe('frames so many seconds apart', () => {
  it('begin with the first, are never nearer, and leave out nothing that is far enough from all that were kept before it', () => {
    fc.assert(
      fc.property(rising, fc.double({ min: 0.01, max: 2, noNaN: true }), (times, seconds) => {
        const kept = spaced(times, (t) => t, seconds);
        expect(kept[0]).toBe(times[0]);
        for (const [i, t] of kept.entries()) if (i > 0) expect(t).toBeGreaterThanOrEqual(kept[i - 1]! + seconds);
        for (const t of times) if (!kept.includes(t)) expect(kept.some((k) => k < t && t < k + seconds)).toBe(true);
      }),
    );
  });
  it('of nothing are none', () => {
    expect(spaced([], (t: number) => t, 1)).toEqual([]);
  });
});

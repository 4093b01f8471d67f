import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { propagated } from './propagate';

describe('propagated uncertainty', () => {
  it('of a sum of independent numbers is the root of their squares (closed form)', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.1, max: 9, noNaN: true }), fc.double({ min: 0.1, max: 9, noNaN: true }), (a, b) => {
        expect(propagated([3, 4], [a * a, 0, 0, b * b], ([x, y]) => x! + y!)).toBeCloseTo(Math.hypot(a, b), 6);
        expect(propagated([3, 4], [a * a, 0, 0, b * b], ([x]) => 2 * x!)).toBeCloseTo(2 * a, 6);
      }),
    );
  });
  it('drops out of a difference for what both share', () => {
    expect(propagated([3, 4], [4, 4, 4, 4], ([x, y]) => x! - y!)).toBeCloseTo(0, 9);
    expect(propagated([3, 4], [4, 4, 4, 4], ([x, y]) => x! + y!)).toBeCloseTo(4, 9);
  });
});

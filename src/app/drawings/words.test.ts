import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { degrees, millimetres, ordinal, partOfBow, plusMinus, skewInWords } from './words';

describe('numbers in words', () => {
  it('name the side to which the tip points, and call the near square so', () => {
    expect(skewInWords(12.4)).toBe('12° to the scroll');
    expect(skewInWords(-7.6)).toBe('8° to the player');
    expect(skewInWords(-0.9)).toBe('Square');
  });

  it('never show a sign, nor a side without its angle', () => {
    fc.assert(
      fc.property(fc.double({ min: -60, max: 60, noNaN: true }), (value) => {
        expect(degrees(value)).toMatch(/^\d+°$/);
        expect(skewInWords(value)).toMatch(/^Square$|^[1-9]\d*° to the (scroll|player)$/);
      }),
    );
  });

  it('never claim to be surer than the last digit shown', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 40, noNaN: true }), fc.integer({ min: 0, max: 2 }), (u, digits) => {
        expect(Number(plusMinus(u, digits).slice(1))).toBeGreaterThanOrEqual(10 ** -digits);
        expect(plusMinus(u, digits)).toMatch(digits === 0 ? /^±\d+$/ : new RegExp(`^±\\d+\\.\\d{${digits}}$`));
      }),
    );
  });

  it('tell a contact behind the bridge from one before it', () => {
    expect(millimetres(27.2)).toBe('27 mm from the bridge');
    expect(millimetres(-3.4)).toBe('3 mm behind the bridge');
  });

  it('go along the bow in order, and count strokes as one says them', () => {
    const parts = Array.from({ length: 101 }, (_, i) => partOfBow(i / 100));
    expect([...new Set(parts)]).toEqual(['at the frog', 'near the frog', 'in the middle', 'near the tip', 'at the tip']);
    expect([0, 1, 11, 12].map(ordinal)).toEqual(['first', 'second', 'twelfth', '13th']);
  });
});

import fc from 'fast-check';
import { expect, it } from 'vitest';
import { nthSmallest } from './nthSmallest';

it('gives what sorting would put at a place, whatever follows the counted numbers', () => {
  // Zero has one sign here: sorting tells them apart, the search does not.
  const number = fc.oneof(fc.integer({ min: -3, max: 3 }), fc.double({ noNaN: true, noDefaultInfinity: true })).map((v) => v + 0);
  const numbers = fc.array(number, { minLength: 1, maxLength: 80 });
  fc.assert(
    fc.property(numbers, fc.array(number, { maxLength: 5 }), fc.nat(), (first, rest, at) => {
      const n = at % first.length;
      const values = Float64Array.from([...first, ...rest]);
      expect(nthSmallest(values, first.length, n)).toBe(Float64Array.from(first).sort()[n]);
      expect([...values.subarray(0, first.length)].sort()).toEqual([...first].sort());
      expect([...values.subarray(first.length)]).toEqual(rest);
    }),
  );
});

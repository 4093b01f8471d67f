import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Stray } from '../crossings/strays';
import { strayCause, straysToCsv } from './straysCsv';

const stray = (change: Partial<Stray> = {}): Stray =>
  ({ from: 1.234, to: 1.406, string: 'D', position: 0.1, inCrossing: true, why: 'early', confidence: 0.8765, ...change }) as Stray;

describe('stray strings as a table', () => {
  it('brackets each place in words a teacher can pencil into the part', () => {
    const [head, first, second, end] = straysToCsv([stray(), stray({ inCrossing: false, why: 'too-low', position: 0.9, string: 'E' })]).split('\r\n');
    expect(head).toBe('bracket,from_s,to_s,string,place_on_bow,where,why,confidence');
    expect(first).toBe(`1,1.23,1.41,D,frog,crossing,${strayCause(stray())},0.88`);
    expect(second).toBe('2,1.23,1.41,E,tip,within a string,arm too low,0.88');
    expect(end).toBe('');
  });

  it('leaves the place on the bow empty where it is not known, also at the very frog', () => {
    const place = (position: number | undefined) =>
      straysToCsv([stray({ position })])
        .split('\r\n')[1]!
        .split(',')[4];
    expect(place(undefined)).toBe('');
    expect(place(0)).toBe('frog');
  });

  it('has as many cells in every row as in its head, and a number for every bracket', () => {
    const any = fc.record({
      from: fc.double({ min: 0, max: 600, noNaN: true }),
      to: fc.double({ min: 0, max: 600, noNaN: true }),
      string: fc.constantFrom('G', 'D', 'A', 'E', 'C'),
      position: fc.option(fc.double({ min: 0, max: 1, noNaN: true }), { nil: undefined }),
      inCrossing: fc.boolean(),
      why: fc.constantFrom('early', 'late', 'too-high', 'too-low'),
      confidence: fc.double({ min: 0, max: 1, noNaN: true }),
    });
    fc.assert(
      fc.property(fc.array(any, { maxLength: 8 }), (strays) => {
        const lines = straysToCsv(strays as Stray[])
          .trimEnd()
          .split('\r\n');
        expect(lines).toHaveLength(strays.length + 1);
        lines.slice(1).forEach((line, i) => {
          expect(line.split(',')).toHaveLength(8);
          expect(line.startsWith(`${i + 1},`)).toBe(true);
        });
      }),
    );
  });
});

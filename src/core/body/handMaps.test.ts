import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { HAND_CELLS, HAND_INPUT, HAND_POINTS, readHandMaps } from './handMaps';

const PLANE = HAND_CELLS * HAND_CELLS;
const PITCH = HAND_INPUT / HAND_CELLS;

/** Maps whose places are Gaussians of that spread (cells), with the depth maps all one number. */
function maps(place: readonly [number, number], spread: number, depth: number): Float64Array {
  const out = new Float64Array(2 * HAND_POINTS * PLANE);
  for (let n = 0; n < HAND_POINTS; n++)
    for (let i = 0; i < PLANE; i++) {
      out[n * PLANE + i] = -(((i % HAND_CELLS) - place[0]) ** 2 + (Math.floor(i / HAND_CELLS) - place[1]) ** 2) / (2 * spread ** 2);
      out[(HAND_POINTS + n) * PLANE + i] = depth;
    }
  return out;
}

describe('the maps of the hand network', () => {
  const inside = fc.double({ min: 9, max: 22, noNaN: true });
  it('say where a joint is, to a fraction of a cell, and how deep', () => {
    fc.assert(
      fc.property(inside, inside, fc.double({ min: -2, max: 2, noNaN: true }), (x, y, depth) => {
        const joints = readHandMaps(maps([x, y], 0.8, depth));
        expect(joints).toHaveLength(HAND_POINTS);
        for (const { place, spread, deeper } of joints) {
          expect(place[0]).toBeCloseTo((x + 0.5) * PITCH - 0.5, 1);
          expect(place[1]).toBeCloseTo((y + 0.5) * PITCH - 0.5, 1);
          // As sure as it was taught to be: nothing is left for doubt.
          expect(spread).toBeLessThan(0.5);
          expect(deeper).toBeCloseTo(60 * depth, 6);
        }
      }),
    );
  });
  it('are as unsure as the place is spread', () => {
    expect(readHandMaps(maps([15, 15], 2, 0))[7]!.spread).toBeCloseTo(PITCH * Math.sqrt(2 ** 2 - 0.8 ** 2), 1);
  });
  it('of two places as likely give the middle, and a doubt that holds both', () => {
    const both = maps([8, 16], 0.8, 0);
    const other = maps([24, 16], 0.8, 0);
    for (let i = 0; i < HAND_POINTS * PLANE; i++) both[i] = Math.log(Math.exp(both[i]!) + Math.exp(other[i]!));
    const { place, spread } = readHandMaps(both)[0]!;
    expect(place[0]).toBeCloseTo((16 + 0.5) * PITCH - 0.5, 3);
    expect(spread).toBeGreaterThan(0.7 * 8 * PITCH * Math.SQRT1_2);
  });
});

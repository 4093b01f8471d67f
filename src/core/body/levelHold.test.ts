import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { FrameMeasures } from '../measures/measures';
import { levelHolds } from './levelHold';

const LENGTH = 40;
/** Strokes of 40 frames, down and up in turn; `off` degrees beside the arm's course. */
function take(strokes: number, off: (stroke: number, position: number) => number, u = 6) {
  const frames = Array.from({ length: strokes * LENGTH }, (_, i): FrameMeasures => {
    const stroke = Math.floor(i / LENGTH);
    const way = (i % LENGTH) / (LENGTH - 1);
    const p = stroke % 2 === 0 ? way : 1 - way;
    const inclination = [16, -8, 8][stroke % 3]!;
    const arm = -20 + 0.9 * inclination + 14 * (1 - p) ** 2 + off(stroke, p);
    const values = { upper_arm_elevation_deg: { value: arm, u }, inclination_deg: { value: inclination, u: 1 }, bow_position: { value: p, u: 0.01 } };
    return { frame: i, t: i / 25, values };
  });
  return levelHolds(
    Array.from({ length: strokes }, (_, s) => ({ first: s * LENGTH, last: (s + 1) * LENGTH - 1 })),
    frames,
  );
}

describe('how an arm keeps its level', () => {
  it('is nothing where it follows level and place along the bow, whatever they are', () => {
    for (const hold of take(6, () => 0)) expect(hold!.value).toBeCloseTo(0, 4);
  });
  it('is how far it goes from there and back in one of many strokes', () => {
    fc.assert(
      fc.property(fc.double({ min: 6, max: 20, noNaN: true }), (dip) => {
        const holds = take(12, (stroke, p) => (stroke === 7 ? -dip * Math.sin(Math.PI * p) : 0));
        expect(holds[7]!.value).toBeGreaterThan(0.75 * dip);
        expect(holds[7]!.value).toBeLessThan(1.1 * dip);
        expect(Math.max(...holds.filter((_, i) => i !== 7).map((h) => h!.value))).toBeLessThan(0.35 * dip);
        expect(holds[7]!.u).toBeCloseTo(0.42 * 6, 9);
      }),
      { numRuns: 20 },
    );
  });
  it('is not told of an arm that is hardly known, or of too little', () => {
    expect(take(4, () => 0, 15).every((h) => h === undefined)).toBe(true);
    expect(levelHolds([{ first: 0, last: 5 }], [])).toEqual([undefined]);
  });
});

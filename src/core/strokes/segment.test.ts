import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { FrameMeasures } from '../measures/measures';
import { segmentStrokes } from './segment';
import { thirdOf } from './stroke';

const frame = (i: number, position: number | undefined, extra: FrameMeasures['values'] = {}): FrameMeasures => ({
  frame: i,
  t: i / 25,
  string: 'A',
  values: position === undefined ? extra : { ...extra, bow_position: { value: position, u: 0.01 } },
});

describe('strokes', () => {
  it('are cut at the turning points of the bow', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 7 }), fc.double({ min: 0.2, max: 0.44, noNaN: true }), (count, reach) => {
        const perStroke = 25;
        const frames = Array.from({ length: count * perStroke + 1 }, (_, i) => frame(i, 0.5 - reach * Math.cos((Math.PI * i) / perStroke)));
        const strokes = segmentStrokes(frames);
        expect(strokes).toHaveLength(count);
        strokes.forEach((s, k) => {
          expect(s.direction).toBe(k % 2 === 0 ? 'down' : 'up');
          expect(Math.abs(s.toPosition - s.fromPosition)).toBeCloseTo(2 * reach, 1);
        });
      }),
    );
  });

  it('are not made of trembling below three hundredths of the hair', () => {
    const frames = Array.from({ length: 60 }, (_, i) => frame(i, 0.3 + i * 0.008 + (i % 2) * 0.012));
    expect(segmentStrokes(frames)).toHaveLength(1);
  });

  it('are not made of a travel within its own doubt', () => {
    const landing = (u: number) => Array.from({ length: 40 }, (_, i) => ({ ...frame(i, undefined), values: { bow_position: { value: 0.12 - Math.min(i, 20) * 0.003, u } } }));
    expect(segmentStrokes(landing(0.01))).toHaveLength(1);
    expect(segmentStrokes(landing(0.08))).toHaveLength(0);
  });

  it('are not made of a travel within what is doubted at one end alone, but of one doubted alike all along', () => {
    const approach = (u: (share: number) => number) =>
      Array.from({ length: 40 }, (_, i) => {
        const share = Math.min(i, 15) / 15;
        return { ...frame(i, undefined), values: { bow_position: { value: 0.11 - 0.09 * share, u: u(share) } } };
      });
    expect(segmentStrokes(approach((share) => 0.1 - 0.065 * share))).toHaveLength(0);
    expect(segmentStrokes(approach(() => 0.07))).toHaveLength(1);
    expect(segmentStrokes(approach((share) => 0.04 - 0.03 * share))).toHaveLength(1);
  });

  it('end where nothing was measured for long', () => {
    const frames = Array.from({ length: 60 }, (_, i) => frame(i, i >= 25 && i < 40 ? undefined : i / 60));
    expect(segmentStrokes(frames)).toHaveLength(2);
  });

  it('tell how much the tip swings along the bow', () => {
    const frames = Array.from({ length: 26 }, (_, i) => {
      const p = 0.05 + (0.9 * i) / 25;
      return frame(i, p, { skew_deg: { value: -4 + 18 * p, u: 1 }, contact_fraction: { value: 0.5, u: 0.04 } });
    });
    const [stroke] = segmentStrokes(frames);
    expect(stroke!.arcIndex!.value).toBeCloseTo(18, 0);
    expect(stroke!.thirds.tip.skew_deg!.value).toBeGreaterThan(stroke!.thirds.frog.skew_deg!.value + 8);
    expect(stroke!.contactRange!.value).toBeCloseTo(0, 3);
  });

  it('have thirds named frog, middle, tip', () => {
    expect([0.1, 0.5, 0.9].map(thirdOf)).toEqual(['frog', 'middle', 'tip']);
  });
});

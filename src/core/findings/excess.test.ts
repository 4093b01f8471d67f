import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { FrameMeasures } from '../measures/measures';
import type { Stroke } from '../strokes/stroke';
import { dominantThird, type Excess, eligibleStrokes, excessesOf, MIN_EXCESS_SECONDS } from './excess';

const RATE = 25;
/** A bow of so many frames at 25 a second, with skew and place on the bow from its share of the way. */
function bow(frames: number, skew: (share: number) => number, { u = 1, first = 0, index = 0, up = false } = {}): { stroke: Stroke; frames: FrameMeasures[] } {
  const measures = Array.from({ length: frames }, (_, i): FrameMeasures => {
    const share = i / (frames - 1);
    return {
      frame: first + i,
      t: (first + i) / RATE,
      values: { skew_deg: { value: skew(share), u }, bow_position: { value: up ? 1 - share : share, u: 0.01 } },
    };
  });
  const stroke: Stroke = {
    index,
    from: first / RATE,
    to: (first + frames - 1) / RATE,
    first,
    last: first + frames - 1,
    direction: up ? 'up' : 'down',
    fromPosition: up ? 1 : 0,
    toPosition: up ? 0 : 1,
    meanSpeed: 300,
    peakSpeed: 500,
    thirds: { frog: { seconds: 0 }, middle: { seconds: 0 }, tip: { seconds: 0 } },
  };
  return { stroke, frames: measures };
}
const beyondTen = (value: number) => value - 10;
const found = (one: ReturnType<typeof bow>, stage: Parameters<typeof excessesOf>[4] = 'later', within?: readonly [number, number]) =>
  excessesOf(one.frames, [one.stroke], 'skew_deg', beyondTen, stage, within);

describe('what goes beyond an edge', () => {
  it('is the longest stretch of a stroke, with its mean and the thirds it lies in', () => {
    const [excess, ...more] = found(bow(51, (s) => (s > 0.7 ? 14 : s > 0.1 && s < 0.25 ? 20 : 0)));
    expect(more).toEqual([]);
    expect(excess!.value).toEqual({ value: 14, u: 1 });
    expect(excess!.from).toBeCloseTo(36 / RATE, 9);
    expect(excess!.to).toBeCloseTo(2, 9);
    expect(excess!.seconds.frog + excess!.seconds.middle).toBe(0);
    expect(excess!.seconds.tip).toBeCloseTo(15 / RATE, 6);
  });
  it('must be beyond its own doubt, and last', () => {
    expect(found(bow(51, () => 10.9))).toEqual([]);
    expect(found(bow(51, () => 11.1))).toHaveLength(1);
    expect(found(bow(51, () => 14, { u: 5 }))).toEqual([]);
    const shortest = Math.ceil(MIN_EXCESS_SECONDS * RATE);
    const lasting = (frames: number) => found(bow(51, (s) => (Math.round(50 * s) < frames ? 14 : 0))).length;
    expect(lasting(shortest - 1)).toBe(0);
    expect(lasting(shortest)).toBe(1);
  });
  it('is broken off by frames that were not measured', () => {
    const one = bow(51, (s) => (s > 0.8 ? 14 : 0));
    const holed = one.frames.map((f, i) => (i % 3 === 0 ? { ...f, values: { bow_position: f.values.bow_position! } } : f));
    expect(excessesOf(holed, [one.stroke], 'skew_deg', beyondTen, 'later')).toEqual([]);
  });
  it('spares the last tenth of the bow in the first term, where arms are too short', () => {
    const atTip = bow(101, (s) => (s > 0.9 ? 20 : 0));
    expect(found(atTip)).toHaveLength(1);
    expect(found(atTip, 'first-term')).toEqual([]);
  });
  it('is kept to a part of the bow where asked; a place that is not known counts for rows that ask for most of it', () => {
    const all = bow(51, () => 14);
    const lowerHalf = found(all, 'later', [0, 0.5])[0]!;
    expect(lowerHalf.to).toBeCloseTo(1, 9);
    const nowhere = { ...all, frames: all.frames.map((f) => ({ ...f, values: { skew_deg: f.values.skew_deg! } })) };
    expect(found(nowhere, 'later', [0, 0.5])).toEqual([]);
    expect(found(nowhere, 'later', [0.1, 0.9])).toHaveLength(1);
  });
  it('counts the turn of the bow to both sides of it', () => {
    const down = bow(51, (s) => (s > 0.94 ? 14 : 0));
    const up = bow(51, () => 0, { first: 55, index: 1, up: true });
    const turn = bow(4, () => 14, { first: 51 }).frames;
    const frames = [...down.frames, ...turn, ...up.frames];
    const alone = excessesOf(down.frames, [down.stroke], 'skew_deg', beyondTen, 'later');
    const together = excessesOf(frames, [down.stroke, up.stroke], 'skew_deg', beyondTen, 'later');
    expect(alone).toEqual([]);
    expect(together).toHaveLength(1);
    expect(together[0]!.stroke).toBe(0);
  });
  it('never has a mean inside the edge', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -30, max: 30, noNaN: true }), { minLength: 12, maxLength: 40 }), (values) => {
        for (const { value, from, to } of found(bow(values.length, (s) => values[Math.round(s * (values.length - 1))]!))) {
          expect(value.value).toBeGreaterThan(11);
          expect(to - from + 1 / RATE).toBeGreaterThanOrEqual(MIN_EXCESS_SECONDS - 1e-6);
        }
      }),
    );
  });
});

describe('where on the bow it lies', () => {
  const excess = (frog: number, middle: number, tip: number): Excess => ({ stroke: 0, from: 0, to: 1, value: { value: 12, u: 1 }, seconds: { frog, middle, tip } });
  it('is the third that has three fifths of it, over all strokes', () => {
    expect(dominantThird([excess(0, 0.1, 0.3)])).toBe('tip');
    expect(dominantThird([excess(0.3, 0, 0), excess(0.2, 0.1, 0.2)])).toBe('frog');
    expect(dominantThird([excess(0.3, 0.3, 0.3)])).toBe('all');
    expect(dominantThird([])).toBe('all');
  });
  it('is asked of strokes in which it could have shown', () => {
    const [whole, half] = [bow(51, () => 0), bow(51, () => 0)];
    const lower = half.frames.map((f) => ({ ...f, values: { ...f.values, bow_position: { value: f.values.bow_position!.value / 2, u: 0.01 } } }));
    expect(eligibleStrokes(whole.frames, [whole.stroke], 'skew_deg', 'tip')).toHaveLength(1);
    expect(eligibleStrokes(lower, [half.stroke], 'skew_deg', 'tip')).toEqual([]);
    expect(eligibleStrokes(lower, [half.stroke], 'skew_deg', 'all')).toHaveLength(1);
    expect(eligibleStrokes(lower, [half.stroke], 'contact_mm', 'all')).toEqual([]);
  });
});

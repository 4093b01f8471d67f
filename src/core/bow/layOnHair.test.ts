import { describe, expect, it } from 'vitest';
import { layOnHair } from './layOnHair';
import type { BowSighting, HairBeside } from './sighting';

const beside = (atFrog: number, atTip = atFrog): HairBeside => ({ atFrog, atTip, sigmaFrog: 0.3, sigmaTip: 0.3, shared: 0.3 });

/** A level line, frog at the left: a line moved to the right of it, as seen, lies lower. */
function frameAt(t: number, hair: HairBeside | undefined): { t: number; sighting: BowSighting } {
  const line = { a: [100, 200], b: [400, 200], sigmaA: 0.4, sigmaB: 0.4, shareA: 0, shareB: 1 } as const;
  return { t, sighting: { line, frog: undefined, tip: undefined, score: 0.9, ...(hair && { hair }) } };
}

const times = (from: number, to: number) => Array.from({ length: Math.round((to - from) * 25) + 1 }, (_, i) => from + i / 25);
const MARK = { frog: 0.8, tip: 0.8 };

describe('lines laid on the hair', () => {
  it('are moved by what the frames about tell, and are then surer than the mark', () => {
    const laid = layOnHair(
      times(0, 1).map((t) => frameAt(t, beside(1.5, -1))),
      MARK,
      1,
    );
    for (const { sighting } of laid) {
      expect(sighting.line!.a[1]).toBeGreaterThan(201.3);
      expect(sighting.line!.a[1]).toBeLessThan(201.5);
      expect(sighting.line!.b[1]).toBeLessThan(199.15);
      expect(sighting.zero!.frog).toBeLessThan(0.4);
      // What all frames share no number of them takes away.
      expect(sighting.zero!.frog).toBeGreaterThan(0.28);
      expect(sighting.hair).toBeUndefined();
    }
  });
  it('stay on the mark where no hair was seen near enough, as unsure as it', () => {
    const frames = [...times(0, 0.4).map((t) => frameAt(t, beside(2))), ...times(1.5, 2).map((t) => frameAt(t, undefined))];
    const laid = layOnHair(frames, { frog: 3, tip: 0.8 }, 1);
    for (const { t, sighting } of laid) {
      expect(sighting.line!.a[1] > 201.5).toBe(t < 1);
      if (t < 1) continue;
      expect(sighting.line!.a[1]).toBe(200);
      expect(sighting.zero).toEqual({ frog: 3, tip: 0.8 });
    }
  });
  it('follow a look that slides as the string changes, and are not moved by one frame', () => {
    // As they come from following to both sides of a mark: onward, then backward.
    const bothWays = [...times(0.8, 2), ...times(0, 0.76).reverse()];
    const slid = layOnHair(
      bothWays.map((t) => frameAt(t, beside(t < 1 ? 0 : 2))),
      MARK,
      1,
    );
    expect(slid.find((f) => f.t > 0.49)!.sighting.line!.a[1]).toBeCloseTo(200, 1);
    expect(slid.find((f) => f.t > 1.49)!.sighting.line!.a[1]).toBeGreaterThan(201.7);
    const stray = layOnHair(
      times(0, 1).map((t) => frameAt(t, beside(Math.abs(t - 0.52) < 0.01 ? 2 : 0))),
      MARK,
      1,
    );
    for (const { sighting } of stray) expect(sighting.line!.a[1] - 200).toBeLessThan(0.3);
  });
  it('count pixels of larger pictures as they count those of smaller ones', () => {
    const [small, large] = [1, 2].map((unit) => {
      const hair: HairBeside = { atFrog: 1.5 * unit, atTip: 1.5 * unit, sigmaFrog: 0.3 * unit, sigmaTip: 0.3 * unit, shared: 0.3 * unit };
      return layOnHair([frameAt(0, hair)], { frog: 0.8 * unit, tip: 0.8 * unit }, unit)[0]!.sighting;
    });
    expect(large!.line!.a[1] - 200).toBeCloseTo(2 * (small!.line!.a[1] - 200), 9);
    expect(large!.zero!.frog).toBeCloseTo(2 * small!.zero!.frog, 9);
  });
  it('leave frames without a bow as they are', () => {
    const none = { t: 0, sighting: { line: undefined, frog: undefined, tip: undefined, score: 0 } };
    expect(layOnHair([none], MARK, 1)).toEqual([none]);
  });
});

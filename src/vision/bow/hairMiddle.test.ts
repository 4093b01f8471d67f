import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../core/random';
import { type BowStrip, STATIONS, stationShare } from './bowStrip';
import { hairMiddle, type RibbonView } from './hairMiddle';

const HALF = 28;
const PITCH = 0.5;

interface Drawn {
  /** Where the middle of the hair lies (px) at frog and tip, and half of what is to be seen of it. */
  readonly at: readonly [number, number];
  readonly half: number;
  /** From here to the stick's side all is stick (px from the middle of the hair). */
  readonly stickFrom: number;
  readonly stickSide: -1 | 1;
  readonly ground: number;
  readonly seed: number;
}

/** Cross sections of a pale ribbon with a dark stick beside or before it, as soft as a film in focus. */
function strip({ at, half, stickFrom, stickSide, ground, seed }: Drawn): BowStrip {
  const random = seededRandom(seed);
  const width = 2 * HALF + 1;
  const values = new Float32Array(STATIONS * width);
  /** Share of a soft edge passed at a distance from it. */
  const over = (d: number) => Math.min(1, Math.max(0, 0.5 + d / 2));
  for (let k = 0; k < STATIONS; k++) {
    const middle = at[0] + (at[1] - at[0]) * stationShare(k);
    for (let j = -HALF; j <= HALF; j++) {
      const aside = (j * PITCH - middle) * stickSide;
      const hair = over(aside + half) * over(half - aside);
      const stick = over(aside - stickFrom) * over(stickFrom + 6 - aside);
      values[k * width + j + HALF] = (ground + (225 - ground) * hair) * (1 - stick) + 45 * stick + 10 * (random() - 0.5);
    }
  }
  return { half: HALF, pitch: PITCH, values, stations: [], normal: [0, 1] };
}

const view = (half: number, stickSide: -1 | 1): RibbonView => ({ half, stickSide, scale: { frog: 1, tip: 1 } });
const offset = fc.double({ min: -2, max: 2, noNaN: true });

describe('the middle of the hair', () => {
  it('is found beside a stick that stands clear of it, however wide it is taken to be', () => {
    fc.assert(
      fc.property(offset, offset, fc.constantFrom<-1 | 1>(-1, 1), fc.double({ min: 1, max: 2.5, noNaN: true }), fc.integer(), (frog, tip, stickSide, taken, seed) => {
        const found = hairMiddle(strip({ at: [frog, tip], half: 2.5, stickFrom: 4, stickSide, ground: 110, seed }), view(taken, stickSide), 1)!;
        expect(Math.abs(found.atFrog - frog)).toBeLessThan(0.3);
        expect(Math.abs(found.atTip - tip)).toBeLessThan(0.3);
      }),
      { numRuns: 40, seed: 5 },
    );
  });
  it('is told by its far edge where the stick stands before a side of it, less surely', () => {
    const at = [0.5, -0.5] as const;
    const clear = hairMiddle(strip({ at, half: 2.5, stickFrom: 4, stickSide: 1, ground: 110, seed: 1 }), view(2.5, 1), 1)!;
    for (const stickFrom of [1.5, 0, -1]) {
      const found = hairMiddle(strip({ at, half: 2.5, stickFrom, stickSide: 1, ground: 110, seed: 1 }), view(2.5, 1), 1)!;
      expect(Math.abs(found.atFrog - at[0])).toBeLessThan(0.4);
      expect(Math.abs(found.atTip - at[1])).toBeLessThan(0.4);
      expect(found.shared).toBeGreaterThan(clear.shared);
    }
  });
  it('is not told before what is as pale, nor beside something wider than hair', () => {
    expect(hairMiddle(strip({ at: [0, 0], half: 2.5, stickFrom: 4, stickSide: 1, ground: 215, seed: 1 }), view(2.5, 1), 1)).toBeUndefined();
    expect(hairMiddle(strip({ at: [0, 0], half: 6, stickFrom: 8, stickSide: 1, ground: 110, seed: 1 }), view(2, 1), 1)).toBeUndefined();
  });
  it('is not told further from the line than it can be', () => {
    expect(hairMiddle(strip({ at: [7, 7], half: 2, stickFrom: 4, stickSide: 1, ground: 110, seed: 1 }), view(2, 1), 1)).toBeUndefined();
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NO_BOW } from '../bow/sighting';
import { rotationDistance } from '../geometry/rotation';
import type { TrackedFrame } from './measureFrames';
import { settlePoses } from './settlePoses';

const rotation = [1, 0, 0, 0, 1, 0, 0, 0, 1] as const;
/** Five seconds at 25 pictures a second, marked in the first frame. */
const film = (quality: (t: number) => number): TrackedFrame[] =>
  Array.from({ length: 125 }, (_, index) => ({ index, t: index / 25, pose: { rotation, translation: [0, 0, 2000] }, quality: quality(index / 25), sighting: NO_BOW }));
const steps = (at: (t: number) => readonly number[]) => new Map(Array.from({ length: 25 }, (_, k) => [5 * k, at(k / 5)] as const));
const moved = (frame: TrackedFrame) => frame.pose!.translation[0];

describe('poses settled on the contours', () => {
  it('are moved the more the less surely they were followed, never further than the contours lie', () => {
    const out = (quality: number) =>
      settlePoses(
        film((t) => (t < 1 ? 0.95 : quality)),
        steps((t) => [0, 0, 0, t < 1 ? 0 : 4, 0, 0]),
        [0],
      );
    const ways = [0.8, 0.75, 0.7, 0.6].map((q) => moved(out(q)[90]!));
    expect(ways).toEqual([...ways].sort((a, b) => a - b));
    expect(ways[0]).toBeGreaterThan(0);
    expect(ways.at(-1)).toBeLessThan(4);
    expect(ways.at(-1)).toBeGreaterThan(3);
  });
  it('stay where they were followed surely, and where nothing was seen near', () => {
    const given = film((t) => (t < 3 ? 0.9 : 0.6));
    const out = settlePoses(
      given,
      new Map([
        [0, [0, 0, 0, 0, 0, 0]],
        [50, [0, 0, 0, 9, 0, 0]],
      ]),
      [0],
    );
    expect(out[50]).toBe(given[50]);
    expect(out[124]).toBe(given[124]);
  });
  it('take off what the contours say in the marked frame: how this instrument differs from its model', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: 6, maxLength: 6 }), (same) => {
        const step = same.map((v, k) => (k < 3 ? v / 500 : v));
        const given = film((t) => (t < 1 ? 0.95 : 0.6));
        settlePoses(
          given,
          steps(() => step),
          [0],
        ).forEach((frame, i) => {
          expect(frame.pose!.translation[2]).toBeCloseTo(given[i]!.pose!.translation[2], 6);
          expect(rotationDistance(frame.pose!.rotation, given[i]!.pose!.rotation)).toBeLessThan(1e-6);
        });
      }),
      { numRuns: 30 },
    );
  });
  it('are not shaken by a quality that changes from frame to frame', () => {
    const out = settlePoses(
      film((t) => (t < 1 ? 0.95 : Math.round(25 * t) % 2 ? 0.6 : 0.85)),
      steps((t) => [0, 0, 0, t < 1 ? 0 : 4, 0, 0]),
      [0],
    );
    for (let i = 60; i < 120; i++) expect(Math.abs(moved(out[i]!) - moved(out[i - 1]!))).toBeLessThan(0.05);
    expect(moved(out[90]!)).toBeGreaterThan(1);
  });
  it('stay where no mark tells what the contours say of this instrument', () => {
    const given = film(() => 0.6);
    expect(
      settlePoses(
        given,
        steps(() => [0, 0, 0, 4, 0, 0]),
        [],
      ),
    ).toEqual(given);
    expect(settlePoses(given, new Map(), [0])).toEqual(given);
  });
});

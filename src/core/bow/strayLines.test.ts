import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { TrackedFrame } from '../measures/measureFrames';
import { type BowSighting, NO_BOW } from './sighting';
import { withDoubtOfNeighbours, withoutStrayLines } from './strayLines';

const END = { point: [0, 0], sigma: 2 } as const;
const LINE = { a: [0, 0], b: [1, 0], sigmaA: 1, sigmaB: 1, shareA: 0, shareB: 1 } as const;
const seen = (score: number, frog: boolean, tip: boolean): BowSighting => ({ line: LINE, frog: frog ? END : undefined, tip: tip ? END : undefined, score });
/** A film of 25 pictures a second. */
const film = (frames: number, at: (i: number) => BowSighting): TrackedFrame[] =>
  Array.from({ length: frames }, (_, i) => ({ index: i, t: i / 25, pose: undefined, quality: 1, sighting: at(i) }));
const kept = (frames: readonly TrackedFrame[]) => frames.flatMap((f) => (f.sighting.line ? [f.index] : []));
const range = (from: number, to: number) => Array.from({ length: to - from }, (_, i) => from + i);

describe('lines that are not the bow', () => {
  it('are those along which no end shows for longer than a second', () => {
    const tracked = film(100, (i) => (i < 40 ? seen(0.9, false, false) : seen(0.9, true, i % 3 === 0)));
    expect(kept(withoutStrayLines(tracked))).toEqual(range(40, 100));
  });
  it('are those that look much less like it, though something passes for an end now and then; its own first frames stay', () => {
    const tracked = film(120, (i) => (i < 50 ? seen(0.47, i % 9 === 0, false) : i < 55 ? seen(0.85, true, false) : seen(0.9, true, true)));
    expect(kept(withoutStrayLines(tracked))).toEqual(range(50, 120));
  });
  it('are none where the arm holds a bow there, however little of it shows', () => {
    const tracked = film(120, (i) => (i < 50 ? seen(0.47, false, false) : seen(0.9, true, true)));
    const looks = (holds: (i: number) => boolean) => new Map(Array.from({ length: 12 }, (_, k) => [10 * k, holds(10 * k)] as const));
    expect(
      kept(
        withoutStrayLines(
          tracked,
          looks(() => true),
        ),
      ),
    ).toEqual(range(0, 120));
    expect(
      kept(
        withoutStrayLines(
          tracked,
          looks((i) => i >= 50),
        ),
      ),
    ).toEqual(range(50, 120));
    expect(
      kept(
        withoutStrayLines(
          tracked,
          looks((i) => i === 0 || i >= 50),
        ),
      ),
    ).toEqual(range(50, 120));
  });
  it('are those seen for a moment only, unless they look quite like the bow or lie near it', () => {
    const momentary = (at: number, score: number) => film(120, (i) => (i === at || i === at + 1 ? seen(score, true, false) : i < 60 ? NO_BOW : seen(0.9, true, true)));
    expect(kept(withoutStrayLines(momentary(30, 0.73)))).toEqual(range(60, 120));
    expect(kept(withoutStrayLines(momentary(30, 0.88)))).toEqual([30, 31, ...range(60, 120)]);
    expect(kept(withoutStrayLines(momentary(50, 0.73)))).toEqual([50, 51, ...range(60, 120)]);
    expect(kept(withoutStrayLines(momentary(1, 0.73)))).toEqual([1, 2, ...range(60, 120)]);
    expect(kept(withoutStrayLines(film(2, () => seen(0.5, true, true))))).toEqual([0, 1]);
    // One that alone is left of a stretch that was not the bow.
    const amidst = film(160, (i) => (i === 40 ? seen(0.73, true, false) : i < 80 ? seen(0.5, false, false) : seen(0.9, true, true)));
    expect(kept(withoutStrayLines(amidst))).toEqual(range(80, 160));
  });
  it('leave the bow alone where it shows one end, or hides both for a moment', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: 0.62, max: 0.7, noNaN: true }), fc.constantFrom('frog', 'tip', 'both', 'none')), { minLength: 30, maxLength: 200 }),
        (given) => {
          // At most half a second without an end.
          const tracked = film(given.length, (i) => {
            const [score, shows] = given[i]!;
            const shown = shows === 'none' && i % 10 === 0 ? 'tip' : shows;
            return seen(score, shown === 'frog' || shown === 'both', shown === 'tip' || shown === 'both');
          });
          expect(withoutStrayLines(tracked)).toEqual(tracked);
        },
      ),
      { numRuns: 60 },
    );
  });
  it('none in a film without any line', () => {
    const empty = film(60, () => ({ line: undefined, frog: undefined, tip: undefined, score: 0 }));
    expect(withoutStrayLines(empty)).toEqual(empty);
    expect(withoutStrayLines([])).toEqual([]);
  });
});

describe('lines among those that may lie anywhere', () => {
  const off = (sigma: number): BowSighting => ({ ...seen(0.6, false, false), line: { ...LINE, sigmaA: sigma, sigmaB: sigma } });
  const doubts = (sigmas: readonly number[]) => withDoubtOfNeighbours(film(sigmas.length, (i) => off(sigmas[i]!))).map((f) => f.sighting.line!.sigmaA);

  it('are as doubtful as those', () => {
    expect(doubts(range(0, 60).map((i) => (i % 9 === 0 ? 10 : 60)))).toEqual(range(0, 60).map(() => 60));
  });
  it('keep their say where they are well placed', () => {
    expect(doubts(range(0, 60).map((i) => (i % 9 === 0 ? 1 : 60)))[9]).toBe(1);
  });
  it('lose it where they are less alike than the bow itself', () => {
    const placed = (score: number) =>
      withDoubtOfNeighbours(film(120, (i) => (i < 60 ? { ...off(i === 30 ? 1 : 60), score: i === 30 ? score : 0.6 } : seen(0.9, true, true))))[30]!.sighting.line!.sigmaA;
    expect([placed(0.62), placed(0.85)]).toEqual([60, 1]);
  });
  it('keep it in a film in which lines are now and then lost', () => {
    const given = range(0, 100).map((i) => (i % 3 === 0 ? 60 : 5 + (i % 7)));
    expect(doubts(given)).toEqual(given);
  });
  it('keep it beyond a second', () => {
    const given = range(0, 200).map((i) => (i < 100 ? 60 : 8));
    const out = doubts(given);
    expect(out.slice(125)).toEqual(given.slice(125));
    expect(out.slice(0, 100)).toEqual(given.slice(0, 100));
  });
});

import { describe, expect, it } from 'vitest';
import type { Vec2 } from '../geometry/vec3';
import { normal, seededRandom } from '../random';
import { frogByLooks } from './frogByLooks';
import { type BowSighting, NO_BOW } from './sighting';

const LENGTH = 400;
/** A bow that turns slowly; its frog followed `off` px nearer the tip than it is, with so much doubt from having been guessed (px). */
function followed(off: number, guess: number, frames = 60) {
  const list = Array.from({ length: frames }, (_, index) => {
    const u: Vec2 = [Math.cos(0.3 + 0.01 * index), Math.sin(0.3 + 0.01 * index)];
    const frog: Vec2 = [200 + 2 * index, 150];
    const at = (along: number, beside = 0): Vec2 => [frog[0] + along * u[0] - beside * u[1], frog[1] + along * u[1] + beside * u[0]];
    const sighting: BowSighting = {
      line: { a: frog, b: at(LENGTH), shareA: 0, shareB: 1, sigmaA: 0.4, sigmaB: 0.4 },
      frog: { point: at(off), own: 3, sigma: Math.hypot(3, guess), ...(guess ? { guess } : {}) },
      tip: undefined,
      score: 0.8,
    };
    return { index, at, sighting };
  });
  const looks = (error: (i: number) => number, every = 10, beside = 0) =>
    new Map(list.filter((f) => f.index % every === 0).map((f): [number, Vec2] => [f.index, f.at(error(f.index), beside)]));
  const frogOff = (frame: { index: number; sighting: BowSighting }) => {
    const { at } = list[frame.index]!;
    const [frog, end, p] = [at(0), at(1), frame.sighting.frog!.point];
    return (p[0] - frog[0]) * (end[0] - frog[0]) + (p[1] - frog[1]) * (end[1] - frog[1]);
  };
  return { list, looks, frogOff };
}

describe('the frog by looks at single pictures', () => {
  it('moves where it was placed by guess to where the looks have it, in every frame, and is surer then', () => {
    const random = seededRandom(4);
    const { list, looks, frogOff } = followed(26, 15);
    const out = frogByLooks(
      list,
      looks(() => 8 * normal(random)),
    );
    for (const frame of out) {
      expect(Math.abs(frogOff(frame))).toBeLessThan(12);
      expect(frame.sighting.frog!.guess).toBeLessThan(8);
      // What is the frame's own stays, and all of it together is no less.
      expect(frame.sighting.frog!.own).toBe(3);
      expect(frame.sighting.frog!.sigma).toBeCloseTo(Math.hypot(3, frame.sighting.frog!.guess!), 6);
    }
  });
  it('errs as it says, over many films: within two of its doubts in 19 of 20', () => {
    const random = seededRandom(8);
    const z = Array.from({ length: 200 }, () => {
      const { list, looks, frogOff } = followed(15 * normal(random), 15, 51);
      const alike = 0.012 * LENGTH * normal(random);
      const [frame] = frogByLooks(
        list,
        looks(() => alike + 0.02 * LENGTH * normal(random)),
      );
      return frogOff(frame!) / frame!.sighting.frog!.guess!;
    });
    const within = z.filter((v) => Math.abs(v) < 2).length / z.length;
    expect(within).toBeGreaterThan(0.9);
    expect(within).toBeLessThan(0.99);
  });
  it('stays where a hand placed it, where too few looks tell, and where looks see something else', () => {
    const placed = followed(10, 0);
    expect(
      frogByLooks(
        placed.list,
        placed.looks(() => 0),
      ),
    ).toEqual(placed.list);
    const guessed = followed(26, 15);
    expect(
      frogByLooks(
        guessed.list,
        guessed.looks(() => 0, 30),
      ),
    ).toEqual(guessed.list);
    expect(
      frogByLooks(
        guessed.list,
        guessed.looks(() => 0, 10, 40),
      ),
    ).toEqual(guessed.list);
    expect(
      frogByLooks(
        guessed.list,
        guessed.looks(() => 0.4 * LENGTH),
      ),
    ).toEqual(guessed.list);
  });
  it('leaves frames alone in which no bow was seen', () => {
    const { list, looks } = followed(26, 15);
    const lost = list.map((f) => (f.index === 5 ? { ...f, sighting: NO_BOW } : f));
    expect(
      frogByLooks(
        lost,
        looks(() => 0),
      )[5],
    ).toEqual(lost[5]);
  });
  it('is not led astray by one look among many', () => {
    const { list, looks, frogOff } = followed(26, 15);
    const out = frogByLooks(
      list,
      looks((i) => (i === 20 ? 70 : 0)),
    );
    expect(Math.abs(frogOff(out[30]!))).toBeLessThan(12);
  });
});

import { describe, expect, it } from 'vitest';
import type { Vec2 } from '../../core/geometry/vec3';
import type { BowHypothesis } from './bowSearch';
import { type Clutter, endsAt, picture, pose, stateAt } from './drawnBow';
import { likeliestBow } from './likeliestBow';
import { context } from './testViolin';

const MIDDLE = 0.5;
const { frog, tip } = endsAt(MIDDLE);
/** A pale line with a dark one beside it that rests in the room, from the bow's frog on at another angle. */
const EDGE: Vec2 = [frog[0] + 0.9 * (tip[0] - frog[0]), frog[1] + 0.9 * (tip[1] - frog[1]) + 70];
const shelf: Clutter = (x, y) => {
  const [dx, dy] = [EDGE[0] - frog[0], EDGE[1] - frog[1]];
  const n = Math.hypot(dx, dy);
  const along = ((x - frog[0]) * dx + (y - frog[1]) * dy) / n;
  const across = (-(x - frog[0]) * dy + (y - frog[1]) * dx) / n;
  if (along < 0 || along > n) return undefined;
  return Math.abs(across) < 1.8 ? 225 : Math.abs(across - 8) < 2.6 ? 45 : undefined;
};
const hypothesis = (end: Vec2, score: number): BowHypothesis => ({ state: stateAt(MIDDLE), string: 2, frog, tip: end, score });
const TRUE = hypothesis(tip, 0.9);
const FALSE = hypothesis(EDGE, 1.1);
const posed = (position: number, behind: Clutter, seed: number) => ({ frame: picture(position, behind, seed, true), pose });
/** The frames about the marked one, in which the bow goes on by so much a frame. */
const about = (step: number, behind: Clutter) => ({
  after: [1, 2, 3, 4].map((i) => posed(MIDDLE + i * step, behind, i)),
  before: [1, 2, 3].map((i) => posed(MIDDLE - i * step, behind, 20 + i)),
});

describe('the likeliest of several lines from a marked end', () => {
  it('is the one that goes on being a bow, not the brighter edge that rests in the room', () => {
    const found = likeliestBow(posed(MIDDLE, shelf, 0), context, 'frog', [FALSE, TRUE], about(0.05, shelf));
    expect(found!.tip).toEqual(tip);
    expect(found!.frog).toEqual(frog);
  });
  it('is none where no line went on being one', () => {
    const grey = about(0.05, shelf);
    const blank = <T extends { frame: { luma: Uint8Array } }>(list: readonly T[]) =>
      list.map((p) => ({ ...p, frame: { ...p.frame, luma: new Uint8Array(p.frame.luma.length).fill(128) } }));
    expect(likeliestBow(posed(MIDDLE, shelf, 0), context, 'frog', [FALSE, TRUE], { after: blank(grey.after), before: blank(grey.before) })).toBeUndefined();
    expect(likeliestBow(posed(MIDDLE, shelf, 0), context, 'frog', [], grey)).toBeUndefined();
  });
});

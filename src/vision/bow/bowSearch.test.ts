import { describe, expect, it } from 'vitest';
import { type BowState, hairLine } from '../../core/bow/bowState';
import { project } from '../../core/geometry/camera';
import { type Pose, toOuter } from '../../core/geometry/pose';
import { fromRotationVector } from '../../core/geometry/rotation';
import type { Vec2 } from '../../core/geometry/vec3';
import { seededRandom } from '../../core/random';
import type { Frame } from '../film/frame';
import { steepLines } from '../film/steepLines';
import { searchBow, searchWholeBow } from './bowSearch';
import { straightenHair } from './straightenHair';
import { context, H, W } from './testViolin';

const pose: Pose = { rotation: fromRotationVector([2.5, 0.4, 0.5]), translation: [20, -20, 1150] };

function endsOf(state: BowState, string: number): { frog: Vec2; tip: Vec2 } {
  const line = hairLine(state, context.strings[string]!, 650, 1);
  return { frog: project(context.camera, toOuter(pose, line.frog))!, tip: project(context.camera, toOuter(pose, line.tip))! };
}

/** A wall with an upright edge and a shelf; a pale hair with a dark stick beside it, unless `bow` is left out; on request all before a shirt as pale as hair. */
function picture(bow: { frog: Vec2; tip: Vec2 } | undefined, seed: number, shirt = false): Frame {
  const random = seededRandom(seed);
  const luma = new Uint8Array(W * H);
  const n = bow ? Math.hypot(bow.tip[0] - bow.frog[0], bow.tip[1] - bow.frog[1]) : 1;
  for (let y = 0; y < H; y++) {
    for (let x = 0; x < W; x++) {
      let v = 135 + 12 * Math.sin(x / 31 + seed) + 12 * Math.sin(y / 23) + (x < 140 ? 30 : 0) + (y > 420 && y < 430 ? -50 : 0);
      if (shirt) v = 206 + 12 * Math.sin(x / 17 + y / 9 + seed) + 10 * Math.sin(y / 13 - x / 29);
      if (bow) {
        const [ux, uy] = [(bow.tip[0] - bow.frog[0]) / n, (bow.tip[1] - bow.frog[1]) / n];
        const along = (x + 0.5 - bow.frog[0]) * ux + (y + 0.5 - bow.frog[1]) * uy;
        const across = -(x + 0.5 - bow.frog[0]) * uy + (y + 0.5 - bow.frog[1]) * ux;
        const share = along / n;
        // The stick's camber, seen from half way above: 10 px at the frog, 6 where it comes nearest.
        const stick = 6 + 4 * (share < 0.6 ? (1 - share / 0.6) ** 2 : 0.9 * ((share - 0.6) / 0.4) ** 2);
        if (along > 0 && along < n && Math.abs(across) < 1.8) v = 225;
        else if (along > -20 && along < n + 4 && Math.abs(across - stick) < 2.6) v = 45;
      }
      luma[y * W + x] = Math.max(0, Math.min(255, v + 8 * (random() - 0.5)));
    }
  }
  return { index: 0, t: 0, width: W, height: H, luma };
}

const away = (a: Vec2, b: Vec2) => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** How far a point lies beside the line of a bow, px. */
const beside = (p: Vec2, { frog, tip }: { frog: Vec2; tip: Vec2 }) => ((p[0] - frog[0]) * (tip[1] - frog[1]) - (p[1] - frog[1]) * (tip[0] - frog[0])) / away(frog, tip);

describe('looking for the bow', () => {
  const bowings: readonly [BowState, number][] = [
    [{ contact: 28, skew: 3, inclination: context.levels.natural[2]!, position: 0.6 }, 2],
    [{ contact: 20, skew: -8, inclination: context.levels.natural[1]!, position: 0.4 }, 1],
    [{ contact: 45, skew: 12, inclination: context.levels.natural[2]!, position: 0.75 }, 2],
  ];
  it('finds it from its tip alone, to a pixel sideways at the unseen frog', () => {
    for (const [k, [state, string]] of bowings.entries()) {
      const bow = endsOf(state, string);
      const found = searchBow(picture(bow, k + 1), pose, context, { which: 'tip', point: bow.tip })[0]!;
      const n = away(bow.frog, bow.tip);
      expect(Math.abs(beside(found.frog, bow))).toBeLessThan(1.2);
      expect(away(found.frog, bow.frog)).toBeLessThan(0.12 * n);
    }
  });
  it('finds it from its frog alone', () => {
    const bow = endsOf(...bowings[0]!);
    expect(away(searchBow(picture(bow, 9), pose, context, { which: 'frog', point: bow.frog })[0]!.tip, bow.tip)).toBeLessThan(0.12 * away(bow.frog, bow.tip));
  });
  it('finds it with nothing known, near enough to accept', () => {
    const bow = endsOf(...bowings[0]!);
    const found = searchWholeBow(picture(bow, 4), pose, context)!;
    expect(away(found.tip, bow.tip)).toBeLessThan(30);
    expect(found.score).toBeGreaterThan(1.3);
  });
  it('lays it straight over a shirt as pale as the hair, whatever the dark stick beside it', () => {
    const [state, string] = bowings[0]!;
    const bow = endsOf(state, string);
    const n = away(bow.frog, bow.tip);
    const moved = ([x, y]: Vec2, off: number): Vec2 => [x - (off * (bow.tip[1] - bow.frog[1])) / n, y + (off * (bow.tip[0] - bow.frog[0])) / n];
    const errors = [1, 2, 3, 4, 5, 6].flatMap((seed) => {
      const straight = straightenHair(picture(bow, seed, true), pose, context, { frog: moved(bow.frog, 4), tip: moved(bow.tip, -4), state, string, score: 1 });
      return [Math.abs(beside(straight.frog, bow)), Math.abs(beside(straight.tip, bow))];
    });
    expect(Math.max(...errors)).toBeLessThan(1);
  });
  it('finds none in a picture without a bow', () => {
    expect(searchWholeBow(picture(undefined, 5), pose, context)).toBeUndefined();
  });
});

describe('steep lines', () => {
  it('are found along their whole length, to a fraction of a pixel, and level ones are not', () => {
    const lines = steepLines(picture(undefined, 3));
    const edge = lines.filter((l) => Math.abs((l.a[0] + l.b[0]) / 2 - 140) < 2);
    expect(edge.reduce((sum, l) => sum + away(l.a, l.b), 0)).toBeGreaterThan(0.8 * H);
    for (const l of edge) expect(Math.abs(l.a[0] - 140)).toBeLessThan(0.8);
    expect(lines.every((l) => Math.abs(l.b[1] - l.a[1]) > Math.abs(l.b[0] - l.a[0]))).toBe(true);
  });
});

import { describe, expect, it } from 'vitest';
import type { Pose } from '../../core/geometry/pose';
import { fromAxes } from '../../core/geometry/rotation';
import { RADIANS, type Vec2 } from '../../core/geometry/vec3';
import { seededRandom } from '../../core/random';
import type { Frame } from '../film/frame';
import { BowTracker } from './bowTracker';
import { type Clutter, endsAt, picture, pose } from './drawnBow';
import { context } from './testViolin';

/** A dark patch with a pale bar across it, behind the place given. */
const patchBehind =
  ([px, py]: Vec2): Clutter =>
  (x, y) => {
    if (Math.abs(x - px) > 26 || Math.abs(y - py) > 30) return undefined;
    return Math.abs(x - px - 4) < 4 ? 215 : 55;
  };

/** Pale and dark keys side by side behind the place given. */
const keysBehind =
  ([px, py]: Vec2): Clutter =>
  (x, y) =>
    Math.abs(x - px) > 90 || Math.abs(y - py) > 40 ? undefined : Math.floor((x + 400) / 14) % 2 ? 200 : 40;

/** Follows from the mark through the positions: worst error (px) of the ends not taken back later, of the last belief, and the share of frames with an end. */
function followed(positions: readonly number[], behind: Clutter, handSeen: boolean) {
  const tracker = new BowTracker(context);
  tracker.learn(picture(positions[0]!, behind, 0, handSeen), pose, endsAt(positions[0]!));
  const errors: (number | undefined)[] = [];
  for (const [i, position] of positions.slice(1).entries()) {
    const { frog, tip } = tracker.follow(picture(position, behind, i + 1, handSeen), pose);
    const there = endsAt(position);
    for (let k = Math.max(0, i - tracker.mistaken); k < i; k++) errors[k] = undefined;
    errors.push(frog || tip ? Math.max(frog ? away(frog.point, there.frog) : 0, tip ? away(tip.point, there.tip) : 0) : undefined);
  }
  const kept = errors.filter((e) => e !== undefined);
  const last = tracker.inPicture(pose)!;
  return { worst: Math.max(...kept), atLast: away(last.tip, endsAt(positions.at(-1)!).tip), seen: kept.length / errors.length };
}

const away = (a: Vec2, b: Vec2) => Math.hypot(a[0] - b[0], a[1] - b[1]);
const glide = (from: number, to: number, frames: number) => Array.from({ length: frames + 1 }, (_, i) => from + ((to - from) * (1 - Math.cos((Math.PI * i) / frames))) / 2);

describe('following the bow along itself', () => {
  const mid = endsAt(0.7).tip;
  const cases: [string, readonly number[], Clutter, boolean][] = [
    ['before a plain wall', [...glide(0.7, 0.3, 24), ...glide(0.3, 0.8, 24)], () => undefined, true],
    ['leaving a patch it was marked before', glide(0.7, 0.3, 24), patchBehind(mid), true],
    ['leaving a patch, the hand out of sight', glide(0.7, 0.3, 24), patchBehind(mid), false],
    ['passing a patch there and back', [...glide(0.3, 0.9, 24), ...glide(0.9, 0.3, 24)], patchBehind(mid), true],
    ['passing keys there and back', [...glide(0.3, 0.9, 24), ...glide(0.9, 0.3, 24)], keysBehind(mid), true],
    ['coming to rest before a patch and going on', [...glide(0.4, 0.7, 16), ...Array.from({ length: 8 }, () => 0.7), ...glide(0.7, 0.4, 16)], patchBehind(mid), true],
  ];
  it.each(cases)('%s', (_, positions, behind, handSeen) => {
    const { worst, atLast, seen } = followed(positions, behind, handSeen);
    expect(worst).toBeLessThan(8);
    expect(atLast).toBeLessThan(4);
    expect(seen).toBeGreaterThan(0.55);
  });
});

describe('a bow that looks little like itself', () => {
  /** The picture with so much noise over it, by seed. */
  const noisy = (frame: Frame, noise: number): Frame => {
    const random = seededRandom(frame.index + 900);
    return { ...frame, luma: frame.luma.map((v) => Math.max(0, Math.min(255, v + noise * (random() - 0.5)))) };
  };
  const plain: Clutter = () => undefined;
  /** Likeness and stated errors (px) of lines found in pictures noisier than the marked one. */
  const lines = (noise: number) => {
    const tracker = new BowTracker(context);
    tracker.learn(picture(0.5, plain, 0, true), pose, endsAt(0.5));
    return [1, 2, 3, 4].flatMap((i) => {
      const { line, score } = tracker.follow(noisy(picture(0.5, plain, i, true), noise), pose);
      return line ? [{ score, sigma: Math.max(line.sigmaA, line.sigmaB) }] : [];
    });
  };
  it('has a line that may be far off, however straight it is', () => {
    const [clear, poor] = [lines(0), lines(800)];
    expect(clear.every(({ score, sigma }) => score > 0.8 && sigma < 1)).toBe(true);
    expect(poor.length).toBeGreaterThan(0);
    for (const { score, sigma } of poor) {
      expect(score).toBeLessThan(0.5);
      expect(sigma).toBeGreaterThan(8);
    }
  });
});

describe('a bow that points at the camera', () => {
  /** Stated error (px) of the line of a bow at such an angle (degrees) to the line of sight, tip foremost. */
  const sigmaAt = (degrees: number, frame = 1) => {
    const [sin, cos] = [Math.sin(degrees * RADIANS), Math.cos(degrees * RADIANS)];
    const from: Pose = { rotation: fromAxes([0, 1, 0], [sin, 0, -cos]), translation: [0, 0, 1500] };
    const tracker = new BowTracker(context);
    tracker.learn(
      picture(0.5, () => undefined, 0, true, from),
      from,
      endsAt(0.5, from),
    );
    const { line, score } = tracker.follow(
      picture(0.5, () => undefined, frame, true, from),
      from,
    );
    expect(score).toBeGreaterThan(0.8);
    return Math.max(line!.sigmaA, line!.sigmaB);
  };
  it('has no line to speak of, however clear it is, and one seen from the side has', () => {
    expect(sigmaAt(14)).toBeGreaterThan(500);
    // In the frame in which it was placed it has.
    expect(sigmaAt(14, 0)).toBeLessThan(1);
    expect(sigmaAt(45)).toBeLessThan(1);
  });
});

import { describe, expect, it } from 'vitest';
import { project } from '../../core/geometry/camera';
import { type Pose, stepBetween, stepPose, toOuter } from '../../core/geometry/pose';
import { fromRotationVector } from '../../core/geometry/rotation';
import type { InstrumentLandmark } from '../../core/instrument/landmarks';
import { choleskyFactor, choleskySolve } from '../../core/linalg/cholesky';
import type { Frame } from '../film/frame';
import { InstrumentTracker } from './instrumentTracker';
import { type Before, texturedViolin } from './texturedViolin';

const [W, H] = [480, 360];
const { camera, model, shoot } = texturedViolin(W, H);
const START: Pose = { rotation: fromRotationVector([2.5, 0.4, 0.5]), translation: [20, -20, 1300] };
const SHOWN: readonly InstrumentLandmark[] = ['instrument.bridge.low', 'instrument.endButton', 'instrument.nut.high', 'instrument.upperCorner.low'];

/** Sways as a player does. */
const swaying = (i: number): Pose =>
  stepPose(START, [0.04 * Math.sin(i / 9), 0.03 * Math.sin(i / 7), 0.05 * Math.sin(i / 8), 14 * Math.sin(i / 8), 8 * Math.sin(i / 10), 12 * Math.sin(i / 12)]);

interface Scene {
  readonly poseAt?: (i: number) => Pose | undefined;
  readonly light?: (i: number) => number;
  readonly before?: (i: number) => Before | undefined;
}

/** Follows from a marked first frame: how far off (px, the worst of four places) each later frame is, undefined where it is called lost. */
function followed(frames: number, { poseAt = swaying, light = () => 1, before = () => undefined }: Scene = {}) {
  const frameAt = (i: number): Frame => {
    const luma = shoot(poseAt(i), 900 + i, before(i)).map((v) => v * light(i));
    return { index: i, t: i / 25, width: W, height: H, luma };
  };
  const tracker = new InstrumentTracker(camera, model);
  tracker.addKeyFrame(frameAt(0), poseAt(0)!, undefined);
  tracker.startAt(poseAt(0)!);
  return Array.from({ length: frames }, (_, k) => {
    const { pose, quality } = tracker.follow(frameAt(k + 1));
    const truth = poseAt(k + 1);
    const apart = truth
      ? Math.max(
          ...SHOWN.map((name) => {
            const [p, q] = [pose, truth].map((at) => project(camera, toOuter(at, model.landmarks[name]))!);
            return Math.hypot(p![0] - q![0], p![1] - q![1]);
          }),
        )
      : Number.POSITIVE_INFINITY;
    return { quality, off: quality > 0 ? apart : undefined };
  });
}

const worst = (seen: ReturnType<typeof followed>) => Math.max(...seen.map((s) => s.off ?? 0));

describe('following the instrument', () => {
  it('stays within a fraction of a pixel through a sway, and is sure of it', () => {
    const seen = followed(30);
    expect(worst(seen)).toBeLessThan(0.7);
    expect(Math.min(...seen.map((s) => s.quality))).toBeGreaterThan(0.8);
  });

  it('is not lost when the hand that holds the phone jerks', () => {
    // Some 25 pixels of a picture 960 across, from one frame to the next, there and back.
    const jerked = (i: number) => stepPose(swaying(i), [0, 0, 0, ...((i % 6 > 2 ? [40, -28, 0] : [0, 0, 0]) as [number, number, number])]);
    const seen = followed(20, { poseAt: jerked });
    expect(worst(seen)).toBeLessThan(0.7);
    expect(seen.every((s) => s.quality > 0)).toBe(true);
  });

  it('does not mind the light', () => {
    expect(worst(followed(16, { light: (i) => 1 - 0.03 * i }))).toBeLessThan(1);
  });

  it('looks past what covers a third of it', () => {
    const hand = (i: number): Before => {
      const at = project(camera, toOuter(swaying(i), model.landmarks['instrument.upperCorner.low']))!;
      return ([x, y]) => (i > 3 && Math.hypot(x - at[0], y - at[1]) < 34 ? 175 + 20 * Math.sin(x / 5 + i) : undefined);
    };
    const seen = followed(16, { before: hand });
    expect(worst(seen)).toBeLessThan(1.5);
    expect(seen.filter((s) => s.quality === 0)).toHaveLength(0);
  });

  it('says that it is lost, not where it was, when the instrument has gone; and knows it again when it is back', () => {
    const gone = (i: number) => i >= 6 && i < 14;
    const seen = followed(30, { poseAt: (i) => (gone(i) ? undefined : swaying(i)) });
    expect(seen.slice(6, 13).every((s) => s.quality === 0)).toBe(true);
    expect(seen.slice(0, 5).every((s) => s.quality > 0)).toBe(true);
    expect(seen.slice(20).every((s) => s.quality > 0)).toBe(true);
    expect(worst(seen.filter((s) => s.quality > 0))).toBeLessThan(1);
  });

  it('does not take a wall for it from a guessed start', () => {
    const tracker = new InstrumentTracker(camera, model);
    tracker.addKeyFrame({ index: 0, t: 0, width: W, height: H, luma: shoot(START, 1) }, START, undefined);
    tracker.startAt(START, true);
    for (let i = 1; i < 6; i++) expect(tracker.follow({ index: i, t: i / 25, width: W, height: H, luma: shoot(undefined, i) }).quality).toBe(0);
  });

  it('tells what the picture alone says, which the last known pose holds back', () => {
    const tracker = new InstrumentTracker(camera, model);
    const frameOf = (index: number): Frame => ({ index, t: index / 25, width: W, height: H, luma: shoot(START, 1 + index) });
    tracker.addKeyFrame(frameOf(0), START, undefined);
    tracker.startAt(stepPose(START, [0.02, 0.015, -0.01, 4, -3, 20]));
    const { pose } = tracker.follow(frameOf(1));
    const { information, pull } = tracker.evidence.get(pose)!;
    const alone = stepPose(pose, choleskySolve(choleskyFactor(Float64Array.from(information), 6), 6, Float64Array.from(pull)));
    const off = (from: Pose) => stepBetween(START, from).map(Math.abs);
    const [held, told] = [off(pose), off(alone)];
    expect(held[5]).toBeGreaterThan(1);
    expect(told[5]).toBeLessThan(held[5]! / 2);
  });

  it('must be started at a known pose', () => {
    expect(() => new InstrumentTracker(camera, model).follow({ index: 0, t: 0, width: W, height: H, luma: shoot(START, 1) })).toThrow(/known pose/);
  });
});

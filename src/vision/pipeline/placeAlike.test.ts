import { describe, expect, it } from 'vitest';
import { project } from '../../core/geometry/camera';
import { type Pose, stepInside, stepPose, toOuter } from '../../core/geometry/pose';
import { fromRotationVector } from '../../core/geometry/rotation';
import type { InstrumentLandmark } from '../../core/instrument/landmarks';
import type { Frame } from '../film/frame';
import { texturedViolin } from '../instrument/texturedViolin';
import type { Anchor } from './followTake';
import { placeAlike } from './placeAlike';

const [W, H] = [480, 360];
const { camera, model, shoot } = texturedViolin(W, H);
const START: Pose = { rotation: fromRotationVector([2.5, 0.4, 0.5]), translation: [20, -20, 1300] };
const TRUE: Readonly<Record<number, Pose>> = {
  0: START,
  30: stepPose(START, [0.06, -0.03, 0.05, 14, 8, 10]),
  60: stepPose(START, [-0.05, 0.04, -0.04, -10, 6, -12]),
  90: stepPose(START, [0.03, 0.05, -0.05, 8, -9, 6]),
};
const SHOWN: readonly InstrumentLandmark[] = ['instrument.bridge.low', 'instrument.endButton', 'instrument.nut.high', 'instrument.upperCorner.low'];
const apart = (a: Pose, b: Pose) =>
  Math.max(
    ...SHOWN.map((name) => {
      const [p, q] = [a, b].map((pose) => project(camera, toOuter(pose, model.landmarks[name]))!);
      return Math.hypot(p![0] - q![0], p![1] - q![1]);
    }),
  );
const frameAt = async (index: number): Promise<Frame> => ({ index, t: index / 25, width: W, height: H, luma: shoot(TRUE[index] ?? START, 900 + index) });
/** Found with an error of its own in each frame (see stepInside). */
const found = (index: number, off: readonly number[]): Anchor => ({ index, pose: stepInside(TRUE[index]!, off), bow: { frog: undefined, tip: undefined } });

const ANCHOR = found(0, [0.012, 0, 0.01, 2.5, -2, 0]);
const BESIDE = [found(30, [-0.01, 0.006, 0, -2, 2, 0]), found(60, [0.004, -0.01, -0.008, 0, 2.5, 0]), found(90, [-0.006, 0.004, -0.01, -2.5, -1, 0])];
/** By how much the frames contradict each other: how far each is from where the first, moved with the instrument, would have it. */
const contradiction = (first: Pose, others: readonly Anchor[]) => {
  // The first frame's own error, in the instrument's axes, taken to each other frame.
  const error = (pose: Pose, index: number) =>
    SHOWN.map((name) => project(camera, toOuter(pose, model.landmarks[name]))!.map((v, i) => v - project(camera, toOuter(TRUE[index]!, model.landmarks[name]))![i]!));
  const own = error(first, 0);
  return Math.max(...others.map(({ index, pose }) => Math.max(...error(pose, index).map(([x, y], k) => Math.hypot(x! - own[k]![0]!, y! - own[k]![1]!)))));
};

describe('frames of a start placed alike', () => {
  it('no longer contradict each other, and lie nearer to where the instrument is than the first did', async () => {
    const { anchor, beside } = await placeAlike({ camera, model }, { anchor: ANCHOR, beside: BESIDE }, false, frameAt);
    expect(contradiction(ANCHOR.pose, BESIDE)).toBeGreaterThan(1.5);
    expect(contradiction(anchor.pose, beside)).toBeLessThan(0.5);
    expect(apart(anchor.pose, TRUE[0]!)).toBeLessThan(0.6 * apart(ANCHOR.pose, TRUE[0]!));
    expect(beside.map((b) => b.index)).toEqual([30, 60, 90]);
  });
  it('leave a frame that a hand placed where it is, and go by it', async () => {
    const byHand = found(0, [0, 0, 0, 0, 0, 0]);
    const { anchor, beside } = await placeAlike({ camera, model }, { anchor: byHand, beside: BESIDE }, true, frameAt);
    expect(apart(anchor.pose, TRUE[0]!)).toBeLessThan(1e-9);
    for (const { index, pose } of beside) expect(apart(pose, TRUE[index]!)).toBeLessThan(0.5);
  });
  it('leave a frame in which the instrument is not known again as it was found', async () => {
    const blank = async (index: number): Promise<Frame> => {
      const frame = await frameAt(index);
      return index === 60 ? { ...frame, luma: new Uint8Array(W * H).fill(120) } : frame;
    };
    const { beside } = await placeAlike({ camera, model }, { anchor: ANCHOR, beside: BESIDE }, false, blank);
    expect(beside[1]).toEqual(BESIDE[1]);
  });
});

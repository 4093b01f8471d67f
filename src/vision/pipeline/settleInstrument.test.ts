import { describe, expect, it } from 'vitest';
import { NO_BOW } from '../../core/bow/sighting';
import { type Pose, stepPose } from '../../core/geometry/pose';
import { fromRotationVector, multiply } from '../../core/geometry/rotation';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { instrumentModel } from '../../core/instrument/landmarks';
import type { TrackedFrame } from '../../core/measures/measureFrames';
import { context } from '../bow/testViolin';
import { settleInstrument } from './settleInstrument';

const { camera } = context;
const model = instrumentModel(dimensionsOf('violin', '4/4'));
/** A violin at some distance (mm), its plate seen from so many degrees above. */
const seen = (above: number, distance: number): Pose => ({
  rotation: multiply(fromRotationVector([Math.PI - ((90 - above) * Math.PI) / 180, 0, 0]), fromRotationVector([0, 0, 0.3])),
  translation: [-60, 0, distance],
});
const film = (pose: Pose, quality: (t: number) => number): TrackedFrame[] =>
  Array.from({ length: 75 }, (_, index) => ({ index, t: index / 25, pose, quality: quality(index / 25), sighting: NO_BOW }));

/** What is asked of the eyes for such a film, marked in its first frame, and what comes of steps they answer with. */
async function asked(frames: TrackedFrame[], course = frames.map((f) => f.pose)) {
  const asks: { frames: number[]; witness: string }[] = [];
  const out = await settleInstrument(frames, course, { camera, model }, [0], async (_, __, list, witness) => {
    asks.push({ frames: list.map((a) => a.index), witness });
    return new Map(list.map(({ index }) => [index, Float64Array.from([0, 0, 0, index > 25 ? 5 : 0, 0, 0])]));
  });
  return { asks, moved: out[60]!.pose!.translation[0] - frames[60]!.pose!.translation[0] };
}

const gaps = (list: readonly number[]) => list.slice(1).map((v, i) => v - list[i]!);

describe('laying a followed instrument on what shows of it', () => {
  it('asks for nothing where it is followed surely from well above', async () => {
    const { asks, moved } = await asked(film(seen(40, 1200), () => 0.95));
    expect(asks).toEqual([]);
    expect(moved).toBe(0);
  });
  it('asks for contours where it is followed less surely, five times a second, and about the mark', async () => {
    const { asks, moved } = await asked(film(seen(40, 1200), (t) => (t < 1 ? 0.95 : 0.6)));
    expect(asks).toHaveLength(1);
    expect(asks[0]!.witness).toBe('contours');
    const { frames } = asks[0]!;
    expect(frames[0]).toBe(0);
    // About the mark, and from where it is followed less surely.
    expect(frames.every((f) => f <= 8 || f >= 25)).toBe(true);
    expect(gaps(frames.filter((f) => f >= 25)).every((g) => g >= 5 && g <= 6)).toBe(true);
    expect(frames.at(-1)).toBeGreaterThan(68);
    expect(moved).toBeGreaterThan(1);
  });
  it('asks for points through the whole film where a small one is seen from low, however surely it is followed', async () => {
    const { asks, moved } = await asked(film(seen(8, 2500), () => 0.95));
    expect(asks[0]!.witness).toBe('points');
    const { frames } = asks[0]!;
    expect(frames[0]).toBe(0);
    expect(gaps(frames).every((g) => g >= 5 && g <= 6)).toBe(true);
    expect(frames.at(-1)).toBeGreaterThan(68);
    expect(moved).toBeGreaterThan(0.1);
  });
  it('takes what is seen from where the instrument was followed, and goes on from its smoothed course', async () => {
    const frames = film(seen(40, 1200), (t) => (t < 1 ? 0.95 : 0.6));
    const { moved: followed } = await asked(frames);
    const there = frames.map(({ pose }, i) => (i > 25 ? stepPose(pose!, [0, 0, 0, 5, 0, 0]) : pose));
    const { moved } = await asked(frames, there);
    // Already where the contours are seen: nothing is left to be moved.
    expect(moved).toBeCloseTo(5, 6);
    expect(followed).toBeLessThan(5);
  });
  it('leaves the network out where the instrument is large: it is followed more finely than points are seen', async () => {
    const { asks } = await asked(film(seen(8, 500), () => 0.95));
    expect(asks).toEqual([]);
  });
  it('leaves a film as it is in which the instrument is never followed', async () => {
    const lost = film(seen(8, 2500), () => 0).map((f) => ({ ...f, pose: undefined }));
    const out = await settleInstrument(
      lost,
      lost.map(() => undefined),
      { camera, model },
      [0],
      async () => {
        throw new Error('not to be asked');
      },
    );
    expect(out).toEqual(lost);
  });
});

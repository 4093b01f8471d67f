import { describe, expect, it } from 'vitest';
import { NO_BOW } from '../bow/sighting';
import { fromRotationVector } from '../geometry/rotation';
import type { TrackedFrame } from './measureFrames';
import { withoutStrayPoses } from './strayPoses';

/** A film of 25 frames a second whose instrument fits so well in each frame, 0 where it is lost. */
const film = (qualities: readonly number[]): TrackedFrame[] =>
  qualities.map((quality, index) => ({
    index,
    t: index / 25,
    pose: quality > 0 ? { rotation: fromRotationVector([0, 0, 0]), translation: [0, 0, 800] } : undefined,
    quality,
    sighting: NO_BOW,
  }));
const times = (count: number, quality: number) => new Array<number>(count).fill(quality);
const followed = (frames: readonly TrackedFrame[]) => frames.map((f) => (f.pose ? '+' : '-')).join('');

describe('poses followed astray', () => {
  it('are taken back where a long loss follows or went before, up to the first frame that fits as usual', () => {
    expect(followed(withoutStrayPoses(film([...times(10, 0), 0.5, 0.5, 0.65, 0.73, 0.85, ...times(20, 0.91)])))).toBe(`${'-'.repeat(14)}${'+'.repeat(21)}`);
    expect(followed(withoutStrayPoses(film([...times(20, 0.91), 0.85, 0.7, 0.6, ...times(10, 0)])))).toBe(`${'+'.repeat(21)}${'-'.repeat(12)}`);
  });

  it('are not seen in a jolt of a few frames, nor in frames that fit badly far from any loss', () => {
    const jolt = film([...times(20, 0.9), 0.6, ...times(4, 0), 0.6, ...times(20, 0.9)]);
    expect(withoutStrayPoses(jolt)).toEqual(jolt);
    const blurred = film([...times(20, 0.9), ...times(5, 0.5), ...times(20, 0.9), ...times(10, 0)]);
    expect(withoutStrayPoses(blurred)).toEqual(blurred);
  });

  it('reach no further than half a second, and a film that fits badly throughout keeps its frames', () => {
    expect(followed(withoutStrayPoses(film([...times(10, 0), ...times(20, 0.6), ...times(40, 0.9)])))).toBe(`${'-'.repeat(22)}${'+'.repeat(48)}`);
    const dark = film([...times(10, 0), ...times(30, 0.6)]);
    expect(withoutStrayPoses(dark)).toEqual(dark);
    expect(withoutStrayPoses([])).toEqual([]);
  });
});

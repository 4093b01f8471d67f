import { describe, expect, it } from 'vitest';
import { NO_BOW } from '../../core/bow/sighting';
import type { Pose } from '../../core/geometry/pose';
import { fromRotationVector, multiply } from '../../core/geometry/rotation';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { instrumentModel } from '../../core/instrument/landmarks';
import { context } from '../bow/testViolin';
import type { Glance } from '../start/freshLooks';
import { LookOnTheWay } from './lookOnTheWay';

const { camera } = context;
const model = instrumentModel(dimensionsOf('violin', '4/4'));
const times = Float64Array.from({ length: 100 }, (_, i) => i / 25);
/** A violin at some distance (mm), its plate seen from so many degrees above. */
const seenFrom = (above: number, distance: number): Pose => ({
  rotation: multiply(fromRotationVector([Math.PI - ((90 - above) * Math.PI) / 180, 0, 0]), fromRotationVector([0, 0, 0.3])),
  translation: [-60, 0, distance],
});

/** Follows a film marked in its frame 50, as surely as `quality` says; the glances taken, and which pictures were made and closed unseen. */
async function followed(pose: Pose, quality: (index: number) => number, { lost = [] as readonly number[], bow = true } = {}) {
  const glances: Glance[] = [];
  const unseen: number[] = [];
  const made: number[] = [];
  const way = new LookOnTheWay(async (_, glance) => void glances.push(glance), { camera, model }, bow ? context : undefined, times, [{ index: 50, pose }]);
  for (const index of times.keys()) {
    const wanted = way.wants(index);
    if (wanted) made.push(index);
    const picture = { close: () => void unseen.push(index) } as unknown as ImageBitmap;
    const frame = { index, t: times[index]!, pose: lost.includes(index) ? undefined : pose, quality: quality(index), sighting: NO_BOW };
    await way.see(frame, wanted ? picture : undefined);
  }
  return { made, unseen, bows: glances.filter((g) => g.bow).map((g) => g.index), contours: glances.filter((g) => g.contours).map((g) => g.index) };
}

describe('glances on the way', () => {
  it('are at the bow every one and a half seconds, and at contours about the mark alone where the instrument is followed surely', async () => {
    const { made, unseen, bows, contours } = await followed(seenFrom(40, 1200), () => 0.95);
    expect(bows).toEqual([0, 38, 76]);
    expect(contours.length).toBeGreaterThan(1);
    expect(contours.every((i) => Math.abs(i - 50) <= 8)).toBe(true);
    expect(made).toEqual([...new Set([...bows, ...contours])].sort((a, b) => a - b));
    expect(unseen).toEqual([]);
  });
  it('are at contours five times a second where it is followed less surely', async () => {
    const { contours } = await followed(seenFrom(40, 1200), (i) => (i >= 70 ? 0.7 : 0.95));
    const late = contours.filter((i) => i >= 70);
    expect(late.length).toBeGreaterThanOrEqual(5);
    expect(late.slice(1).every((v, i) => v - late[i]! >= 5 && v - late[i]! <= 6)).toBe(true);
  });
  it('leave a picture unseen, and close it, where the instrument turned out to be lost, or surely followed after all', async () => {
    const { unseen, bows } = await followed(seenFrom(40, 1200), (i) => (i < 20 ? 0.83 : 0.95), { lost: [38] });
    expect(bows).toEqual([0, 76]);
    expect(unseen).toContain(38);
    expect(unseen.some((i) => i > 0 && i < 20)).toBe(true);
  });
  it('are never at contours where the film is one in which points will be asked about', async () => {
    const { bows, contours } = await followed(seenFrom(8, 2500), () => 0.5);
    expect(bows).toEqual([0, 38, 76]);
    expect(contours).toEqual([]);
  });
  it('are never at the bow where none is known', async () => {
    const { bows, contours } = await followed(seenFrom(40, 1200), () => 0.7, { bow: false });
    expect(bows).toEqual([]);
    expect(contours.length).toBeGreaterThan(15);
  });
});

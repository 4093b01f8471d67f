import { describe, expect, it } from 'vitest';
import { NO_BOW } from '../../core/bow/sighting';
import type { Pose } from '../../core/geometry/pose';
import { fromRotationVector } from '../../core/geometry/rotation';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { instrumentModel } from '../../core/instrument/landmarks';
import type { TrackedFrame } from '../../core/measures/measureFrames';
import { blankFilm, context } from '../bow/testViolin';
import type { Frame } from '../film/frame';
import { mendInstrument } from './mendInstrument';

const FRAMES = 120;
const model = instrumentModel(dimensionsOf('violin', '4/4'));
/** A violin that sways before the camera, and one that has strayed by so many mm. */
const poseAt = (i: number, astray = 0): Pose => ({
  rotation: fromRotationVector([2.5, 0.4, 0.5 + 0.1 * Math.sin(i / 15)]),
  translation: [-60 + 60 * Math.sin(i / 20) + astray, -60, 1500],
});
const off = (a: Pose, b: Pose) => Math.hypot(...a.translation.map((v, k) => v - b.translation[k]!));

const source = blankFilm(FRAMES);

/** Knows the violin again when started within 30 mm of it, and holds it then; elsewhere it sees none. */
function knowing() {
  let start: Pose | undefined;
  let on = false;
  return {
    model,
    startAt(pose: Pose) {
      start = pose;
    },
    follow({ index }: Frame) {
      if (start) on = off(start, poseAt(index)) < 30;
      start = undefined;
      return { index, pose: poseAt(index), quality: on ? 0.8 : 0 };
    },
  };
}

async function mended(before: (i: number) => { pose: Pose | undefined; quality: number }, found: (i: number) => Pose | undefined) {
  const tracked = new Map(Array.from({ length: FRAMES }, (_, index): [number, TrackedFrame] => [index, { index, t: index / 30, sighting: NO_BOW, ...before(index) }]));
  const asked: number[] = [];
  const count = await mendInstrument({
    source,
    camera: context.camera,
    instrument: knowing(),
    tracked,
    look: async (_, __, asks) => {
      asked.push(...asks.map((a) => a.index));
      return new Map(asks.flatMap(({ index }) => (found(index) ? [[index, found(index)!] as const] : [])));
    },
  });
  const poses = Array.from({ length: FRAMES }, (_, i) => tracked.get(i)!.pose);
  return { count, asked, lost: poses.filter((p) => !p).length, worst: Math.max(...poses.map((p, i) => (p ? off(p, poseAt(i)) : 0))) };
}

describe('an instrument that was lost', () => {
  /** Right at first, strayed from the 40th frame on, lost in the 60th. */
  const lostAt60 = (i: number) => (i < 60 ? { pose: poseAt(i, i < 40 ? 0 : 2 * (i - 40)), quality: i < 40 ? 0.9 : 0.6 } : { pose: undefined, quality: 0 });
  it('is found again, and followed back to before it strayed', async () => {
    const { lost, worst, count } = await mended(lostAt60, (i) => poseAt(i, 12));
    expect(lost).toBe(0);
    // Where both courses are nearly one the earlier stands.
    expect(worst).toBeLessThan(12);
    expect(count).toBeGreaterThan(70);
  });
  it('stays lost where it is not seen, or not known again', async () => {
    for (const found of [() => undefined, (i: number) => poseAt(i, 80)]) {
      const { lost, count } = await mended(lostAt60, found);
      expect([lost, count]).toEqual([60, 0]);
    }
  });
  it('is not asked after while it is known, nor for a moment out of sight', async () => {
    const { asked } = await mended(
      (i) => (i > 50 && i < 56 ? { pose: undefined, quality: 0 } : { pose: poseAt(i), quality: 0.9 }),
      (i) => poseAt(i),
    );
    expect(asked).toEqual([]);
  });
});

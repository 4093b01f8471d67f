import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { HairEnds } from '../../core/bow/sighting';
import { type Pose, stepPose } from '../../core/geometry/pose';
import { fromRotationVector, multiply } from '../../core/geometry/rotation';
import type { Vec2 } from '../../core/geometry/vec3';
import { NETWORK_POINTS } from '../../core/start/landmarkMaps';
import { toInput } from '../../core/start/square';
import { context } from '../bow/testViolin';
import { camera, model, paintViolin } from '../instrument/paintedViolin';
import type { FrameEyes } from './frameEyes';
import { FreshLooks } from './freshLooks';

const pose: Pose = { rotation: multiply(fromRotationVector([0, 0, 0.5]), fromRotationVector([Math.PI - 0.75, 0, 0])), translation: [-60, 20, 1100] };
const [frog, tip]: Vec2[] = [
  [300, 330],
  [620, 150],
];
const painted = paintViolin(pose, 4);

/** A canvas that holds what was drawn to it last. */
class Canvas {
  getContext() {
    let drawn = painted;
    return {
      drawImage: (picture: typeof painted) => {
        drawn = picture;
      },
      getImageData: () => ({ data: drawn.data }),
    };
  }
}
beforeEach(() => vi.stubGlobal('OffscreenCanvas', Canvas));
afterEach(() => vi.unstubAllGlobals());

/** Eyes that see a bow's ends at their places, and tell which frames they were asked for. */
function eyes() {
  const read: number[] = [];
  let closed = 0;
  const picture = () => ({ ...painted, close: () => closed++ }) as unknown as ImageBitmap;
  const seeing: FrameEyes = {
    async *pictures(frames) {
      for (const index of frames) {
        read.push(index);
        yield { index, picture: picture() };
      }
    },
    clear: (given) => given,
    look: async (_, squares) =>
      squares.map((square) => ({
        square,
        seen: NETWORK_POINTS.map((name) => ({ place: toInput(square, name === 'bow.tip' ? tip! : frog!), confidence: name.startsWith('bow.') ? 0.9 : 0 })),
      })),
    mirror: false,
  };
  return { seeing, read, picture, closed: () => closed };
}

const there = { frog: frog!, tip: tip! };
const moved = (by: number): HairEnds => ({ frog: [frog![0] + by, frog![1]], tip: [tip![0] + by, tip![1]] });

describe('what was seen at a glance', () => {
  it('of the bow need not be looked at again, while the instrument lies where it lay then', async () => {
    const { seeing, read, picture, closed } = eyes();
    const looks = new FreshLooks(seeing);
    await looks.glance(picture(), { index: 7, pose, bow: context });
    expect(closed()).toBe(1);
    const known = await looks.bow(context, [{ index: 7, t: 0.28, pose, followed: there }]);
    expect(known.get(7)).toMatchObject({ opinion: 'same' });
    expect(known.get(7)!.frog![0]).toBeCloseTo(frog![0], 1);
    expect(read).toEqual([]);
    const elsewhere = stepPose(pose, [0, 0, 0, 5, 0, 0]);
    await looks.bow(context, [
      { index: 7, t: 0.28, pose: elsewhere, followed: there },
      { index: 9, t: 0.36, pose, followed: there },
    ]);
    expect(read).toEqual([7, 9]);
  });
  it('of the contours says the same as a look at the film, and stands while the bow covers the same of them', async () => {
    const { seeing, read, picture } = eyes();
    const looks = new FreshLooks(seeing);
    const strayed = stepPose(pose, [0.01, 0, 0, 2, 1, 0]);
    await looks.glance(picture(), { index: 3, pose: strayed, contours: { camera, model, covered: there } });
    const asked = (bow: HairEnds | undefined) => looks.contours(camera, model, [{ index: 3, pose: strayed, bow }], 'contours');
    const atOnce = (await asked(moved(1))).get(3)!;
    expect(read).toEqual([]);
    const fromFilm = (await new FreshLooks(seeing).contours(camera, model, [{ index: 3, pose: strayed, bow: there }], 'contours')).get(3)!;
    expect([...atOnce]).toEqual([...fromFilm]);
    expect(Math.hypot(...atOnce.slice(3))).toBeGreaterThan(0.5);
    read.length = 0;
    await asked(moved(40));
    await asked(undefined);
    await looks.contours(camera, model, [{ index: 3, pose, bow: there }], 'contours');
    expect(read).toEqual([3, 3, 3]);
  });
  it('of contours does not answer where points are asked about', async () => {
    const { seeing, read, picture } = eyes();
    const looks = new FreshLooks(seeing);
    await looks.glance(picture(), { index: 3, pose, contours: { camera, model, covered: there } });
    await looks.contours(camera, model, [{ index: 3, pose, bow: there }], 'points');
    expect(read).toEqual([3]);
  });
});

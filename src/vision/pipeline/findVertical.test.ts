import { describe, expect, it } from 'vitest';
import type { Marks } from '../../core/formats/marks';
import { cameraFromFieldOfView } from '../../core/geometry/camera';
import { DEGREES, dot, RADIANS, type Vec3 } from '../../core/geometry/vec3';
import { normal, seededRandom } from '../../core/random';
import type { FrameAt } from '../film/frame';
import { findVertical } from './findVertical';

const [width, height] = [480, 270];
const camera = cameraFromFieldOfView(width, height);
/** The phone looks down by 14 degrees and leans by 2. */
const up: Vec3 = [Math.sin(2 * RADIANS) * Math.cos(14 * RADIANS), -Math.cos(2 * RADIANS) * Math.cos(14 * RADIANS), -Math.sin(14 * RADIANS)];
/** The vanishing point of what is upright. */
const [vx, vy] = [width / 2 + (camera.focal * up[0]) / up[2], height / 2 + (camera.focal * up[1]) / up[2]];

/** Boards of a wall, each so much brighter or darker than its neighbours, in a room so bright and a film so grainy. */
function room(bright: number, contrast: number, noise: number): FrameAt {
  return async (index) => {
    const random = seededRandom(index + 1);
    const luma = Uint8Array.from({ length: width * height }, (_, i) => {
      const [x, y] = [(i % width) + 0.5, Math.floor(i / width) + 0.5];
      // Where the upright line through this place meets the middle row.
      const at = vx + ((x - vx) * (height / 2 - vy)) / (y - vy);
      const edge = 1 / (1 + Math.exp(-Math.sin((at - 30) / 19) * 20));
      return Math.max(0, Math.min(255, Math.round(bright + contrast * edge + noise * normal(random))));
    });
    return { index, t: index / 25, width, height, luma };
  };
}

const times = Float64Array.from({ length: 50 }, (_, i) => i / 25);
const marks = { frames: [{ t: 0.4, points: {} }] } as unknown as Marks;
const off = (direction: Vec3) => Math.acos(Math.min(1, dot(direction, up))) * DEGREES;

describe('up from a film', () => {
  it.each([
    ['in daylight', 80, 90, 2],
    ['in the dark, with grain', 14, 16, 3.5],
  ])('is told %s, within what it says', async (_, bright, contrast, noise) => {
    const found = await findVertical(times, room(bright, contrast, noise), marks, camera);
    expect(found && off(found.direction)).toBeLessThan(Math.min(2, 2.5 * (found?.sigmaDeg ?? 0)));
  });

  it('is told by the pictures that show it well alone', async () => {
    const light = room(80, 90, 2);
    const then =
      (dark: FrameAt): FrameAt =>
      (index) =>
        (index < 25 ? light : dark)(index);
    const found = await findVertical(times, then(room(14, 16, 3.5)), marks, camera);
    expect(found).toBeDefined();
    expect(found).toEqual(await findVertical(times, then(room(40, 0, 3.5)), marks, camera));
  });

  it('is told by lines that stand out in some pictures only', async () => {
    const [light, plain] = [room(80, 90, 2), room(40, 0, 3.5)];
    const seenIn =
      (...frames: number[]): FrameAt =>
      (index) =>
        (frames.includes(index) ? light : plain)(index);
    // Of 50 pictures 0, 10 (marked), 16, 33 and 49 are looked at first, then 5, 11, 22, 27, 38 and 44 among others.
    const found = await findVertical(times, seenIn(10, 5, 22), marks, camera);
    expect(found && off(found.direction)).toBeLessThan(0.5);
    expect(await findVertical(times, seenIn(10, 22), marks, camera)).toBeUndefined();
  });

  it('is not told before an even wall', async () => {
    expect(await findVertical(times, room(40, 0, 3.5), marks, camera)).toBeUndefined();
  });
});

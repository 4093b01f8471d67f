import { describe, expect, it } from 'vitest';
import { project } from '../../core/geometry/camera';
import { type Pose, stepPose, toOuter } from '../../core/geometry/pose';
import { fromRotationVector, multiply, rotate } from '../../core/geometry/rotation';
import { scale } from '../../core/geometry/vec3';
import type { InstrumentLandmark } from '../../core/instrument/landmarks';
import { normal, seededRandom } from '../../core/random';
import { median } from '../../core/statistics';
import { camera, model, paintViolin } from './paintedViolin';
import { stepToContours } from './stepToContours';

const OUTLINE: readonly InstrumentLandmark[] = ['instrument.endButton', 'instrument.upperCorner.low', 'instrument.lowerCorner.high', 'instrument.fingerboardEnd.low'];
/** How far two poses put the outline apart, px: the worst of four places. */
const apart = (a: Pose, b: Pose) =>
  Math.max(
    ...OUTLINE.map((name) => {
      const [p, q] = [a, b].map((pose) => project(camera, toOuter(pose, model.landmarks[name]))!);
      return Math.hypot(p![0] - q![0], p![1] - q![1]);
    }),
  );

/** A violin followed a little wrongly, by seed. */
function followed(seed: number) {
  const random = seededRandom(300 + seed);
  const pose: Pose = {
    rotation: multiply(fromRotationVector([0.15 * normal(random), 0.15 * normal(random), 0.5 + 0.2 * normal(random)]), fromRotationVector([Math.PI - 0.75, 0, 0])),
    translation: [-60, 20, 1100],
  };
  const strayed = stepPose(pose, [0.02 * normal(random), 0.02 * normal(random), 0.01 * normal(random), 1.5 * normal(random), 1.5 * normal(random), 6 * normal(random)]);
  return { pose, strayed, picture: paintViolin(pose, seed) };
}

describe('the step to the contours of a picture', () => {
  it('leads from where it strayed to most of the way to where it leads from its true place: the rest is how model and instrument differ', () => {
    const ways = [1, 2, 3, 4, 5, 6].map((seed) => {
      const { pose, strayed, picture } = followed(seed);
      const [back, stay] = [strayed, pose].map((from) => stepPose(from, stepToContours(picture, camera, model, from)!));
      return { before: apart(strayed, pose), after: apart(back!, stay!), stayed: apart(stay!, pose) };
    });
    expect(median(ways.map((w) => w.before))).toBeGreaterThan(1.5);
    expect(median(ways.map((w) => w.after / w.before))).toBeLessThan(0.6);
    // The painted plate has no overhanging rim.
    for (const { stayed } of ways) expect(stayed).toBeLessThan(3);
  });
  it('leads back along the instrument where points are seen, which its contours hardly tell', () => {
    const ways = [1, 2, 3, 4].map((seed) => {
      const { pose, picture } = followed(seed);
      const slid = stepPose(pose, [0, 0, 0, ...scale(rotate(pose.rotation, [1, 0, 0]), 6)]);
      const points = OUTLINE.map((landmark) => ({ landmark, point: project(camera, toOuter(pose, model.landmarks[landmark]))!, sigma: 0.5 }));
      const off = (seen: typeof points) => apart(stepPose(slid, stepToContours(picture, camera, model, slid, { points: seen })!), pose);
      return { before: apart(slid, pose), without: off([]), with: off(points) };
    });
    for (const { before, with: after } of ways) expect(after).toBeLessThan(0.5 * before);
    expect(median(ways.map((w) => w.with))).toBeLessThan(median(ways.map((w) => w.without)));
  });
  it('is none where the picture shows no contours', () => {
    const { pose } = followed(1);
    const grey = { width: camera.width, height: camera.height, data: new Uint8ClampedArray(4 * camera.width * camera.height).fill(128) };
    expect(stepToContours(grey, camera, model, pose)).toBeUndefined();
  });
});

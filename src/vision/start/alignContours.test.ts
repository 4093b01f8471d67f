import { describe, expect, it } from 'vitest';
import { project } from '../../core/geometry/camera';
import { type Pose, stepPose, toOuter } from '../../core/geometry/pose';
import { fromRotationVector, multiply } from '../../core/geometry/rotation';
import type { Vec2 } from '../../core/geometry/vec3';
import { INSTRUMENT_LANDMARKS, type InstrumentLandmark } from '../../core/instrument/landmarks';
import { normal, seededRandom } from '../../core/random';
import { quantile } from '../../core/statistics';
import { camera, dimensions, model, paintViolin } from '../instrument/paintedViolin';
import { alignContours } from './alignContours';

const worst = (solved: Pose, truth: Pose, of = model, c = camera, points: readonly InstrumentLandmark[] = INSTRUMENT_LANDMARKS) =>
  Math.max(
    ...points.map((l) => {
      const [u, v] = project(c, toOuter(solved, of.landmarks[l]))!;
      const [x, y] = project(camera, toOuter(truth, model.landmarks[l]))!;
      return Math.hypot(u - x, v - y);
    }),
  );

/** A violin placed wrongly by seed, its points `off` px toward the scroll: how far off it was, and is where the bow plays (px). */
function mended(seed: number, off = 4): { before: number; after: number; bridge: number } {
  const random = seededRandom(100 + seed);
  const pose: Pose = {
    rotation: multiply(fromRotationVector([0.2 * normal(random), 0.2 * normal(random), 0.5 + 0.3 * normal(random)]), fromRotationVector([Math.PI - 0.75, 0, 0])),
    translation: [-60, 20, 1000],
  };
  const picture = paintViolin(pose, seed);
  // As the network errs: all points to one side, toward the scroll.
  const [a, b] = [project(camera, toOuter(pose, [0, 0, 0]))!, project(camera, toOuter(pose, [100, 0, 0]))!];
  const n = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const common: Vec2 = [(off * (b[0] - a[0])) / n, (off * (b[1] - a[1])) / n];
  const points = INSTRUMENT_LANDMARKS.map((landmark) => {
    const [u, v] = project(camera, toOuter(pose, model.landmarks[landmark]))!;
    return { landmark, point: [u + common[0] + normal(random), v + common[1] + normal(random)] as Vec2, sigma: 2 };
  });
  const placed = stepPose(pose, [0.02 * normal(random), 0.02 * normal(random), 0.01, (common[0] * 1000) / camera.focal, (common[1] * 1000) / camera.focal, 10]);
  const { fit } = alignContours(picture, camera, dimensions, placed, points);
  const away = (of?: readonly InstrumentLandmark[]) => worst(fit.poses[0]!, pose, fit.model, fit.camera, of);
  return {
    before: worst(placed, pose),
    after: away(),
    bridge: away(['instrument.bridge.low', 'instrument.bridge.high', 'instrument.fingerboardEnd.low', 'instrument.fingerboardEnd.high']),
  };
}

describe('laying an instrument on its contours', () => {
  it('mends a placing that is off by several pixels, best where the bow plays', () => {
    const all = [1, 2, 3, 4, 5].map((seed) => mended(seed));
    for (const { before, after } of all) {
      expect(before).toBeGreaterThan(4);
      expect(after).toBeLessThan(0.75 * before);
    }
    expect(
      quantile(
        all.map((m) => m.bridge),
        0.5,
      ),
    ).toBeLessThan(1.6);
    expect(Math.max(...all.map((m) => m.bridge))).toBeLessThan(4);
  });

  it('mends a placing whose points are all far to one side, as a network errs at worst', () => {
    const all = [1, 2, 3, 4, 5].map((seed) => mended(seed, 15));
    expect(all.filter(({ bridge }) => bridge < 2).length).toBeGreaterThanOrEqual(4);
  });

  it('leaves a placing alone where the picture shows nothing', () => {
    const pose: Pose = { rotation: multiply(fromRotationVector([0, 0, 0.5]), fromRotationVector([Math.PI - 0.75, 0, 0])), translation: [-60, 20, 1000] };
    const { width, height } = camera;
    const blank = { width, height, data: new Uint8ClampedArray(4 * width * height).fill(128) };
    const points = INSTRUMENT_LANDMARKS.map((landmark) => ({ landmark, point: project(camera, toOuter(pose, model.landmarks[landmark]))!, sigma: 2 }));
    expect(worst(alignContours(blank, camera, dimensions, pose, points).fit.poses[0]!, pose)).toBeLessThan(1);
  });
});

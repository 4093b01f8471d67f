import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project, ray } from '../../core/geometry/camera';
import { type Pose, stepPose, toInner, toOuter } from '../../core/geometry/pose';
import { fromRotationVector, multiply } from '../../core/geometry/rotation';
import { scale, type Vec2 } from '../../core/geometry/vec3';
import { bodyPoint } from '../../core/instrument/body';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { INSTRUMENT_LANDMARKS, type InstrumentLandmark, instrumentModel } from '../../core/instrument/landmarks';
import { buildRelief, renderDepth } from '../../core/instrument/relief';
import { normal, seededRandom } from '../../core/random';
import { quantile } from '../../core/statistics';
import type { ColourPicture } from '../image/colourPicture';
import { alignContours } from './alignContours';

const [width, height] = [960, 540];
const camera = cameraFromFieldOfView(width, height);
const dimensions = dimensionsOf('violin', '4/4');
const model = instrumentModel(dimensions);
const edgePlane = bodyPoint(model.frame, 0, 0, 0)[2];

/** A plain violin before a striped wall: brown plate, darker ribs, black fingerboard. */
function draw(pose: Pose, seed: number): ColourPicture {
  const random = seededRandom(seed);
  const data = new Uint8ClampedArray(4 * width * height);
  const wood = renderDepth(buildRelief(model), pose, camera);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let colour = Math.floor((x + 0.4 * y) / 37) % 2 ? [120, 130, 140] : [165, 160, 150];
      const [i, j] = [x - wood.x0, y - wood.y0];
      const depth = i >= 0 && j >= 0 && i < wood.width && j < wood.height ? wood.depth[j * wood.width + i]! : 0;
      if (depth > 0) {
        const [along, across, up] = toInner(pose, scale(ray(camera, [x + 0.5, y + 0.5]), depth));
        const board = along > model.fingerboardEndX - 2 && Math.abs(across) < 24 && up > -16;
        const rib = up < edgePlane + 0.139 * along - 0.5;
        colour = board ? [35, 32, 32] : rib ? [110, 60, 25] : [170, 95, 40];
      }
      for (let c = 0; c < 3; c++) data[4 * (y * width + x) + c] = colour[c]! + 5 * normal(random);
    }
  }
  return { width, height, data };
}

const worst = (solved: Pose, truth: Pose, of = model, c = camera, points: readonly InstrumentLandmark[] = INSTRUMENT_LANDMARKS) =>
  Math.max(
    ...points.map((l) => {
      const [u, v] = project(c, toOuter(solved, of.landmarks[l]))!;
      const [x, y] = project(camera, toOuter(truth, model.landmarks[l]))!;
      return Math.hypot(u - x, v - y);
    }),
  );

/** A violin placed wrongly by seed: how far off it was, and is where the bow plays (px). */
function mended(seed: number): { before: number; after: number; bridge: number } {
  const random = seededRandom(100 + seed);
  const pose: Pose = {
    rotation: multiply(fromRotationVector([0.2 * normal(random), 0.2 * normal(random), 0.5 + 0.3 * normal(random)]), fromRotationVector([Math.PI - 0.75, 0, 0])),
    translation: [-60, 20, 1000],
  };
  const picture = draw(pose, seed);
  // As the network errs: all points to one side, toward the scroll.
  const [a, b] = [project(camera, toOuter(pose, [0, 0, 0]))!, project(camera, toOuter(pose, [100, 0, 0]))!];
  const n = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const common: Vec2 = [(4 * (b[0] - a[0])) / n, (4 * (b[1] - a[1])) / n];
  const points = INSTRUMENT_LANDMARKS.map((landmark) => {
    const [u, v] = project(camera, toOuter(pose, model.landmarks[landmark]))!;
    return { landmark, point: [u + common[0] + normal(random), v + common[1] + normal(random)] as Vec2, sigma: 2 };
  });
  const placed = stepPose(pose, [0.02 * normal(random), 0.02 * normal(random), 0.01, (common[0] * 1000) / camera.focal, (common[1] * 1000) / camera.focal, 10]);
  const fit = alignContours(picture, camera, dimensions, placed, points);
  const off = (of?: readonly InstrumentLandmark[]) => worst(fit.poses[0]!, pose, fit.model, fit.camera, of);
  return {
    before: worst(placed, pose),
    after: off(),
    bridge: off(['instrument.bridge.low', 'instrument.bridge.high', 'instrument.fingerboardEnd.low', 'instrument.fingerboardEnd.high']),
  };
}

describe('laying an instrument on its contours', () => {
  it('mends a placing that is off by several pixels, best where the bow plays', () => {
    const all = [1, 2, 3, 4, 5].map(mended);
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

  it('leaves a placing alone where the picture shows nothing', () => {
    const pose: Pose = { rotation: multiply(fromRotationVector([0, 0, 0.5]), fromRotationVector([Math.PI - 0.75, 0, 0])), translation: [-60, 20, 1000] };
    const blank: ColourPicture = { width, height, data: new Uint8ClampedArray(4 * width * height).fill(128) };
    const points = INSTRUMENT_LANDMARKS.map((landmark) => ({ landmark, point: project(camera, toOuter(pose, model.landmarks[landmark]))!, sigma: 2 }));
    expect(worst(alignContours(blank, camera, dimensions, pose, points).poses[0]!, pose)).toBeLessThan(1);
  });
});

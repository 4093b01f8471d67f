import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, stepInside, toOuter } from '../geometry/pose';
import { fromRotationVector, multiply } from '../geometry/rotation';
import { normal, seededRandom } from '../random';
import { dimensionsOf } from './dimensions';
import { INSTRUMENT_LANDMARKS, type InstrumentLandmark, instrumentModel } from './landmarks';
import { bridgeSigma, seatBridge } from './seatBridge';
import { type MarksSolution, solveMarks } from './solveMarks';

const camera = cameraFromFieldOfView(960, 540);
const dimensions = dimensionsOf('violin', '4/4');
const model = instrumentModel(dimensions);
/** From the front and above, about 1.2 m away. */
const poseAt = (turn: number): Pose => ({
  rotation: multiply(fromRotationVector([0, 0.1 + turn, 0]), multiply(fromRotationVector([Math.PI - 0.8, 0, 0]), fromRotationVector([0, 0, 1.9]))),
  translation: [60, 20, 1200],
});

/** Frames marked with slips of `sigma` px; the bridge's top and feet besides by `slid` mm along the strings, in all alike. */
function solved(sigma: number, slid: number, frames = 1): MarksSolution {
  const random = seededRandom(11);
  const off = () => 0.4 * sigma * normal(random);
  const marked = Array.from({ length: frames }, (_, f) =>
    INSTRUMENT_LANDMARKS.map((landmark) => {
      const [x, y, z] = model.landmarks[landmark];
      const place = landmark.includes('bridge') ? ([x + slid, y, z] as const) : ([x, y, z] as const);
      const [u, v] = project(camera, toOuter(poseAt(0.05 * f), place))!;
      return { landmark, point: [u + off(), v + off()] as const, sigma };
    }),
  );
  return solveMarks(camera, dimensions, marked);
}

/** How far (mm along the strings) the bridge's true middle lies from where a solution has it, in the picture of its first frame. */
function bridgeOff(solution: MarksSolution, f = 0): number {
  const image = project(camera, poseAt(0.05 * f).translation)!;
  const at = (x: number) => {
    const [u, v] = project(solution.camera, toOuter(solution.poses[f]!, [x, 0, 0]))!;
    return Math.hypot(u - image[0], v - image[1]);
  };
  return Array.from({ length: 401 }, (_, i) => (i - 200) / 20).reduce((a, b) => (at(b) < at(a) ? b : a));
}

const misses = (solution: MarksSolution, names: readonly InstrumentLandmark[]): number[] =>
  names.map((name) => {
    const [u, v] = project(solution.camera, toOuter(solution.poses[0]!, solution.model.landmarks[name]))!;
    const [x, y] = project(camera, toOuter(poseAt(0), model.landmarks[name]))!;
    return Math.hypot(u - x, v - y);
  });

describe('a bridge moved to where the film shows it', () => {
  it('goes there as far as the film is surer than the marks, and leaves the rest of the instrument where it is marked', () => {
    for (const frames of [1, 3]) {
      const before = solved(3, 5, frames);
      const along = bridgeOff(before);
      expect(Math.abs(along)).toBeGreaterThan(2);
      const { solution } = seatBridge(before, dimensions, { along, sigma: 0.3 });
      const share = bridgeSigma(before) ** 2 / (bridgeSigma(before) ** 2 + 0.3 ** 2);
      expect(share).toBeGreaterThan(0.8);
      expect(Math.abs(bridgeOff(solution) - along * (1 - share))).toBeLessThan(0.4);
      const rest = ['instrument.nut.low', 'instrument.nut.high', 'instrument.scroll', 'instrument.upperCorner.low', 'instrument.lowerCorner.high'] as const;
      const [then, now] = [misses(before, rest), misses(solution, rest)];
      now.forEach((miss, i) => {
        expect(miss, rest[i]!).toBeLessThan(then[i]! + 0.8);
      });
    }
  });
  it('is told as surely as both together', () => {
    const before = solved(1.5, 0);
    const prior = bridgeSigma(before);
    const { solution } = seatBridge(before, dimensions, { along: 0, sigma: 0.7 });
    expect(bridgeSigma(solution)).toBeCloseTo(1 / Math.hypot(1 / prior, 1 / 0.7), 6);
    expect(solution.poses[0]!.translation).toEqual(before.poses[0]!.translation);
    // No unknown is told less surely than before.
    const n = before.unknowns;
    for (let i = 0; i < n; i++) {
      expect(solution.covariance[i * n + i]!).toBeLessThanOrEqual(before.covariance[i * n + i]! * (1 + 1e-9));
      for (let k = 0; k < i; k++) expect(solution.covariance[i * n + k]!).toBeCloseTo(solution.covariance[k * n + i]!, 9);
    }
  });
  it('says nothing where the film does not', () => {
    const before = solved(1, 1);
    const { solution, step } = seatBridge(before, dimensions, { along: 3, sigma: 1e6 });
    expect(Math.hypot(...step)).toBeLessThan(1e-6);
    expect(solution.shape.every((s, i) => Math.abs(s - before.shape[i]!) < 1e-6)).toBe(true);
  });
  it('tells by which step in its own axes followed poses go along', () => {
    const before = solved(3, 4);
    const { solution, step } = seatBridge(before, dimensions, { along: bridgeOff(before), sigma: 0.5 });
    const moved = stepInside(before.poses[0]!, step);
    moved.translation.forEach((v, i) => {
      expect(v).toBeCloseTo(solution.poses[0]!.translation[i]!, 6);
    });
    moved.rotation.forEach((v, i) => {
      expect(v).toBeCloseTo(solution.poses[0]!.rotation[i]!, 9);
    });
  });
});

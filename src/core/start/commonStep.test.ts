import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, stepInside, stepPose, toOuter } from '../geometry/pose';
import { fromRotationVector, multiply } from '../geometry/rotation';
import { dimensionsOf } from '../instrument/dimensions';
import { INSTRUMENT_LANDMARKS, instrumentModel } from '../instrument/landmarks';
import { normal, seededRandom } from '../random';
import { mean } from '../statistics';
import { commonStep, type PlacedTwice } from './commonStep';

const camera = cameraFromFieldOfView(960, 540);
const model = instrumentModel(dimensionsOf('violin', '4/4'));
const base: Pose = { rotation: multiply(fromRotationVector([0, 0, 0.5]), fromRotationVector([Math.PI - 0.8, 0, 0])), translation: [-40, 20, 1100] };

/** The farthest that two poses put a landmark apart, px. */
const apart = (a: Pose, b: Pose) =>
  Math.max(
    ...INSTRUMENT_LANDMARKS.map((l) => {
      const [p, q] = [a, b].map((pose) => project(camera, toOuter(pose, model.landmarks[l]))!);
      return Math.hypot(p![0] - q![0], p![1] - q![1]);
    }),
  );
/** A swaying player: true poses; followed from the first, which was placed wrongly by `wrong`; found in each with errors of its own. */
function film(seed: number, frames: number, own: number, wrong: readonly number[]): { truth: Pose; twice: PlacedTwice }[] {
  const random = seededRandom(seed);
  return Array.from({ length: frames }, () => {
    const truth = stepPose(base, [0.25 * normal(random), 0.2 * normal(random), 0.2 * normal(random), 30 * normal(random), 20 * normal(random), 40 * normal(random)]);
    const off = [0.008, 0.008, 0.008, 1.2, 1.2, 6].map((s) => own * s * normal(random));
    return { truth, twice: { followed: stepInside(truth, wrong), found: stepInside(truth, off) } };
  });
}
const WRONG = [0.02, -0.01, 0.008, 2, -1.5, 3];

describe('one step for all frames of a start', () => {
  it('is the one by which the followed frame was placed wrongly, if the others were found without error', () => {
    for (const seed of [1, 2, 3]) {
      const frames = film(seed, 4, 0, WRONG);
      const step = commonStep(
        camera,
        model,
        frames.map((f) => f.twice),
      );
      for (const { truth, twice } of frames) expect(apart(stepInside(twice.followed, step), truth)).toBeLessThan(0.6);
    }
  });
  it('places the frames better than the one they are followed from was found, in the mean over many films', () => {
    const random = seededRandom(3);
    const ways = Array.from({ length: 12 }, (_, seed) => {
      const wrong = [0.008, 0.008, 0.008, 1.2, 1.2, 6].map((s) => s * normal(random));
      const frames = film(20 + seed, 4, 1, wrong).map((f, i) => (i === 0 ? { ...f, twice: { ...f.twice, found: f.twice.followed } } : f));
      const step = commonStep(
        camera,
        model,
        frames.map((f) => f.twice),
      );
      const off = (moved: (pose: Pose) => Pose) => mean(frames.map(({ truth, twice }) => apart(moved(twice.followed), truth)));
      return { alone: off((pose) => pose), together: off((pose) => stepInside(pose, step)) };
    });
    expect(mean(ways.map((w) => w.together))).toBeLessThan(0.75 * mean(ways.map((w) => w.alone)));
  });
  it('does not follow one frame that was found far off', () => {
    const frames = film(7, 5, 0.3, [0, 0, 0, 0, 0, 0]);
    const astray = frames.map((f, i) => (i === 2 ? { ...f.twice, found: stepPose(f.truth, [0.05, 0, 0.05, 20, 12, 0]) } : f.twice));
    expect(apart(astray[2]!.found, frames[2]!.truth)).toBeGreaterThan(15);
    const step = commonStep(camera, model, astray);
    for (const { truth, twice } of frames) expect(apart(stepInside(twice.followed, step), truth)).toBeLessThan(3);
  });
  it('is none without frames', () => {
    expect([...commonStep(camera, model, [])]).toEqual([0, 0, 0, 0, 0, 0]);
  });
});

describe('a step in the inner axes', () => {
  it('goes with the thing: what was placed wrongly in itself is off alike wherever it goes', () => {
    const motion = (pose: Pose): Pose => ({
      rotation: multiply(fromRotationVector([0.3, -0.2, 0.5]), pose.rotation),
      translation: toOuter({ rotation: fromRotationVector([0.3, -0.2, 0.5]), translation: [10, 20, 30] }, pose.translation),
    });
    const [moved, stepped] = [stepInside(motion(base), WRONG), motion(stepInside(base, WRONG))];
    for (const place of [
      [0, 0, 0],
      [300, 10, -20],
      [-150, 90, 5],
    ] as const)
      toOuter(moved, place).forEach((v, i) => {
        expect(v).toBeCloseTo(toOuter(stepped, place)[i]!, 6);
      });
  });
});

import { describe, expect, it } from 'vitest';
import { type Pose, stepBetween, stepPose } from '../geometry/pose';
import { fromRotationVector } from '../geometry/rotation';
import { normal, seededRandom } from '../random';
import { type FollowedPose, type PoseEvidence, smoothPoses } from './smoothPoses';

const START: Pose = { rotation: fromRotationVector([2, 0.4, -0.3]), translation: [-60, 20, 1200] };
/** A violin that turns about the upright and goes from side to side, as its player sways. */
const swaying = (t: number): Pose => stepPose(START, [0, 0.12 * Math.sin(2 * t), 0, 30 * Math.sin(1.5 * t), 0, 0]);
/** A frame whose picture tells each of the six numbers as surely as given (1 sigma), and would put them `off` by so much from where they were followed. */
const evidence = (sigmas: readonly number[], off: readonly number[]): PoseEvidence => ({
  information: Array.from({ length: 36 }, (_, k) => (k % 7 === 0 ? 1 / sigmas[k / 7]! ** 2 : 0)),
  pull: off.map((v, q) => v / sigmas[q]! ** 2),
});
const SURE = [1e-3, 1e-3, 1e-3, 0.2, 0.2, 2];
const NONE = [0, 0, 0, 0, 0, 0];
const times = Array.from({ length: 101 }, (_, i) => i / 25);
const errorsOf = (poses: readonly (Pose | undefined)[], of: (step: number[]) => number) => poses.map((pose, i) => of(stepBetween(swaying(times[i]!), pose!)));
const rms = (values: readonly number[]) => Math.sqrt(values.reduce((s, v) => s + v * v, 0) / values.length);

describe('a course laid anew through what all pictures say', () => {
  it('keeps a course that goes on evenly', () => {
    const even = times.map((t): FollowedPose => ({ t, pose: stepPose(START, [0, 0, 0, 10 * t, -4 * t, 2 * t]), evidence: evidence(SURE, NONE) }));
    smoothPoses(even).forEach((pose, i) => {
      for (const v of stepBetween(even[i]!.pose!, pose!)) expect(v).toBeCloseTo(0, 6);
    });
  });

  it('follows a swaying player where pictures tell it, and takes shaking off', () => {
    const random = seededRandom(4);
    const shaken = times.map((t): FollowedPose => {
      const off = SURE.map((s) => s * normal(random));
      return {
        t,
        pose: stepPose(
          swaying(t),
          off.map((v) => -v),
        ),
        evidence: evidence(SURE, NONE),
      };
    });
    const turn = (step: number[]) => step[1]!;
    const before = rms(
      errorsOf(
        shaken.map((f) => f.pose),
        turn,
      ),
    );
    expect(rms(errorsOf(smoothPoses(shaken), turn))).toBeLessThan(0.75 * before);
  });

  it('mends a course that lags in what single pictures tell but weakly', () => {
    const random = seededRandom(9);
    const weak = [1e-3, 0.02, 1e-3, 0.2, 0.2, 2];
    const lagging = times.map((t): FollowedPose => {
      const pose = stepPose(START, [0, 0.12 * 0.6 * Math.sin(2 * (t - 0.2)), 0, 30 * Math.sin(1.5 * t), 0, 0]);
      const seen = stepBetween(pose, swaying(t));
      return { t, pose, evidence: evidence(weak, [0, seen[1]! + 0.02 * normal(random), 0, 0, 0, 0]) };
    });
    const turn = (step: number[]) => step[1]!;
    const before = rms(
      errorsOf(
        lagging.map((f) => f.pose),
        turn,
      ),
    );
    const after = rms(errorsOf(smoothPoses(lagging), turn));
    expect(after).toBeLessThan(before / 3);
    // Nearer than any picture alone.
    expect(after).toBeLessThan(0.02 / 2);
  });

  it.each([25, 60])('moves one doubtful pose among sure ones by the closed form of three changes of velocity, at %i frames a second', (rate) => {
    const sure = evidence([1e-7, 1e-7, 1e-7, 1e-5, 1e-5, 1e-5], NONE);
    const frames = Array.from({ length: 11 }, (_, i): FollowedPose => ({ t: i / rate, pose: START, evidence: sure }));
    const [sigma, off] = [4, 3];
    frames[5] = { ...frames[5]!, evidence: evidence([1, 1, 1, sigma, sigma, sigma], [0, 0, 0, off, 0, 0]) };
    const moved = stepBetween(START, smoothPoses(frames)[5]!)[3]!;
    // Pictures within 0.4 s count as one.
    const own = 1 / (0.4 * rate) / sigma ** 2;
    // Weights of once, minus twice and once the rate on the pose in three changes, each of variance 5e4 mm²/s³ times the spacing.
    const course = (6 * rate ** 2) / (5e4 / rate);
    expect(moved).toBeCloseTo((own * off) / (own + course), 5);
  });

  it('does not carry a course over a long loss, and leaves poses without evidence alone', () => {
    const at = (t: number, x: number, told: PoseEvidence | undefined): FollowedPose => ({ t, pose: { ...START, translation: [x, 0, 1200] }, evidence: told });
    const told = evidence(SURE, NONE);
    const frames = [
      ...[0, 1, 2, 3].map((i) => at(i / 25, 0, told)),
      { t: 0.5, pose: undefined, evidence: undefined },
      ...[0, 1, 2, 3].map((i) => at(1 + i / 25, 200, told)),
      at(1.2, 999, undefined),
    ];
    const out = smoothPoses(frames);
    expect(out[4]).toBeUndefined();
    expect(out[9]).toBe(frames[9]!.pose);
    out.slice(0, 4).forEach((pose) => {
      expect(pose!.translation[0]).toBeCloseTo(0, 6);
    });
    out.slice(5, 9).forEach((pose) => {
      expect(pose!.translation[0]).toBeCloseTo(200, 6);
    });
  });

  it('stays finite where pictures tell nothing, and where two frames come at once', () => {
    const nothing: PoseEvidence = { information: new Float64Array(36), pull: new Float64Array(6) };
    const frames = [0, 1, 2, 2, 3].map((i): FollowedPose => ({ t: i / 25, pose: swaying(i / 25), evidence: nothing }));
    for (const pose of smoothPoses(frames)) expect([...pose!.rotation, ...pose!.translation].every(Number.isFinite)).toBe(true);
  });
});

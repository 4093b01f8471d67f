import { type Pose, stepBetween, stepPose } from '../geometry/pose';
import { BandedCholesky, BandedMatrix } from '../linalg/bandedCholesky';

/** What one picture says about where an instrument lies. */
export interface PoseEvidence {
  /** Information on the six numbers of a step of the pose (see stepPose), 6 x 6 row by row. */
  readonly information: ArrayLike<number>;
  /** How hard the picture pulls the pose away from where it was taken to lie: its information times the step it would take alone. */
  readonly pull: ArrayLike<number>;
}

/** A frame of a film in which the instrument was followed; frames come in the order of time. */
export interface FollowedPose {
  /** Seconds. */
  readonly t: number;
  /** Absent where the instrument was lost. */
  readonly pose: Pose | undefined;
  /** Poses without are left as they are. */
  readonly evidence: PoseEvidence | undefined;
}

/** How much the velocity of a held instrument changes: variance a second, (rad/s)² and (mm/s)² (ours: half a radian and a third of a metre a second, within a second). */
const CHANGE = { turning: 0.15, moving: 5e4 } as const;
/** What covers or shades the instrument does so for about so long (s, ours): pictures within that time count as one. */
const ALIKE_FOR = 0.4;
/** No pose is off by more than about so much (radians, mm), whatever its picture tells: the system stays solvable. */
const OFF = { turned: 1, moved: 1000 } as const;
/** Frames nearer each other than this (s) are taken to be so far apart. */
const LEAST_GAP = 1e-3;
/** A course is not carried on over a longer gap (s). */
const LONGEST_GAP = 0.5;

/**
 * The poses of a course laid anew through what all its pictures say: what one picture tells but weakly is taken from the
 * frames before and after it. A followed course leans on the frames before alone, and lags where the picture tells little.
 * Solves for a step of every pose together: the pictures' evidence, and velocities that change as a held instrument's do.
 */
export function smoothPoses(frames: readonly FollowedPose[]): (Pose | undefined)[] {
  const out = frames.map((f) => f.pose);
  let run: Told[] = [];
  const settle = () => {
    if (run.length > 2) {
      const steps = stepsOf(run);
      run.forEach(({ index, pose }, k) => {
        out[index] = stepPose(pose, steps, 6 * k);
      });
    }
    run = [];
  };
  frames.forEach(({ t, pose, evidence }, index) => {
    if (!pose || !evidence) return;
    const last = run[run.length - 1];
    if (last && t - last.t > LONGEST_GAP) settle();
    run.push({ index, t, pose, evidence });
  });
  settle();
  return out;
}

interface Told {
  /** Place among the frames. */
  readonly index: number;
  readonly t: number;
  readonly pose: Pose;
  readonly evidence: PoseEvidence;
}

/** A step for each pose of a course without gaps, six numbers each in turn. */
function stepsOf(run: readonly Told[]): Float64Array {
  const n = run.length;
  // A change of velocity ties three poses together.
  const matrix = new BandedMatrix(6 * n, 3 * 6 - 1);
  const rhs = new Float64Array(6 * n);
  /** The share of a picture's information that is its own. */
  const own = Math.min(1, (run[n - 1]!.t - run[0]!.t) / (n - 1) / ALIKE_FOR);
  run.forEach(({ evidence }, i) => {
    for (let p = 0; p < 6; p++) {
      rhs[6 * i + p]! += own * evidence.pull[p]!;
      for (let q = 0; q <= p; q++) matrix.add(6 * i + p, 6 * i + q, own * evidence.information[6 * p + q]!);
      matrix.add(6 * i + p, 6 * i + p, 1 / (p < 3 ? OFF.turned : OFF.moved) ** 2);
    }
  });
  for (let i = 1; i < n - 1; i++) {
    const [a, b, c] = [run[i - 1]!, run[i]!, run[i + 1]!];
    const [before, after] = [Math.max(LEAST_GAP, b.t - a.t), Math.max(LEAST_GAP, c.t - b.t)];
    const [came, goes] = [stepBetween(a.pose, b.pose), stepBetween(b.pose, c.pose)];
    const weights = [1 / before, -(1 / before + 1 / after), 1 / after];
    for (let q = 0; q < 6; q++) {
      const information = 2 / ((q < 3 ? CHANGE.turning : CHANGE.moving) * (before + after));
      const change = goes[q]! / after - came[q]! / before;
      weights.forEach((w, k) => {
        const at = 6 * (i - 1 + k) + q;
        rhs[at]! -= information * w * change;
        for (let m = 0; m <= k; m++) matrix.add(at, 6 * (i - 1 + m) + q, information * w * weights[m]!);
      });
    }
  }
  return new BandedCholesky(matrix).solve(rhs);
}

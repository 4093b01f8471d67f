import { type Camera, project } from '../geometry/camera';
import { type Pose, stepPose, toOuter } from '../geometry/pose';
import { rotationDistance } from '../geometry/rotation';
import { DEGREES } from '../geometry/vec3';
import type { InstrumentModel } from '../instrument/landmarks';
import { choleskyFactor, choleskySolve } from '../linalg/cholesky';
import { anchorEquations } from './anchorEquations';
import type { TrackedFrame } from './measureFrames';
import { meanAbout, meanOf, nearestIn, type Seen } from './stepsOverTime';

/**
 * A pose can lie wrongly in six ways, each told here by how far it moves the landmarks in the picture (root mean square,
 * px at 960 across): along itself, and in five more. By so much in each are points off that were found in the picture and
 * freed of what they always err by (ours, as all numbers here, from five whole players of two renderers).
 */
const POINTS = { along: 0.75, besides: 0.45 } as const;
/** Seen from low, a course slides along the instrument: so much a degree turned since the mark, where it looks the same a little further on, and so much within about so many seconds. */
const SLIDE = { turning: 0.1, lasting: 0.8, within: 0.7 } as const;
/** In its other ways a course goes off within about so many seconds, by what the points tell in this film, and by no less than this. */
const COURSE = { within: 0.3, least: 0.3 } as const;
/** About so many looks running err alike (ours). */
const ALIKE = 3;
/** Ways a pose can lie wrongly in besides along itself. */
const BESIDES = 5;

const squared = (v: number) => v * v;

interface Placed {
  readonly t: number;
  readonly pose: Pose;
}

interface Look extends Placed, Seen {
  readonly moves: Moves;
}

/**
 * The poses of an instrument seen from low over its plate, moved toward points found in the picture. `steps` tell by how
 * much it lies elsewhere (six numbers, see stepPose); what they say about the frames marked by hand, where the course is
 * right, is how points and model differ, and is taken off. Along itself an instrument is moved the more the further it
 * has turned since it was marked and the longer that was ago; in its other ways the more the further points and course
 * lie apart in this film, beyond what the points err by.
 */
export function settleSliding(
  tracked: readonly TrackedFrame[],
  steps: ReadonlyMap<number, ArrayLike<number>>,
  marked: readonly number[],
  camera: Camera,
  model: InstrumentModel,
): TrackedFrame[] {
  const looks = tracked.flatMap(({ index, t, pose }): Look[] => {
    const values = steps.get(index);
    const moves = pose && values && movesOf(camera, model, pose);
    return moves ? [{ t, pose, values, moves }] : [];
  });
  const marks = tracked.flatMap(({ index, t, pose }) => (pose && marked.includes(index) ? [{ t, pose }] : []));
  if (looks.length === 0 || marks.length === 0) return [...tracked];
  const unit = squared(Math.max(camera.width, camera.height) / 960);
  const points = { along: unit * squared(POINTS.along), besides: unit * squared(POINTS.besides) };
  /** How far a course has slid from its mark (px²), besides what it goes off by in each of its ways. */
  const slid = (from: Placed, to: Placed) =>
    unit * (squared(SLIDE.turning * DEGREES * rotationDistance(from.pose.rotation, to.pose.rotation)) + squared(SLIDE.lasting) * gone(to.t - from.t, SLIDE.within));

  /** What the points always err by as told about each mark, if courses go off by `doubt` (squared). */
  const zerosIf = (doubt: number) =>
    marks.map((mark) => ({ ...mark, step: meanOf(looks, 6, (look) => 1 / (ALIKE * (doubt * gone(look.t - mark.t, COURSE.within) + slid(mark, look)) + points.along))! }));
  const doubt = Math.max(unit * squared(COURSE.least), doubtOf(looks, zerosIf(points.besides), points.besides));
  const zeros = zerosIf(doubt);
  const about = meanAbout(looks, 6);
  return tracked.map((frame) => {
    const seen = frame.pose && about(frame.t);
    const moves = frame.pose && movesOf(camera, model, frame.pose);
    if (!frame.pose || !seen || !moves) return frame;
    const zero = nearestIn(zeros, frame.t);
    const course = doubt * gone(frame.t - zero.t, COURSE.within);
    const sliding = course + slid(zero, { t: frame.t, pose: frame.pose });
    const [share, shareAlong] = [course / (course + points.besides), sliding / (sliding + points.along)];
    const step = without(seen, zero.step);
    const along = moves.along(step);
    return {
      ...frame,
      pose: stepPose(
        frame.pose,
        step.map((v, k) => share * v + (shareAlong - share) * along[k]!),
      ),
    };
  });
}

/** How far a course goes off in each of its ways but along itself (px², may be less than nothing): what points and course lie apart by beyond what the points err by. */
function doubtOf(looks: readonly Look[], zeros: readonly { readonly t: number; readonly step: readonly number[] }[], points: number): number {
  let sum = 0;
  let weights = 0;
  for (const { t, values, moves } of looks) {
    const zero = nearestIn(zeros, t);
    const weight = gone(t - zero.t, COURSE.within);
    sum += weight * (moves.besides(without(values, zero.step)) / BESIDES - points);
    weights += squared(weight);
  }
  return weights > 0 ? sum / weights : 0;
}

/** Share of its lasting doubt (squared) a course has so many seconds from its mark, if it goes off within about `within`. */
const gone = (seconds: number, within: number): number => squared(1 - Math.exp(-Math.abs(seconds) / within));

const without = (step: ArrayLike<number>, zero: readonly number[]): number[] => Array.from(step, (v, k) => v - zero[k]!);

interface Moves {
  /** The part of a step that moves the instrument along itself in the picture. */
  readonly along: (step: readonly number[]) => number[];
  /** Mean square of what a step moves the landmarks by besides, px². */
  readonly besides: (step: readonly number[]) => number;
}

/** How small steps of a pose move the instrument in the picture; undefined where it cannot be projected. */
function movesOf(camera: Camera, model: InstrumentModel, pose: Pose): Moves | undefined {
  const [scroll, end] = (['instrument.scroll', 'instrument.endButton'] as const).map((name) => project(camera, toOuter(pose, model.landmarks[name])));
  if (!scroll || !end) return undefined;
  const [x, y] = [scroll[0] - end[0], scroll[1] - end[1]];
  const length = Math.hypot(x, y) || 1;
  const { matrix, rhs, count } = anchorEquations(pose, camera, model, (_, __, here) => [here[0] + x / length, here[1] + y / length]);
  const slide = choleskySolve(choleskyFactor(matrix, 6), 6, rhs);
  const pixels = (step: readonly number[]) => step.reduce((sum, v, k) => sum + v * rhs[k]!, 0) / count;
  return {
    along: (step) => Array.from(slide, (v) => v * pixels(step)),
    besides: (step) => {
      let moved = 0;
      for (let i = 0; i < 6; i++) for (let k = 0; k < 6; k++) moved += step[i]! * matrix[6 * i + k]! * step[k]!;
      return moved / count - squared(pixels(step));
    },
  };
}

import type { Camera } from '../../core/geometry/camera';
import { type Pose, stepPose } from '../../core/geometry/pose';
import { fromRotationVector, multiply, toRotationVector, transpose } from '../../core/geometry/rotation';
import { scale, subtract } from '../../core/geometry/vec3';
import type { InstrumentModel } from '../../core/instrument/landmarks';
import { buildRelief, type Relief } from '../../core/instrument/relief';
import type { Frame } from '../film/frame';
import type { GrayPatch } from '../image/gray';
import { NormaliseScratch, normaliseRegion, pyramid } from '../image/normalise';
import { type BowInPicture, instrumentRegion, type KeyFrame, makeKeyFrame } from './keyFrame';
import { register } from './registration';

export interface InstrumentSighting {
  readonly index: number;
  readonly pose: Pose;
  /** 0 lost .. 1 as sure as in the marked frame. */
  readonly quality: number;
}

const LEVELS = 3;
/** Share of the last motion expected to go on. */
const PERSISTENCE = 0.8;
const MIN_CORRELATION = 0.55;
const MIN_BELIEVED = 0.25;

/** Follows the instrument from a frame of known pose through neighbouring frames, in either direction, without drift. */
export class InstrumentTracker {
  readonly relief: Relief;
  private readonly scratch = new NormaliseScratch();
  private keyFrames: KeyFrame[] = [];
  private last: Pose | undefined;
  private beforeLast: Pose | undefined;
  private lostFor = 0;

  constructor(
    private readonly camera: Camera,
    readonly model: InstrumentModel,
  ) {
    this.relief = buildRelief(model);
  }

  private levelsFor(frame: Frame, pose: Pose, margin: number): GrayPatch[] {
    const sigma = (6 * Math.max(frame.width, frame.height)) / 960;
    const region = instrumentRegion(this.relief, pose, this.camera, margin);
    return pyramid(normaliseRegion(frame, region, sigma, this.scratch), LEVELS);
  }

  addKeyFrame(frame: Frame, pose: Pose, bow: BowInPicture | undefined): void {
    const levels = this.levelsFor(frame, pose, 24);
    this.keyFrames.push(makeKeyFrame(frame.index, levels, pose, this.camera, this.model, this.relief, bow));
  }

  /** Begins anew at a frame whose pose is known. */
  startAt(pose: Pose): void {
    this.last = pose;
    this.beforeLast = undefined;
    this.lostFor = 0;
  }

  private predict(): Pose {
    const last = this.last!;
    if (!this.beforeLast || this.lostFor > 0) return last;
    const turn = scale(toRotationVector(multiply(last.rotation, transpose(this.beforeLast.rotation))), PERSISTENCE);
    const shift = scale(subtract(last.translation, this.beforeLast.translation), PERSISTENCE);
    return stepPose(last, [...turn, ...shift]);
  }

  /** The instrument in the next frame. Quality 0 means lost: the pose is then only the last known one. */
  follow(frame: Frame): InstrumentSighting {
    if (!this.last) throw new Error('the tracker has not been started at a known pose');
    const nearest = [...this.keyFrames].sort((a, b) => Math.abs(a.index - frame.index) - Math.abs(b.index - frame.index)).slice(0, 2);
    const predicted = this.predict();
    const margin = (40 * Math.max(frame.width, frame.height)) / 960;
    const levels = this.levelsFor(frame, predicted, margin);
    const attempts: { from: Pose; loose: number }[] = [{ from: predicted, loose: 1 + Math.min(4, this.lostFor) }];
    let best = { pose: predicted, correlation: -1, believed: 0 };
    const score = (r: typeof best) => r.correlation * Math.sqrt(Math.max(0, r.believed));
    const good = (r: typeof best) => r.correlation > MIN_CORRELATION && r.believed > MIN_BELIEVED;
    for (const attempt of attempts) {
      const result = register(levels, nearest, this.camera, attempt.from, { looseness: attempt.loose });
      if (score(result) > score(best)) best = result;
      if (good(best)) break;
      // One wider look before giving the frame up; more would make a lost clip crawl.
      if (attempts.length < 2) {
        const sway = fromRotationVector([0, 0, 0]);
        attempts.push({ from: { rotation: multiply(sway, this.last.rotation), translation: this.last.translation }, loose: 4 });
      }
    }
    if (good(best)) {
      this.beforeLast = this.lostFor > 0 ? undefined : this.last;
      this.last = best.pose;
      this.lostFor = 0;
      return { index: frame.index, pose: best.pose, quality: Math.min(1, score(best)) };
    }
    this.lostFor++;
    return { index: frame.index, pose: this.last, quality: 0 };
  }
}

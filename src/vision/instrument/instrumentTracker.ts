import type { Camera } from '../../core/geometry/camera';
import { type Pose, stepPose } from '../../core/geometry/pose';
import { multiply, toRotationVector, transpose } from '../../core/geometry/rotation';
import { scale, subtract } from '../../core/geometry/vec3';
import type { InstrumentModel } from '../../core/instrument/landmarks';
import { buildRelief, type Relief } from '../../core/instrument/relief';
import type { PoseEvidence } from '../../core/measures/smoothPoses';
import type { Frame } from '../film/frame';
import { blurOf } from '../image/blur';
import type { GrayPatch } from '../image/gray';
import { normaliseRegion, pyramid } from '../image/normalise';
import { brightnessWindow, narrownessOf } from './brightnessWindow';
import { type BowInPicture, instrumentRegion, type KeyFrame, makeKeyFrame } from './keyFrame';
import { nearestShift, type Registration, register } from './registration';

export interface InstrumentSighting {
  readonly index: number;
  readonly pose: Pose;
  /** 0 lost .. 1 as sure as in the marked frame. */
  readonly quality: number;
}

const LEVELS = 3;
/** Share of the last motion expected to go on. */
const PERSISTENCE = 0.8;
/** Correlation below which it is lost, with the widest window and with the narrowest, in which the surest frames fit little less and doubtful ones much (ours, from five films laid with both). */
const MIN_CORRELATION = { wide: 0.55, narrow: 0.45 } as const;
/** By so much less frames fit in the median with the narrowest (from the same films). */
const NARROW_COSTS = 0.04;
const MIN_BELIEVED = 0.25;
/** Lost, it is only known again where it fits at least so much of what is usual in the clip: other things were taken for it at 0.57 to 0.7, itself at 0.8 and more (ours, from 16 clips of two renderers). */
const REGAIN_SHARE = 0.78;
/** What is usual before anything was followed, and how fast that is learnt a frame (ours). */
const USUAL = { first: 0.85, rate: 0.05 } as const;
/** A frame that fits the marks less than this is laid over a helper too (ours, after trials). */
const HELP_BELOW = 0.82;
/** A frame that fits the marks at least this well may become a helper, so many frames apart (ours). */
const HELPER_FROM = 0.78;
const HELPER_SPACING = 12;
/** A hand that holds the phone moves the picture by up to so much beyond what was to be foreseen, pixels at 960 across, from one frame to the next (ours). */
const JERK = 32;
/** Lost, it is looked for where the known frames have it every so many frames (ours: it costs two more looks). */
const LOOK_ELSEWHERE = 3;
/** Helpers kept: only those near the frame in hand are asked, and memory must not grow with the clip. */
const MOST_HELPERS = 12;

const scoreOf = (r: Registration): number => r.correlation * Math.sqrt(Math.max(0, r.believed));

/** A frame that may become a helper once it is known where the bow is in it. */
interface Candidate {
  readonly index: number;
  readonly levels: readonly GrayPatch[];
  readonly pose: Pose;
}

/** Follows the instrument from a frame of known pose through neighbouring frames, in either direction, without drift. */
export class InstrumentTracker {
  readonly relief: Relief;
  /** What the picture alone says about each pose that was followed. */
  readonly evidence = new WeakMap<Pose, PoseEvidence>();
  private keyFrames: KeyFrame[] = [];
  /** Frames that fitted a marked one well: they show the instrument as it looks later, one step from a mark. */
  private helpers: KeyFrame[] = [];
  private last: Pose | undefined;
  private beforeLast: Pose | undefined;
  private lostFor = 0;
  /** Not known for sure to be where it is thought to be: it was lost, or only looked for there. */
  private doubted = false;
  private usual: number = USUAL.first;
  private needsHelp = false;
  private candidate: Candidate | undefined;
  /** Sigma of the window (px), the same for all frames that are laid over each other. */
  private window: number | undefined;
  private readonly unit: number;

  constructor(
    private readonly camera: Camera,
    readonly model: InstrumentModel,
  ) {
    this.relief = buildRelief(model);
    this.unit = Math.max(camera.width, camera.height) / 960;
  }

  private levelsFor(frame: Frame, pose: Pose, margin: number): GrayPatch[] {
    this.window ??= brightnessWindow(pose, this.camera, this.model);
    const region = instrumentRegion(this.relief, pose, this.camera, margin);
    return pyramid(normaliseRegion(frame, region, this.window), LEVELS);
  }

  /** See {@link narrownessOf}. */
  private get narrowness(): number {
    return this.window === undefined ? 0 : narrownessOf(this.window, this.camera);
  }

  /** How well a frame fits, 0..1, whatever the window. */
  private qualityOf({ correlation, believed }: Registration): number {
    return Math.min(1, (correlation + NARROW_COSTS * this.narrowness) * Math.sqrt(Math.max(0, believed)));
  }

  addKeyFrame(frame: Frame, pose: Pose, bow: BowInPicture | undefined): void {
    const levels = this.levelsFor(frame, pose, 24);
    this.keyFrames.push(makeKeyFrame(frame.index, levels, pose, this.camera, this.model, this.relief, bow));
  }

  /** How blurred the instrument is in a frame (sigma, px); undefined where it has no edges. */
  blurIn(frame: Frame, pose: Pose): number | undefined {
    return blurOf(frame, instrumentRegion(this.relief, pose, this.camera, 0));
  }

  /** Begins anew at a frame whose pose is known, or only `guessed`: then it must be known again there. */
  startAt(pose: Pose, guessed = false): void {
    this.last = pose;
    this.beforeLast = undefined;
    this.lostFor = 0;
    this.doubted = guessed;
    this.needsHelp = false;
    this.candidate = undefined;
  }

  /** The frame that waits for {@link learnCandidate}. */
  get candidateIndex(): number | undefined {
    return this.candidate?.index;
  }

  /** Learns the waiting frame's look; `bow` says where the bow is in it, so that it is not taken for wood. */
  learnCandidate(bow: BowInPicture | undefined): void {
    if (!this.candidate) return;
    const { index, levels, pose } = this.candidate;
    this.helpers.push(makeKeyFrame(index, levels, pose, this.camera, this.model, this.relief, bow));
    if (this.helpers.length > MOST_HELPERS) this.helpers.shift();
    this.candidate = undefined;
  }

  private predict(): Pose {
    const last = this.last!;
    if (!this.beforeLast || this.lostFor > 0) return last;
    const turn = scale(toRotationVector(multiply(last.rotation, transpose(this.beforeLast.rotation))), PERSISTENCE);
    const shift = scale(subtract(last.translation, this.beforeLast.translation), PERSISTENCE);
    return stepPose(last, [...turn, ...shift]);
  }

  /** Lost for long, the instrument may have come back where another known frame has it. */
  private elsewhere(frame: Frame, known: readonly KeyFrame[], found: Registration): Registration {
    const margin = 40 * this.unit;
    let best = found;
    for (const key of known) {
      const there = register(this.levelsFor(frame, key.pose, margin), [key], this.camera, key.pose, { looseness: 4 });
      if (scoreOf(there) > scoreOf(best)) best = there;
    }
    return best;
  }

  /** The instrument in the next frame. Quality 0 means lost: the pose is then only the last known one. */
  follow(frame: Frame): InstrumentSighting {
    if (!this.last) throw new Error('the tracker has not been started at a known pose');
    const byDistance = (a: KeyFrame, b: KeyFrame) => Math.abs(a.index - frame.index) - Math.abs(b.index - frame.index);
    const marked = [...this.keyFrames].sort(byDistance).slice(0, 2);
    const helper = [...this.helpers].sort(byDistance)[0];
    const predicted = this.predict();
    const margin = 40 * this.unit;
    const levels = this.levelsFor(frame, predicted, margin);
    const least = MIN_CORRELATION.wide + (MIN_CORRELATION.narrow - MIN_CORRELATION.wide) * this.narrowness;
    const good = (r: Registration) => r.correlation > least && r.believed > MIN_BELIEVED;
    const looseness = 1 + Math.min(4, this.lostFor);
    // A frame that needed help is mostly followed by one that does: it is then helped at once.
    const near = helper && this.needsHelp ? [...marked, helper] : marked;
    let best = register(levels, near, this.camera, predicted, { looseness });
    if (near === marked && scoreOf(best) < HELP_BELOW && helper) {
      const helped = register(levels, [...marked, helper], this.camera, predicted, { looseness });
      if (good(helped)) best = helped;
    } else if (!this.candidate && scoreOf(best) >= HELPER_FROM && [...this.keyFrames, ...this.helpers].every((k) => Math.abs(k.index - frame.index) >= HELPER_SPACING)) {
      this.candidate = { index: frame.index, levels, pose: best.pose };
    }
    this.needsHelp = scoreOf(best) < HELP_BELOW;
    // Two wider looks before giving the frame up, once it is lost the first of them now and then: more would make a lost clip crawl.
    const wider = (from: Pose) => {
      if (good(best)) return;
      const found = register(levels, marked, this.camera, from, { looseness: 4 });
      if (scoreOf(found) > scoreOf(best)) best = found;
    };
    if (!good(best) && (this.lostFor < LOOK_ELSEWHERE || this.lostFor % LOOK_ELSEWHERE === 1)) wider(nearestShift(levels, marked, this.camera, predicted, JERK * this.unit));
    wider(this.last);
    if (!good(best) && this.lostFor > 0 && this.lostFor % LOOK_ELSEWHERE === 0) best = this.elsewhere(frame, marked, best);
    if (good(best) && !(this.doubted && scoreOf(best) < REGAIN_SHARE * this.usual)) {
      this.usual += USUAL.rate * (Math.min(1, scoreOf(best)) - this.usual);
      this.doubted = false;
      this.beforeLast = this.lostFor > 0 ? undefined : this.last;
      this.last = best.pose;
      this.lostFor = 0;
      if (best.evidence) this.evidence.set(best.pose, best.evidence);
      return { index: frame.index, pose: best.pose, quality: this.qualityOf(best) };
    }
    this.lostFor++;
    this.doubted = true;
    return { index: frame.index, pose: this.last, quality: 0 };
  }
}

import { celloLean } from '../body/stance';
import type { BowOnString } from '../bow/bowState';
import type { BowFrame } from '../bow/chooseStrings';
import { type BowContext, imageResiduals, LENGTH_SIGMA } from '../bow/residuals';
import { type BowSighting, moveSideways } from '../bow/sighting';
import { smoothBow } from '../bow/smoothBow';
import type { Camera } from '../geometry/camera';
import type { Pose } from '../geometry/pose';
import { rotate } from '../geometry/rotation';
import { cross, DEGREES, dot, normalize, type Vec3 } from '../geometry/vec3';
import { sigmaByUp, type Zenith } from '../geometry/zenith';
import type { Dimensions } from '../instrument/dimensions';
import { type Family, heldAtShoulder, sideSign } from '../instrument/family';
import type { InstrumentModel } from '../instrument/landmarks';
import type { MarksSolution } from '../instrument/solveMarks';
import { levelMargin, stringLevels, stringLines } from '../instrument/strings';
import { normal, seededRandom } from '../random';
import { deviation } from '../statistics';
import type { FrameMeasures, Measured, Quantity } from './measures';
import { drawAlternatives, poseOfDraw, poseSpread } from './posePerturbation';

/** What was followed in one frame. */
export interface TrackedFrame {
  readonly index: number;
  readonly t: number;
  /** Absent where the instrument was lost. */
  readonly pose: Pose | undefined;
  /** 0 lost .. 1 sure. */
  readonly quality: number;
  /** How blurred the instrument is in the frame followed from (sigma, px at 960 across); absent where not known. */
  readonly blur?: number | undefined;
  readonly sighting: BowSighting;
}

export interface MeasuringInput {
  readonly family: Family;
  readonly dimensions: Dimensions;
  readonly solution: MarksSolution;
  readonly frames: readonly TrackedFrame[];
  /** Direction up in the camera frame with its standard uncertainty in degrees; absent when unknown. */
  readonly up?: Zenith | undefined;
  /** What the sound speaks against each string in each frame (chi squared); absent without sound. */
  readonly heard?: readonly (readonly number[] | undefined)[] | undefined;
  /** Two neighbouring strings heard at once, by frame. */
  readonly together?: BowFrame['together'][] | undefined;
}

/** Beyond these (1 sigma) a number is not worth showing: absent instead (ours: about the width of a band; of the contact half of it, as a share of the way from bridge to fingerboard). */
const LIMIT = { skew: 8, inclination: 12, contact: 0.15, position: 0.12, up: 4 } as const;
/**
 * Shares of what is allowed for that show as error (ours, 36 films of two renderers measured 49 times, dark and noisy ones and
 * some without marks: with these truth lies within 2 u in 96 to 99 % of a film's frames in the mean, with 1 in 98.6 to 100 %).
 * Of the drawn spread of marks, lens and shape: most instruments lie nearer the common dimensions than the priors do.
 */
const SHARED = { contact: 0.8, skew: 0.5, inclination: 0.5, position: 0.7, tilt: 0.6 } as const;
/** Of the batch's own uncertainty: levels are held less exactly there than players do, and poses allowed more. */
const OWN = { contact: 0.8, skew: 0.55, inclination: 0.5, position: 0.7 } as const;
/** A string is not named where another is nearly as likely (ours). */
const MOST_STRING_DOUBT = 0.3;
/** A frame without a seen bow is carried by its neighbours for this long (seconds, ours); beyond that it is absent. */
const BRIDGE_GAP = 0.12;
/**
 * A line more doubtful than this (px at 960 across) tells no skew of its own. Away from one that does, the skew has gone its way: within some
 * such seconds it may be anything that the player did in the film (ours: after a bow that draws an arc was lost, 8 to 35
 * degrees off at u 4 to 6; in a close-up along a bow drawn straight, 0.5 off).
 */
const TELLING = 60;
const CARRIED = 0.4;
/** Fewer frames do not show what a player does. */
const ENOUGH_TOLD = 10;
const DRAWS = 24;
/** Ends of the hair are recognised a little inward or outward of where they are (share of the hair; measured on synthetic clips). */
const POSITION_ZERO = 0.008;
/** Sideways zero of the hair in the template, pixels at 960 across: the mark's own error (ours). */
const LINE_ZERO = 0.6;
/**
 * Tracking noise of the pose as a shift of the whole instrument against the bow, px at 960 across, from the
 * tracker's quality: 0.2 where the frame fits well, 0.9 where it fits at 0.65 (ours, measured on fourteen clips of two renderers).
 * Edges that are blurred tell so much less.
 */
export const poseNoise = ({ quality, blur }: { readonly quality: number; readonly blur?: number | undefined }): number => (0.2 + 4 * Math.max(0, 0.82 - quality)) * softness(blur);

/** How much more than their noise poses may be off for a second or so (ours: with it truth lies within 2 u in 95 % and more of the frames of twenty-three clips, with 1 in dark and noisy ones in 85). */
const LASTING_NOISE = 2;
/** Films in focus are as blurred as this (sigma, px at 960 across; ours, from clips of two renderers). */
const IN_FOCUS = 0.8;
/** How many times less surely edges are placed than in a film in focus. */
const softness = (blur = 0): number => Math.max(1, blur / IN_FOCUS);

export function bowContextOf(input: Pick<MeasuringInput, 'family' | 'dimensions' | 'solution'>): BowContext {
  return bowContextFor(input.solution.camera, input.solution.model, input.family, input.dimensions);
}

/** The same from its parts, where nothing has been solved yet. */
export function bowContextFor(camera: Camera, model: InstrumentModel, family: Family, dimensions: Dimensions): BowContext {
  return { camera, strings: stringLines(model, family), levels: stringLevels(model, family), hair: dimensions.hair, side: sideSign(family), lengthSigma: LENGTH_SIGMA };
}

export interface MeasuredBow {
  readonly frames: FrameMeasures[];
  /** Where the bow lay, for what is tied to it; undefined where it was not seen. */
  readonly bows: (BowOnString | undefined)[];
}

/** From followed instrument and bow to numbers with uncertainty, frame by frame. Pure. */
export function measureFrames(input: MeasuringInput): MeasuredBow {
  const { solution, frames } = input;
  if (frames.length < 3) return { frames: frames.map((f) => ({ frame: f.index, t: f.t, values: {} })), bows: frames.map(() => undefined) };
  const context = bowContextOf(input);
  const { heard, together } = input;
  const n = frames.length;
  const unit = Math.max(context.camera.width, context.camera.height) / 960;
  const smoothed = smoothBow(
    context,
    frames.map((f, i) => ({
      ...f,
      heard: heard?.[i],
      together: together?.[i],
      poseSpread: f.pose && poseSpread(f.pose, context.camera, solution.model, LASTING_NOISE * poseNoise(f) * unit),
    })),
  );

  // Errors shared by all frames: marks, focal length, shape, sideways zero. Their effect by linear response.
  const systematic = new Float64Array(4 * n);
  const random = seededRandom(11);
  const nominal = new Float64Array(4 * n);
  const altered = new Float64Array(4 * n);
  frames.forEach((frame, i) => {
    if (frame.pose && frame.sighting.line) imageResiduals(smoothed.context, frame.pose, frame.sighting, smoothed.strings[i]!, smoothed.states[i]!, nominal, 4 * i);
  });
  for (const draw of drawAlternatives(solution, input.dimensions, DRAWS)) {
    const strings = stringLines(draw.model, input.family);
    const other: BowContext = { ...smoothed.context, camera: draw.camera, strings };
    const zeroFrog = normal(random);
    const zeroTip = normal(random);
    altered.fill(0);
    frames.forEach((frame, i) => {
      if (!frame.pose || !frame.sighting.line) return;
      const zero = frame.sighting.zero ?? { frog: LINE_ZERO * unit, tip: LINE_ZERO * unit };
      const pose = poseOfDraw(frame.pose, context.camera, solution.model, draw);
      const soft = softness(frame.blur);
      imageResiduals(other, pose, moveSideways(frame.sighting, zeroFrog * soft * zero.frog, zeroTip * soft * zero.tip), smoothed.strings[i]!, smoothed.states[i]!, altered, 4 * i);
    });
    for (let i = 0; i < 4 * n; i++) altered[i]! -= nominal[i]!;
    const change = smoothed.respond(altered);
    for (let i = 0; i < 4 * n; i++) systematic[i]! += (change[i]! * change[i]!) / DRAWS;
  }

  const sinceSeen = secondsFrom(frames, (f) => f.pose !== undefined && f.sighting.line !== undefined);
  const sinceTold = secondsFrom(frames, ({ pose, sighting: { line } }) => pose !== undefined && line !== undefined && Math.max(line.sigmaA, line.sigmaB) < TELLING * unit);
  const length = solution.model.stringLength;
  const end = solution.model.fingerboardEndX;
  // If another string was played, the bow lies otherwise: the likelier reading is told, so the whole way to the other counts.
  const ambiguity = (i: number, key: 'contact' | 'skew' | 'inclination' | 'position') => {
    const other = smoothed.others[i];
    return other ? other.probability * (other.state[key] - smoothed.states[i]![key]) ** 2 : 0;
  };
  const u = (i: number, k: number, key: 'contact' | 'skew' | 'inclination' | 'position') =>
    Math.sqrt(ambiguity(i, key) + (OWN[key] * smoothed.sigma[i]![key]) ** 2 + SHARED[key] ** 2 * systematic[4 * i + k]!);

  const seen = (i: number) => frames[i]!.pose !== undefined && sinceSeen[i]! <= BRIDGE_GAP;
  const skews = smoothed.states.flatMap(({ skew }, i) => (sinceTold[i] === 0 ? [skew] : []));
  const skewSpread = skews.length >= ENOUGH_TOLD ? deviation(skews) : 0;
  /** By how much the skew may have changed since a line told it, degrees. */
  const drift = (i: number) => Math.SQRT2 * skewSpread * (1 - Math.exp(-sinceTold[i]! / CARRIED));
  const bows = frames.map((_, i): BowOnString | undefined => (seen(i) ? { state: smoothed.states[i]!, string: smoothed.strings[i]! } : undefined));
  const measured = frames.map((frame, i): FrameMeasures => {
    const values: Partial<Record<Quantity, Measured>> = {};
    const set = (name: Quantity, value: number, sigma: number) => {
      if (Number.isFinite(value) && Number.isFinite(sigma)) values[name] = { value, u: sigma };
    };
    let string: string | undefined;
    if (seen(i)) {
      const s = smoothed.states[i]!;
      const index = smoothed.strings[i]!;
      const [uc, us, ui, up] = [u(i, 0, 'contact'), Math.hypot(u(i, 1, 'skew'), drift(i)), u(i, 2, 'inclination'), Math.hypot(u(i, 3, 'position'), POSITION_ZERO)];
      if (us < LIMIT.skew) set('skew_deg', s.skew, us);
      if (ui < LIMIT.inclination) {
        set('inclination_deg', s.inclination, ui);
        if ((smoothed.others[i]?.probability ?? 0) < MOST_STRING_DOUBT) {
          string = context.strings[index]!.name;
          set('level_margin_deg', levelMargin(context.levels, index, s.inclination), ui);
        }
      }
      if (uc < LIMIT.contact * end) {
        set('contact_mm', s.contact, uc);
        set('contact_fraction', s.contact / end, Math.hypot(uc, (s.contact / end) * 2) / end);
        set('contact_beta', s.contact / length, Math.hypot(uc, (s.contact / length) * 3) / length);
      }
      if (up < LIMIT.position) set('bow_position', Math.min(1, Math.max(0, s.position)), up);
      const speed = speedAt(frames, smoothed.states, i);
      if (speed !== undefined && up < LIMIT.position) {
        const span = speed.seconds;
        const noise = (smoothed.sigma[i]!.position * Math.SQRT2 * context.hair) / Math.max(span, 0.1);
        set('bow_speed_mm_s', speed.share * context.hair, Math.hypot(noise, Math.abs(speed.share) * context.hair * 0.02));
      }
    }
    const zenith = input.up;
    if (frame.pose && zenith && zenith.sigmaDeg < LIMIT.up) {
      const up = zenith.direction;
      const x = rotate(frame.pose.rotation, [1, 0, 0]);
      const y = rotate(frame.pose.rotation, [0, 1, 0]);
      const z = rotate(frame.pose.rotation, [0, 0, 1]);
      // The scroll is raised by turning about the level line across the strings, the instrument rolled by turning about its strings.
      const by = (axis: Vec3, value: (up: Vec3) => number) => [value(up), Math.hypot(sigmaByUp(zenith, value), SHARED.tilt * turnSigma(solution, axis))] as const;
      const across = cross(x, up);
      set('instrument_pitch_deg', ...by(across, (u) => Math.asin(Math.max(-1, Math.min(1, dot(x, u)))) * DEGREES));
      if (!heldAtShoulder(input.family)) set('cello_lean_deg', ...by(across, (u) => celloLean(x, u)));
      set('instrument_roll_deg', ...by(x, (u) => Math.atan2(dot(y, u), dot(z, u)) * DEGREES));
    }
    return { frame: frame.index, t: frame.t, ...(string ? { string } : {}), values };
  });
  return { frames: measured, bows };
}

/** Standard uncertainty of how far the instrument is turned about an axis (in the camera's frame, of any length) as solved in the marked frame, degrees. */
function turnSigma({ covariance, unknowns: n }: MarksSolution, axis: Vec3): number {
  const a = normalize(axis);
  let variance = 0;
  for (let i = 0; i < 3; i++) for (let k = 0; k < 3; k++) variance += a[i]! * covariance[i * n + k]! * a[k]!;
  return Math.sqrt(Math.max(0, variance)) * DEGREES;
}

function speedAt(frames: readonly TrackedFrame[], states: readonly { position: number }[], i: number): { share: number; seconds: number } | undefined {
  const a = Math.max(0, i - 1);
  const b = Math.min(frames.length - 1, i + 1);
  const seconds = frames[b]!.t - frames[a]!.t;
  return seconds > 0 ? { share: (states[b]!.position - states[a]!.position) / seconds, seconds } : undefined;
}

/** Seconds from each frame to the nearest one that shows what is asked for; infinite where none does. */
function secondsFrom(frames: readonly TrackedFrame[], shows: (f: TrackedFrame) => boolean): Float64Array {
  const age = new Float64Array(frames.length).fill(Number.POSITIVE_INFINITY);
  let last = Number.NEGATIVE_INFINITY;
  frames.forEach((f, i) => {
    if (shows(f)) last = f.t;
    age[i] = f.t - last;
  });
  last = Number.POSITIVE_INFINITY;
  for (let i = frames.length - 1; i >= 0; i--) {
    if (shows(frames[i]!)) last = frames[i]!.t;
    age[i] = Math.min(age[i]!, last - frames[i]!.t);
  }
  return age;
}

import { type BowOnString, hairLine } from '../bow/bowState';
import { rotate } from '../geometry/rotation';
import { toOuter } from '../geometry/pose';
import { mix, normalize, subtract, type Vec3 } from '../geometry/vec3';
import type { Zenith } from '../geometry/zenith';
import type { Dimensions } from '../instrument/dimensions';
import { type Family, sideSign } from '../instrument/family';
import type { MarksSolution } from '../instrument/solveMarks';
import { stringLines } from '../instrument/strings';
import type { TrackedFrame } from '../measures/measureFrames';
import type { Measured, Quantity } from '../measures/measures';
import { armBowGap, elbowAngle, elbowBehind, elbowHeight, elbowRise, upperArmElevation } from './arm';
import { type ArmEvidence, type ArmFit, type ArmFrame, fitArm, headingFrom } from './fitArm';
import type { BodySighting } from './sighting';
import { likelyStature } from './stature';

export interface ArmMeasuring {
  readonly family: Family;
  readonly dimensions: Dimensions;
  readonly solution: MarksSolution;
  readonly vertical?: Zenith | undefined;
  readonly tracked: readonly TrackedFrame[];
  readonly bows: readonly (BowOnString | undefined)[];
  readonly bodies: readonly BodySighting[];
}

export interface ArmMeasures {
  /** Values of each frame of the film; empty where the arm could not be measured. */
  readonly frames: readonly Partial<Record<Quantity, Measured>>[];
  /** The arm in the frames the networks looked at, camera axes, mm; undefined where it could not be fitted. */
  readonly fit: ArmFit | undefined;
}

/** Farther than this from a frame the networks looked at, nothing is said (seconds, ours). */
const REACH = 0.3;
/** Elbow misfit (share of the torso) up to which the fit's own uncertainty holds, and beyond which angle and place of the elbow are withheld. */
const FINE_MISFIT = 0.04;
const WORST_MISFIT = 0.1;
/** Agreement of network and bow on the wrist below which the arm is withheld. */
const LEAST_TRUST = 0.5;
/** What lens, marks and body proportions add to the angles that the fit does not know of, degrees (ours). */
const MODEL_DEG = 1.5;
/** Beyond these (1 sigma) a number is not worth showing. */
const LIMIT_DEG = 20;

/** Measures the bow arm and the instrument's heading from what the networks saw and from the bow. Pure. */
export function measureArm(input: ArmMeasuring): ArmMeasures {
  const { tracked, bodies, solution, vertical, family } = input;
  const nothing = { frames: tracked.map(() => ({})), fit: undefined };
  if (!vertical || sideSign(family) !== 1) return nothing;
  const strings = stringLines(solution.model, family);
  const place = new Map(tracked.map((f, i) => [f.index, i]));
  const inSpace = (i: number) => {
    const { pose } = tracked[i]!;
    const bow = input.bows[i];
    if (!pose || !bow) return undefined;
    const line = hairLine(bow.state, strings[bow.string]!, input.dimensions.hair, 1);
    const [frog, tip, contact] = [line.frog, line.tip, line.contact].map((p) => toOuter(pose, p)) as [Vec3, Vec3, Vec3];
    return { frog, contact, along: normalize(subtract(tip, frog)), normal: rotate(pose.rotation, [0, 0, 1]), position: bow.state.position };
  };
  const evidence = bodies.flatMap((body): ArmEvidence[] => {
    const i = place.get(body.frame);
    if (i === undefined) return [];
    const { pose } = tracked[i]!;
    return [{ body, bow: inSpace(i), instrument: pose && { endButton: toOuter(pose, solution.model.landmarks['instrument.endButton']), ahead: rotate(pose.rotation, [1, 0, 0]) } }];
  });
  const up = vertical.direction;
  const fit = fitArm({ camera: solution.camera, frames: evidence, stature: likelyStature(input.dimensions), up, upSigmaDeg: vertical.sigmaDeg });
  if (!fit || fit.trust < LEAST_TRUST) return { ...nothing, fit };

  const loose = Math.max(1, fit.misfit / FINE_MISFIT);
  const times = evidence.map((e) => e.body.t);
  const frames = tracked.map((frame, i) => {
    const values: Partial<Record<Quantity, Measured>> = {};
    const near = between(times, frame.t);
    if (!near) return values;
    const { a, b, share } = near;
    const [before, after] = [fit.frames[a]!, fit.frames[b]!];
    const arm: ArmFrame = {
      shoulder: mix(before.shoulder, after.shoulder, share),
      elbow: mix(before.elbow, after.elbow, share),
      wrist: mix(before.wrist, after.wrist, share),
      otherShoulder: mix(before.otherShoulder, after.otherShoulder, share),
    };
    const closest = share < 0.5 ? a : b;
    const set = (name: Quantity, value: (arm: ArmFrame) => number, model: number, limit: number) => {
      const u = Math.hypot(fit.sigmaOf(closest, value) * loose, model);
      const v = value(arm);
      if (Number.isFinite(v) && u < limit) values[name] = { value: v, u };
    };
    const slope = Math.hypot(MODEL_DEG, vertical.sigmaDeg);
    if (fit.misfit <= WORST_MISFIT) set('elbow_angle_deg', elbowAngle, MODEL_DEG, LIMIT_DEG);
    set('elbow_rise_deg', (x) => elbowRise(x, up), slope, LIMIT_DEG);
    set('upper_arm_elevation_deg', (x) => upperArmElevation(x, up), slope, LIMIT_DEG);
    const { pose } = frame;
    if (pose) {
      const ahead = rotate(pose.rotation, [1, 0, 0]);
      // Forward is square to the shoulders, on the chest's side: the way the instrument points.
      const forward = (x: ArmFrame) => torsoForward(x, up);
      set('instrument_heading_deg', (x) => headingFrom(forward(x), ahead, up), slope, LIMIT_DEG);
      if (fit.misfit <= WORST_MISFIT) set('elbow_behind', (x) => elbowBehind(x, x.otherShoulder, ahead, up), 0.03, 0.3);
    }
    const bow = inSpace(i);
    if (bow) {
      set('arm_bow_gap_deg', (x) => armBowGap(x, bow.along, up), slope, LIMIT_DEG);
      set('elbow_height', (x) => elbowHeight(x, bow.contact, up), 0.03, 0.3);
    }
    return values;
  });
  return { frames, fit };
}

function torsoForward({ shoulder, otherShoulder }: ArmFrame, up: Vec3): Vec3 {
  const d = subtract(otherShoulder, shoulder);
  return normalize([d[1] * up[2] - d[2] * up[1], d[2] * up[0] - d[0] * up[2], d[0] * up[1] - d[1] * up[0]]);
}

/** The looked-at frames to either side of a time, and the share of the way from the first to the second. */
function between(times: readonly number[], t: number): { a: number; b: number; share: number } | undefined {
  const after = times.findIndex((x) => x >= t);
  const b = after < 0 ? times.length - 1 : after;
  const a = after < 0 ? b : Math.max(0, b - 1);
  if (b < 0 || Math.min(Math.abs(times[a]! - t), Math.abs(times[b]! - t)) > REACH) return undefined;
  const span = times[b]! - times[a]!;
  return { a, b, share: span > 0 ? Math.min(1, Math.max(0, (t - times[a]!) / span)) : 0 };
}

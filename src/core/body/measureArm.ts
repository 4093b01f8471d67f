import { type BowInSpace, bowInSpace } from '../bow/bowInSpace';
import type { BowOnString } from '../bow/bowState';
import { toOuter } from '../geometry/pose';
import { rotate } from '../geometry/rotation';
import { mix, type Vec3 } from '../geometry/vec3';
import { meanSigmaDeg, sigmaByUp, type Zenith } from '../geometry/zenith';
import type { Dimensions } from '../instrument/dimensions';
import { type Family, sideSign } from '../instrument/family';
import type { MarksSolution } from '../instrument/solveMarks';
import { bowContextOf, type TrackedFrame } from '../measures/measureFrames';
import type { Measured, Quantity } from '../measures/measures';
import { armBowGap, elbowAngle, elbowBehind, elbowHeight, elbowRise, upperArmElevation } from './arm';
import { type ArmEvidence, type ArmFit, type ArmFrame, fitArm, type MarkedJoints } from './fitArm';
import { between } from './lookedAt';
import type { BodySighting } from './sighting';
import { likelyStature } from './stature';
import { headingFrom, torsoAxes } from './torso';

export interface ArmMeasuring {
  readonly family: Family;
  readonly dimensions: Dimensions;
  readonly solution: MarksSolution;
  /** Known or supposed. */
  readonly vertical: Zenith;
  readonly tracked: readonly TrackedFrame[];
  readonly bows: readonly (BowOnString | undefined)[];
  readonly bodies: readonly BodySighting[];
  /** Joints the teacher placed, by the frame's place in the film. */
  readonly marked?: MarkedJoints | undefined;
}

/** The bow arm in one of the frames the networks looked at, camera axes, mm. */
export interface ArmPlace extends ArmFrame {
  /** Place of the frame in the film. */
  readonly frame: number;
  readonly t: number;
  /** Height of the upper arm as the network saw the elbow in this picture alone, degrees (as upper_arm_elevation_deg); absent where it was not seen. */
  readonly seenLevel?: number;
  /** How far elbow and wrist may be off as seen from above (1 sigma, mm). */
  readonly sigma: { readonly elbow: number; readonly wrist: number };
}

export interface ArmMeasures {
  /** Values of each frame of the film; empty where the arm could not be measured. */
  readonly frames: readonly Partial<Record<Quantity, Measured>>[];
  readonly arms: readonly ArmPlace[];
  /** What the networks gave for the arm, and whether it holds; undefined where the player was not seen. */
  readonly fit: ArmFit | undefined;
}

/** Elbow misfit (share of the torso) up to which the fit's own uncertainty holds, and beyond which angle and place of the elbow are withheld. */
const FINE_MISFIT = 0.04;
const WORST_MISFIT = 0.1;
/** Agreement of network and bow on the wrist below which the arm is withheld. */
const LEAST_TRUST = 0.5;
/** What lens, marks and body proportions add to the angles that the fit does not know of, degrees (ours). */
const MODEL_DEG = 1.5;
const MODEL_RATIO = 0.12;
/**
 * Shares of the fit's own uncertainty that show as error (ours, 45 films of two renderers: with these truth lies within 2 u in
 * 95 to 98 % of a film's frames in the mean). All frames of a film err alike, the heading above all: it keeps a little more.
 */
const SHARE = { angle: 0.85, rise: 0.45, elevation: 0.55, gap: 0.55, heading: 0.7 } as const;
/** An arm is looked at and told at most so long after, and before, a frame in which the bow was on its string (seconds, ours). */
const BOW_NEAR = 0.3;
/** Beyond these (1 sigma) a number is not worth showing. */
const LIMIT_DEG = 20;
const LIMIT_RATIO = 0.3;

/** Measures the bow arm and the instrument's heading from what the networks saw and from the bow. Pure. */
export function measureArm(input: ArmMeasuring): ArmMeasures {
  const { tracked, bodies, solution, vertical, family } = input;
  const nothing = { frames: tracked.map(() => ({})), arms: [], fit: undefined };
  if (sideSign(family) !== 1) return nothing;
  const place = new Map(tracked.map((f, i) => [f.index, i]));
  const context = bowContextOf(input);
  const inSpace = (i: number): BowInSpace | undefined => {
    const { pose } = tracked[i]!;
    const bow = input.bows[i];
    return pose && bow && bowInSpace(context, pose, bow);
  };
  const plays = playing(
    tracked.map((f) => f.t),
    (i) => inSpace(i) !== undefined,
  );
  const evidence = bodies.flatMap((body): ArmEvidence[] => {
    const i = place.get(body.frame);
    if (i === undefined) return [];
    // An arm that only carries the bow about, or lifts it to the string, is tied to nothing, and not what is asked for.
    if (!input.marked?.has(body.frame) && !plays[i]) return [];
    const { pose } = tracked[i]!;
    return [{ body, bow: inSpace(i), instrument: pose && { endButton: toOuter(pose, solution.model.landmarks['instrument.endButton']), ahead: rotate(pose.rotation, [1, 0, 0]) } }];
  });
  const up = vertical.direction;
  const fit = fitArm({
    camera: solution.camera,
    frames: evidence,
    stature: likelyStature(input.dimensions),
    up,
    upSigmaDeg: meanSigmaDeg(vertical),
    ...(input.marked ? { marked: input.marked } : {}),
  });
  if (!fit || fit.trust < LEAST_TRUST) return { ...nothing, fit };

  const loose = Math.max(1, fit.misfit / FINE_MISFIT);
  const times = evidence.map((e) => e.body.t);
  const placed = fit.misfit <= WORST_MISFIT;

  /** What can be told of the arm in a frame of the film: name, how it is made of the joints, its doubt, the largest doubt shown. */
  const tellable = (i: number): Partial<Record<Quantity, Tellable>> => {
    const { pose } = tracked[i]!;
    const bow = inSpace(i);
    const ahead = pose && rotate(pose.rotation, [1, 0, 0]);
    const angle = (share: number, value: Tellable['value']): Tellable => ({ value, share, model: MODEL_DEG, limit: LIMIT_DEG });
    const ratio = (value: Tellable['value']): Tellable => ({ value, share: 1, model: MODEL_RATIO, limit: LIMIT_RATIO });
    return {
      ...(placed ? { elbow_angle_deg: angle(SHARE.angle, elbowAngle) } : {}),
      elbow_rise_deg: angle(SHARE.rise, elbowRise),
      upper_arm_elevation_deg: angle(SHARE.elevation, upperArmElevation),
      ...(ahead ? { instrument_heading_deg: angle(SHARE.heading, (x, up) => headingFrom(torsoAxes(x.shoulder, x.otherShoulder, up).forward, ahead, up)) } : {}),
      ...(ahead && placed ? { elbow_behind: ratio((x, up) => elbowBehind(x, x.otherShoulder, ahead, up)) } : {}),
      ...(bow ? { arm_bow_gap_deg: angle(SHARE.gap, (x, up) => armBowGap(x, bow.axes[0], up)), elbow_height: ratio((x, up) => elbowHeight(x, bow.contact, up)) } : {}),
    };
  };
  // Uncertainties are worked out in the frames the networks looked at; those between take the nearest one's.
  const sigmas = evidence.map((e, k) => {
    const told = tellable(place.get(e.body.frame)!);
    const sigma = ({ value, share, model }: Tellable) =>
      Math.hypot(
        share * fit.sigmaOf(k, (arm) => value(arm, up)) * loose,
        model,
        sigmaByUp(vertical, (tilted) => value(fit.frames[k]!, tilted)),
      );
    return Object.fromEntries(Object.entries(told).map(([name, t]) => [name, sigma(t)])) as Partial<Record<Quantity, number>>;
  });
  const frames = tracked.map((frame, i) => {
    const values: Partial<Record<Quantity, Measured>> = {};
    const near = between(times, frame.t);
    if (!near || !(plays[i] || [near.a, near.b].some((k) => input.marked?.has(evidence[k]!.body.frame)))) return values;
    const arm = armBetween(fit.frames[near.a]!, fit.frames[near.b]!, near.share);
    const sigma = sigmas[near.share < 0.5 ? near.a : near.b]!;
    for (const [name, { value, limit }] of Object.entries(tellable(i)) as [Quantity, Tellable][]) {
      const u = sigma[name];
      const v = value(arm, up);
      if (u !== undefined && u < limit && Number.isFinite(v)) values[name] = { value: v, u };
    }
    return values;
  });
  const arms = evidence.map(({ body }, k): ArmPlace => {
    const joint = (which: 'elbow' | 'wrist') => Math.hypot(...[0, 1, 2].map((axis) => fit.sigmaOf(k, (x) => x[which][axis]!))) * loose;
    const elbow = fit.seenElbow(k);
    const seenLevel = elbow && upperArmElevation({ ...fit.frames[k]!, elbow }, up);
    return {
      frame: body.frame,
      t: body.t,
      ...fit.frames[k]!,
      ...(seenLevel === undefined ? {} : { seenLevel }),
      sigma: { elbow: joint('elbow') / Math.SQRT2, wrist: joint('wrist') / Math.SQRT2 },
    };
  });
  return { frames, arms, fit };
}

/** Whether in each frame the bow was on its string, or was so shortly before and is shortly after. */
function playing(times: readonly number[], on: (frame: number) => boolean): boolean[] {
  const within = (order: readonly number[]): boolean[] => {
    const out: boolean[] = [];
    let last: number | undefined;
    for (const i of order) {
      if (on(i)) last = times[i];
      out[i] = last !== undefined && Math.abs(times[i]! - last) <= BOW_NEAR;
    }
    return out;
  };
  const order = times.map((_, i) => i);
  const after = within(order);
  const before = within(order.toReversed());
  return after.map((a, i) => a && before[i]!);
}

interface Tellable {
  readonly value: (arm: ArmFrame, up: Vec3) => number;
  /** Share of the fit's own uncertainty that shows as error. */
  readonly share: number;
  readonly model: number;
  readonly limit: number;
}

/** The arm between two frames, joints moved straight. */
export const armBetween = (a: ArmFrame, b: ArmFrame, share: number): ArmFrame => ({
  shoulder: mix(a.shoulder, b.shoulder, share),
  elbow: mix(a.elbow, b.elbow, share),
  wrist: mix(a.wrist, b.wrist, share),
  otherShoulder: mix(a.otherShoulder, b.otherShoulder, share),
});

import { toOuter } from '../../src/core/geometry/pose';
import { add, addScaled, cross, distance, dot, normalize, RADIANS, scale, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import type { InstrumentBuild } from '../instrument/build';
import type { Moment } from '../motion/performance';

/** Where the player's joints are at a moment, room frame, mm. */
export interface Joints {
  readonly shoulderRight: Vec3;
  readonly elbowRight: Vec3;
  readonly wristRight: Vec3;
  readonly shoulderLeft: Vec3;
  readonly elbowLeft: Vec3;
  readonly wristLeft: Vec3;
  readonly hipRight: Vec3;
  readonly hipLeft: Vec3;
  readonly kneeRight: Vec3;
  readonly kneeLeft: Vec3;
  readonly ankleRight: Vec3;
  readonly ankleLeft: Vec3;
  readonly head: Vec3;
  /** Unit vectors of the head: where the face looks, and its crown. */
  readonly face: Vec3;
  readonly crown: Vec3;
  /** Axes at the frog: along the hair, toward the player's hand, away from the strings. */
  readonly bowAxes: { readonly along: Vec3; readonly back: Vec3; readonly off: Vec3 };
}

/** Segment lengths as shares of stature (from memory, anthropometric tables). */
const UPPER_ARM = 0.18;
const FOREARM = 0.148;
const SHOULDERS = 0.094;

/** Middle joint of a two-bone chain, bent toward a preferred side. */
function middleJoint(a: Vec3, c: Vec3, first: number, second: number, toward: Vec3): Vec3 {
  const line = subtract(c, a);
  const d = Math.min(Math.hypot(...line), (first + second) * 0.995);
  const u = normalize(line);
  const along = (first * first - second * second + d * d) / (2 * d);
  const off = Math.sqrt(Math.max(1, first * first - along * along));
  const side = normalize(addScaled(toward, u, -dot(toward, u)));
  return add(addScaled(a, u, along), scale(side, off));
}

export function jointsAt(moment: Moment, build: InstrumentBuild, stature: number): Joints {
  const H = stature;
  const k = H / 1700;
  const turn = moment.torsoTurn * RADIANS;
  const left: Vec3 = [Math.cos(turn), Math.sin(turn), 0];
  const chest = add([0, 0, 0.81 * H], moment.bodyShift);
  const shoulderRight = addScaled(chest, left, -SHOULDERS * H);
  const shoulderLeft = add(addScaled(chest, left, SHOULDERS * H), [0, -8 * k, 12 * k]);

  const along = normalize(subtract(moment.tip, moment.frog));
  const plate = normalize(subtract(toOuter(moment.instrument, [0, 0, 1]), moment.instrument.translation));
  const off = normalize(addScaled(plate, along, -dot(plate, along)));
  const back = cross(off, along);
  const inBow = (x: number, y: number, z: number): Vec3 => add(addScaled(addScaled(moment.frog, along, x * k), back, y * k), scale(off, z * k));
  const wristRight = inBow(-5 + 40 * (moment.bow.position - 0.45), 100, 44);
  // The lower the string, the higher the elbow.
  const lift = moment.bow.inclination / 24;
  const elbowRight = middleJoint(shoulderRight, wristRight, UPPER_ARM * H, FOREARM * H, normalize([-0.75, 0.1, -0.75 + 0.35 * lift]));

  const nut = build.model.stringLength;
  const wristLeft = toOuter(moment.instrument, [nut - 38 * k, -46 * k, -62 * k]);
  const elbowLeft = middleJoint(shoulderLeft, wristLeft, UPPER_ARM * H, FOREARM * H, [0.05, -0.25, -1]);

  const rest = toOuter(moment.instrument, [-118 * build.model.frame.scale, 38 * build.model.frame.scale, -14 * build.model.frame.scale]);
  const headScale = headScaleOf(stature);
  const crown = normalize(add([0.16, -0.16, 1], [0, 0, 0]));
  const face = normalize([0.42, -1, -0.22]);
  const head = add(rest, [-14 * headScale, 62 * headScale, 104 * headScale]);
  const pelvis = add([0, 0, 0.52 * H], scale(moment.bodyShift, 0.4));
  const leg = (sign: number) => {
    const hip = addScaled(pelvis, left, sign * 0.052 * H);
    const ankle: Vec3 = [sign * 0.085 * H, 10 * k, 0.045 * H];
    const knee: Vec3 = [(hip[0] + ankle[0]) / 2, -14 * k, 0.28 * H];
    return { hip, knee, ankle };
  };
  const r = leg(-1);
  const l = leg(1);
  return {
    shoulderRight,
    elbowRight,
    wristRight,
    shoulderLeft,
    elbowLeft,
    wristLeft,
    hipRight: r.hip,
    hipLeft: l.hip,
    kneeRight: r.knee,
    kneeLeft: l.knee,
    ankleRight: r.ankle,
    ankleLeft: l.ankle,
    head,
    face: normalize(addScaled(face, crown, -dot(face, crown))),
    crown,
    bowAxes: { along, back, off },
  };
}

/** Heads grow less than bodies (from memory, growth tables). */
export const headScaleOf = (stature: number): number => (stature / 1700) ** 0.45;

/** Angle at the elbow, degrees, 180 straight. */
export function elbowAngle(j: Joints): number {
  const a = normalize(subtract(j.shoulderRight, j.elbowRight));
  const b = normalize(subtract(j.wristRight, j.elbowRight));
  return Math.acos(Math.max(-1, Math.min(1, dot(a, b)))) / RADIANS;
}

export const elbowRise = (j: Joints): number => Math.asin((j.elbowRight[2] - j.wristRight[2]) / distance(j.elbowRight, j.wristRight)) / RADIANS;
export const upperArmElevation = (j: Joints): number => Math.asin((j.elbowRight[2] - j.shoulderRight[2]) / distance(j.elbowRight, j.shoulderRight)) / RADIANS;

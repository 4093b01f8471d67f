import type { BackPoint } from '../../src/core/body/lumbarArch';
import type { Stance } from '../../src/core/body/stance';
import { torsoAxes } from '../../src/core/body/torso';
import { toOuter } from '../../src/core/geometry/pose';
import { add, addScaled, cross, dot, mix, normalize, RADIANS, scale, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import type { InstrumentBuild } from '../instrument/build';
import { courseAt } from '../motion/course';
import type { Moment } from '../motion/performance';
import { AT_SHOULDER, type BowHand, bowHand, FROM_ABOVE } from './bowHold';
import { type FretHand, fretHand } from './fretHand';
import { growthAt } from './growth';
import { hangingHand } from './hangingHand';
import { HEAD_HEIGHT } from './head';
import { chestShift, type Posture } from './posture';

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
  /** The small of the back, inside the trunk. */
  readonly waist: Vec3;
  readonly kneeRight: Vec3;
  readonly kneeLeft: Vec3;
  readonly ankleRight: Vec3;
  readonly ankleLeft: Vec3;
  readonly toeRight: Vec3;
  readonly toeLeft: Vec3;
  readonly head: Vec3;
  /** Unit vectors of the head: where the face looks, and its crown. */
  readonly face: Vec3;
  readonly crown: Vec3;
  readonly nose: Vec3;
  readonly earLeft: Vec3;
  readonly earRight: Vec3;
  /** What the eyes look at, and how far the lids are shut (0..1). */
  readonly gaze: Vec3;
  readonly blink: number;
  /** Axes at the frog: along the hair, toward the player's hand, away from the strings. */
  readonly bowAxes: { readonly along: Vec3; readonly back: Vec3; readonly off: Vec3 };
  /** Middle of the seat for a seated player. */
  readonly seat: Vec3 | undefined;
  readonly handRight: BowHand;
  readonly handLeft: FretHand;
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

/** Steps of the search about the line from shoulder to wrist for the elbow's height. */
const SWIVELS = 60;

/**
 * The bow arm's elbow, turned about the line from shoulder to wrist until the upper arm rises by `elevation`
 * (radians over the horizontal), on the outer side; as near to it as the chain allows.
 */
function bowElbow(shoulder: Vec3, wrist: Vec3, first: number, second: number, outward: Vec3, elevation: number): Vec3 {
  const at = (angle: number): Vec3 => middleJoint(shoulder, wrist, first, second, add(scale(outward, Math.cos(angle)), [0, 0, Math.sin(angle)]));
  const cost = (angle: number): number => {
    const e = at(angle);
    const rise = Math.asin(Math.max(-1, Math.min(1, (e[2] - shoulder[2]) / first)));
    // Arms hang rather than stick out: of two places as good the lower, easier one.
    return (rise - elevation) ** 2 + 0.01 * (angle + 0.6) ** 2;
  };
  let best = 0;
  let least = Number.POSITIVE_INFINITY;
  for (let i = 0; i <= SWIVELS; i++) {
    const angle = -1.5 + (2.6 * i) / SWIVELS;
    const c = cost(angle);
    if (c < least) {
      least = c;
      best = angle;
    }
  }
  let step = 2.6 / SWIVELS;
  for (let i = 0; i < 12; i++) {
    step /= 2;
    if (cost(best + step) < least) best += step;
    else if (cost(best - step) < least) best -= step;
    least = cost(best);
  }
  return at(best);
}

/** The upper arm lifts toward the frog by so many degrees (ours; teachers want a little). */
const LIFT_AT_FROG = 14;

/** Slope of the bow between the middle strings of a violin held at the usual roll, degrees. */
const MIDDLE_LEVEL = -22;

/** How much lower a seated player's trunk is, share of stature: thighs level over shins upright. */
const SEATED_DROP = 0.222;
/** Usual slope of a cellist's upper arm on the lowest string, degrees; it rises toward the highest (ours). */
const CELLO_ELBOW = -48;

/** Slope of the upper arm that only holds a hanging bow, degrees (ours). */
const HANGING_ARM = -74;
/** A left hand nearer to the neck than this (share of the way to its side) has it. */
const LETS_GO = 0.02;

/** How far a shoulder goes toward a hand that is out of reach, mm of a grown player. */
const SHOULDER_REACH = 55;

/** The back's outline behind the spine: how far up from hips to shoulders, and how deep, shares of stature (the trunk's cross-sections in body.ts). */
const BACK = { upper: { along: 0.81, depth: 0.07 }, small: { depth: 0.06 }, seat: { depth: 0.074 } } as const;

/** Tip of the nose and opening of the right ear, in the frame of the head. */
const NOSE: Vec3 = [0, 101, -18];
const EAR: Vec3 = [73, -8, 2];

/** Where the left side of the jaw rests, in the frame of the head. */
const JAW: Vec3 = [-20, 46, -90];

export function jointsAt(moment: Moment, build: InstrumentBuild, stature: number, posture: Posture): Joints {
  const H = stature;
  const k = H / 1700;
  const turn = moment.torsoTurn * RADIANS;
  const left: Vec3 = [Math.cos(turn), Math.sin(turn), 0];
  const ahead: Vec3 = [Math.sin(turn), -Math.cos(turn), 0];
  const leaning = chestShift(posture, H, turn);
  const seated = build.endpin > 0;
  const down = seated ? SEATED_DROP * H - posture.seatHeight * k : 0;
  const chest = add(add([0, seated ? -0.02 * H : 0, 0.81 * H - down + 3 * k * moment.breath], moment.bodyShift), leaning);
  const lift = posture.shoulderLift * k;
  const firmRight = add(addScaled(chest, left, -SHOULDERS * H), [0, 0, lift]);
  const shoulderLeft = add(addScaled(chest, left, SHOULDERS * H), [0, -8 * k, 12 * k + lift]);

  const along = normalize(subtract(moment.tip, moment.frog));
  const off = moment.bowOff;
  const back = cross(off, along);
  const handRight = bowHand({ frog: moment.frog, along, back, off }, moment.bow.position, H, posture.hold, moment.stickLean, build.bowScale, seated ? FROM_ABOVE : AT_SHOULDER);
  const wristRight = handRight.palm.wrist;
  const [upper, fore] = [UPPER_ARM * H, FOREARM * H];
  const missing = Math.hypot(...subtract(wristRight, firmRight)) - (upper + fore) * 0.99;
  const shoulderRight = addScaled(firmRight, normalize(subtract(wristRight, firmRight)), Math.min(SHOULDER_REACH * k, Math.max(0, missing)));
  // The upper arm runs along with the bow; what is off it is the posture's doing.
  const level = Math.asin(Math.max(-1, Math.min(1, (moment.armFrog[2] - moment.armTip[2]) / Math.hypot(...subtract(moment.armFrog, moment.armTip)))));
  const lifted = LIFT_AT_FROG * (1 - Math.min(1, Math.max(0, moment.bow.position))) ** 2;
  const held = posture.levelShare * level + (1 - posture.levelShare) * MIDDLE_LEVEL * RADIANS;
  const { onString, leftAway, lifted: instrumentUp } = moment.ready;
  const playing = Math.min(0.4, held + (lifted + posture.elbowLevel + courseAt(posture.elbowCourse, moment.bow.position)) * RADIANS);
  const elevation = onString * playing + (1 - onString) * HANGING_ARM * RADIANS;
  const outward = normalize(addScaled(scale(left, -1), ahead, -0.9 * posture.elbowBack));
  const elbowRight = bowElbow(shoulderRight, wristRight, upper, fore, outward, seated ? (CELLO_ELBOW + 5 * moment.string + posture.elbowLevel) * RADIANS : elevation);

  const atNeck = fretHand(moment, build, H, moment.pressed, posture.fret);
  const hanging = add(addScaled(addScaled(shoulderLeft, left, 30 * k), ahead, 40 * k), [0, 0, -0.97 * (upper + fore)]);
  const away = Math.max(posture.leftHandAway, leftAway);
  const handLeft = away > LETS_GO ? hangingHand(mix(atNeck.palm.wrist, hanging, away), ahead, left, H) : atNeck;
  const wristLeft = handLeft.palm.wrist;
  const elbowLeft = middleJoint(
    shoulderLeft,
    wristLeft,
    upper,
    fore,
    seated ? [1, -0.2, -0.35] : away > LETS_GO ? [0.3, 1, 0] : [0.05 - 1.1 * posture.leftElbowIn, -0.25 + 0.35 * posture.leftElbowIn, -1],
  );

  const size = growthAt(H).headHeight / HEAD_HEIGHT;
  const s = build.model.frame.scale;
  const rest = toOuter(moment.instrument, [-122 * s, 34 * s, 8 * s]);
  const tilt = posture.headTilt * RADIANS;
  const crown = normalize([(seated ? -0.12 : 0.14) + Math.sin(tilt), -0.1, 1]);
  const yaw = ((seated ? 4 : 24) + posture.headTurn + 5 * (moment.bow.position - 0.5)) * RADIANS + turn;
  const facing: Vec3 = [Math.sin(yaw), -Math.cos(yaw), -0.16];
  const face = normalize(addScaled(facing, crown, -dot(facing, crown)));
  const right = cross(face, crown);
  const neckTop = add(mix(shoulderLeft, firmRight, 0.5), [-26 * k, -34 * k, 0.045 * H]);
  const upright = addScaled(neckTop, crown, 92 * size);
  const onRest = addScaled(addScaled(addScaled(rest, right, -JAW[0] * size), face, -JAW[1] * size), crown, -JAW[2] * size);
  const head = seated ? upright : mix(upright, onRest, instrumentUp);
  const onHead = (p: Vec3): Vec3 => addScaled(addScaled(addScaled(head, right, p[0] * size), face, p[1] * size), crown, p[2] * size);
  const pelvis = add([0, 0, 0.52 * H - down], add(scale(moment.bodyShift, 0.4), scale(leaning, posture.slouch === 0 ? 0.1 : -0.25)));
  const leg = (sign: number) => {
    const hip = addScaled(pelvis, left, sign * 0.052 * H);
    if (seated) {
      // The feet stay on the floor: a low seat lifts the knees over the hips, a high one lets them fall.
      const fall = -0.012 * H - posture.seatHeight * k;
      const knee = add(hip, [sign * 0.085 * H, -Math.sqrt((0.228 * H) ** 2 - fall ** 2), fall]);
      const ankle: Vec3 = [knee[0] + sign * (0.012 - posture.feetIn) * H, knee[1] + 0.012 * H, 0.045 * H];
      return { hip, knee, ankle, toe: add(ankle, [sign * 38 * k, -112 * k, -0.03 * H]) };
    }
    const ankle: Vec3 = [sign * 0.5 * posture.stance * H, (sign > 0 ? -10 : 14) * k, 0.045 * H];
    const knee: Vec3 = [(hip[0] + ankle[0]) / 2 + sign * 4 * k, -16 * k, 0.28 * H];
    const out = (sign > 0 ? 24 : 14) * RADIANS;
    const toe: Vec3 = add(ankle, [sign * Math.sin(out) * 118 * k, -Math.cos(out) * 118 * k, -0.03 * H]);
    return { hip, knee, ankle, toe };
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
    waist: addScaled(mix(pelvis, mix(shoulderLeft, firmRight, 0.5), 0.26), ahead, posture.hollow * k),
    kneeRight: r.knee,
    kneeLeft: l.knee,
    ankleRight: r.ankle,
    ankleLeft: l.ankle,
    toeRight: r.toe,
    toeLeft: l.toe,
    head,
    face,
    crown,
    nose: onHead(NOSE),
    earLeft: onHead([-EAR[0], EAR[1], EAR[2]]),
    earRight: onHead(EAR),
    gaze: moment.contact,
    blink: moment.blink,
    bowAxes: { along, back, off },
    seat: seated ? [pelvis[0], pelvis[1] - 0.015 * H, pelvis[2] - 0.05 * H] : undefined,
    handRight,
    handLeft,
  };
}

/** The bow arm as the definitions want it. */
export const bowArm = (j: Joints) => ({ shoulder: j.shoulderRight, elbow: j.elbowRight, wrist: j.wristRight });

/** Stance and seat as the definitions want them. */
export const stanceOf = (j: Joints): Stance => ({
  'shoulder.right': j.shoulderRight,
  'shoulder.left': j.shoulderLeft,
  'hip.right': j.hipRight,
  'hip.left': j.hipLeft,
  'knee.right': j.kneeRight,
  'knee.left': j.kneeLeft,
  'ankle.right': j.ankleRight,
  'ankle.left': j.ankleLeft,
  'elbow.left': j.elbowLeft,
  'wrist.left': j.wristLeft,
  'ear.right': j.earRight,
  'ear.left': j.earLeft,
  nose: j.nose,
});

/** The back's outline as the definition of its arch wants it. */
export function backOf(j: Joints, stature: number): Readonly<Record<BackPoint, Vec3>> {
  const { forward } = torsoAxes(j.shoulderRight, j.shoulderLeft, [0, 0, 1]);
  const pelvis = mix(j.hipLeft, j.hipRight, 0.5);
  const behind = (p: Vec3, depth: number) => addScaled(p, forward, -depth * stature);
  return {
    upper: behind(mix(pelvis, mix(j.shoulderLeft, j.shoulderRight, 0.5), BACK.upper.along), BACK.upper.depth),
    small: behind(j.waist, BACK.small.depth),
    seat: behind(pelvis, BACK.seat.depth),
  };
}

import { FINGERS, type Finger, type HandPoints } from '../../src/core/body/hand';
import { add, addScaled, cross, dot, normalize, RADIANS, scale, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import { fingerJoints, handScale, type Palm, reach, thumbJoints } from './hand';

/** Axes at the frog end of the hair: along the hair, toward the player's hand, away from the strings. */
export interface BowAxes {
  readonly frog: Vec3;
  readonly along: Vec3;
  readonly back: Vec3;
  readonly off: Vec3;
}

/** What the bow hand does; the defaults are a good hold. */
export interface HoldSpec {
  /** Bend of the thumb's end joint, degrees: about 35 good, 0 straight, negative bent back. */
  readonly thumbBend: number;
  /** Middle joint of the little finger, degrees at the frog: about 75 round, near 5 straight, negative caved in. */
  readonly littleBend: number;
  /** Height of the little fingertip over the stick, mm. */
  readonly littleLift: number;
  /** How far the fingers reach over the stick beyond the good hold, mm; negative perches on the tips. */
  readonly depth: number;
  /** Multiplies the fingers' distances along the stick. */
  readonly spacing: number;
  /** The index finger stretched out along the stick by so many mm. */
  readonly indexStretch: number;
  /** Wrist raised (+, bent palmward) or sunk (-), mm against the good hold. */
  readonly wristRise: number;
  /** The palm so many mm nearer the stick: the hole between thumb and fingers closes. */
  readonly closed: number;
  /** 0 the hand gives along the bow as it should .. 1 it stays the same. */
  readonly rigid: number;
  /** What else may be otherwise in a hand that nobody taught; nothing without. */
  readonly habit?: HoldHabit;
}

/** How one hand differs from the next beyond what a teacher would name. mm of a grown hand, degrees. */
export interface HoldHabit {
  /** The wrist's place off the usual, bow axes. */
  readonly wrist: Vec3;
  /** Where the palm looks: along the stick, and over it. */
  readonly aim: readonly [along: number, over: number];
  /** The palm turned in toward the index finger by so much more. */
  readonly tilt: number;
  /** Each fingertip's place off the usual: along the stick, out on the far side, over it. */
  readonly tips: Readonly<Record<Finger | 'thumb', Vec3>>;
  /** The little finger's middle joint bent by so much wherever its tip comes to lie, and its end joint's share in that; it reaches for the stick without. */
  readonly little?: { readonly bend: number; readonly dipShare: number };
}

export const GOOD_HOLD: HoldSpec = { thumbBend: 36, littleBend: 72, littleLift: 0, depth: 0, spacing: 1, indexStretch: 0, wristRise: 0, closed: 0, rigid: 0 };

const NO_HABIT: HoldHabit = {
  wrist: [0, 0, 0],
  aim: [0, 0],
  tilt: 0,
  tips: { thumb: [0, 0, 0], index: [0, 0, 0], middle: [0, 0, 0], ring: [0, 0, 0], little: [0, 0, 0] },
};

export interface BowHand {
  readonly palm: Palm;
  readonly joints: HandPoints;
}

/** Places along the stick from the frog end of the hair, mm of a grown hand. */
const PLACES: Record<Finger, number> = { index: 36, middle: 12, ring: -9, little: -30 };
const THUMB_PLACE = 9;
/** Where the hand comes from: the wrist in the bow's axes in mid-bow, how far it goes on along the bow from frog to tip, and how high over the stick the palm looks; mm of a grown hand. */
export interface Approach {
  readonly along: number;
  readonly back: number;
  readonly off: number;
  readonly travel: number;
  readonly over: number;
}
/** Violin and viola: as the measuring side knows it from real holds. */
export const AT_SHOULDER: Approach = { along: -5, back: 104, off: 43, travel: 40, over: 52 };
/** Cello: the arm comes from over the stick (ours). */
export const FROM_ABOVE: Approach = { along: -5, back: 112, off: 14, travel: 30, over: 34 };
/** Height of the stick's axis over the hair at the frog, mm of a full bow; as the bow is drawn. */
const STICK_HEIGHT = 21;

/** A place on the stick's axis, `x` mm from over the frog end of the hair toward the tip. `lean` and `bowScale` as in {@link bowHand}. */
export const stickAxis = (bow: BowAxes, lean: number, bowScale: number, x: number): Vec3 =>
  addScaled(addScaled(addScaled(bow.frog, bow.along, x), bow.off, STICK_HEIGHT * bowScale * Math.cos(lean)), bow.back, -STICK_HEIGHT * bowScale * Math.sin(lean));

/** Bow position at which the wrist is in the middle of its travel. */
const HOME = 0.45;

/**
 * The bow hand on its bow at a bow position: palm led from the wrist to the stick, fingers laid over it, thumb
 * against the middle finger from beneath. `lean` (radians) is how far the stick leans from over the hair
 * away from the hand; `bowScale` the bow's size against a full one; `from` whence the arm comes.
 */
export function bowHand(bow: BowAxes, position: number, stature: number, hold: HoldSpec, lean: number, bowScale: number, from: Approach): BowHand {
  const s = handScale(stature);
  const k = stature / 1700;
  const give = 1 - hold.rigid;
  const p = give * (position - HOME);
  const habit = hold.habit ?? NO_HABIT;
  const inBow = (x: number, y: number, z: number): Vec3 => add(addScaled(addScaled(bow.frog, bow.along, x), bow.back, y), scale(bow.off, z));
  /** A place about the stick's axis: along it, out on the far side, and over it. */
  const onStick = (x: number, far: number, over: number): Vec3 => addScaled(addScaled(stickAxis(bow, lean, bowScale, x), bow.back, -far), bow.off, over);
  const wrist = inBow(
    (from.along + from.travel * p + habit.wrist[0]) * k,
    (from.back - hold.closed + habit.wrist[1]) * k,
    (from.off + 14 * p + habit.wrist[2]) * k + hold.wristRise,
  );
  // The palm looks over the stick between middle and ring finger, and turns with the bow to spare the wrist.
  const aim = onStick((10 - 40 * p + habit.aim[0]) * k, 2 - hold.depth * 0.6, (from.over + habit.aim[1]) * s - hold.depth * 0.5 - hold.closed);
  const along = normalize(subtract(aim, wrist));
  // Turned in toward the index finger; more at the tip.
  const tilt = (16 + 12 * p + habit.tilt) * RADIANS;
  const side = normalize(addScaled(bow.along, along, -dot(bow.along, along)));
  const up = normalize(cross(side, along));
  const outward = dot(up, bow.off) >= 0 ? up : scale(up, -1);
  const radial = normalize(addScaled(scale(side, Math.cos(tilt)), outward, -Math.sin(tilt)));
  const dorsal = cross(along, radial);
  const palm: Palm = { wrist, along, radial, dorsal: dot(dorsal, bow.off) >= 0 ? dorsal : scale(dorsal, -1) };

  const fingers = FINGERS.map((name, i) => {
    const [further, out, over] = habit.tips[name];
    const x = ((name === 'index' ? PLACES.index + hold.indexStretch : PLACES[name]) * hold.spacing + further) * k;
    if (name === 'little') {
      const target = onStick(x, 1 + out * s, 4.4 * bowScale + (6 + over) * s + hold.littleLift);
      const straight = hold.littleBend < 20 ? { bend: hold.littleBend, dipShare: hold.littleBend < 0 ? -1.2 : 0.3 } : undefined;
      const { bend, dipShare } = habit.little ?? straight ?? {};
      return fingerJoints(palm, i, reach(palm, i, target, s, bend === undefined ? {} : { pip: [bend - 1, bend + 1], dipShare }), s);
    }
    const deep = { index: -8, middle: -19, ring: -17 }[name] - hold.depth;
    const target = onStick(x, ((name === 'index' ? 10 : 11.5) + out) * s, (deep + over) * s);
    return fingerJoints(palm, i, reach(palm, i, target, s), s);
  });
  const [further, out, over] = habit.tips.thumb;
  const thumbTip = onStick((THUMB_PLACE + further) * k, (out - 6) * s, (over - 9.5) * s);
  // Bent, the thumb bulges along the stick toward the tip and down; bent back, its middle joint caves in.
  const bulge = add(add(scale(bow.off, -1), scale(bow.along, 0.75)), scale(bow.back, 0.15));
  const thumb = thumbJoints(palm, thumbTip, bulge, hold.thumbBend, s);
  return { palm, joints: [wrist, ...thumb, ...fingers.flat()] };
}

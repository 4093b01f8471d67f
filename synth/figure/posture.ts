import { RADIANS, type Vec3 } from '../../src/core/geometry/vec3';
import type { Course } from '../motion/course';
import { GOOD_HOLD, type HoldSpec } from './bowHold';
import { type FretSpec, GOOD_FRET } from './fretSpec';

/** How the player stands and holds, apart from what the bow does; the defaults are a good posture. Degrees and mm of a grown player. */
export interface Posture {
  readonly hold: HoldSpec;
  readonly fret: FretSpec;
  /** The elbow of the bow arm over (+) or under the level of the bow. */
  readonly elbowLevel: number;
  /** The same as it changes along the bow. */
  readonly elbowCourse: Course;
  /** Share of the way from level to level that the arm goes; the wrist does the rest. */
  readonly levelShare: number;
  /** Seconds by which the arm's level comes after the bow's; negative before it. */
  readonly elbowLag: number;
  /** 0 .. 1: the elbow drawn behind the line of the back. */
  readonly elbowBack: number;
  readonly shoulderLift: number;
  /** Trunk leaning to the left (+), and stooping forward. */
  readonly lean: number;
  readonly slouch: number;
  /** The small of the back pushed forward, mm. */
  readonly hollow: number;
  /** Head tilted onto the rest (+), and turned to the scroll beyond the usual. */
  readonly headTilt: number;
  readonly headTurn: number;
  /** 0 the left elbow hangs clear .. 1 it leans on the ribs. */
  readonly leftElbowIn: number;
  /** 0 the left hand is at the neck .. 1 it hangs at the side: the instrument is held without it. */
  readonly leftHandAway: number;
  /** Distance between the ankles over stature. */
  readonly stance: number;
  /** A seat too high (+) or too low for a player who sits, mm of a grown player. */
  readonly seatHeight: number;
  /** How far the feet of a player who sits are drawn together, share of the stature each. */
  readonly feetIn: number;
}

export const GOOD_POSTURE: Posture = {
  hold: GOOD_HOLD,
  fret: GOOD_FRET,
  elbowLevel: 0,
  elbowCourse: [0, 0, 0, 0],
  levelShare: 1,
  elbowLag: 0,
  elbowBack: 0,
  shoulderLift: 0,
  lean: 0,
  slouch: 0,
  hollow: 0,
  headTilt: 0,
  headTurn: 0,
  leftElbowIn: 0,
  leftHandAway: 0,
  stance: 0.15,
  seatHeight: 0,
  feetIn: 0,
};

/** Height of the chest over the hips about which a trunk leans, share of the stature. */
const TRUNK = 0.3;

/** How far a leaning or stooping trunk takes the chest, and what rests on it, from over the hips: mm, the room's axes. `turn` is the torso's, radians. */
export function chestShift({ lean, slouch }: Posture, stature: number, turn: number): Vec3 {
  const aside = Math.sin(lean * RADIANS) * TRUNK * stature;
  const ahead = Math.sin(slouch * RADIANS) * TRUNK * stature;
  return [Math.cos(turn) * aside + Math.sin(turn) * ahead, Math.sin(turn) * aside - Math.cos(turn) * ahead, 0];
}

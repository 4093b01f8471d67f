import type { Family } from '../../src/core/instrument/family';
import type { Posture } from '../figure/posture';
import type { Course } from '../motion/course';
import type { ReadySpec } from '../motion/ready';

/** A fault to be played, by its id in the catalogue; strength 1 is plain to see, 0 is none. */
export interface PlayedFault {
  readonly id: string;
  readonly strength: number;
}

export interface StrokeSpec {
  /** Index of the string from the lowest. */
  readonly string: number;
  readonly direction: 'down' | 'up';
  readonly seconds: number;
  /** Part of the bow, 0 frog .. 1 tip; the lower number first whatever the direction. */
  readonly part: readonly [number, number];
  /** Rest after the stroke, seconds. */
  readonly rest: number;
  /** Finger of the left hand that stops the string, 1 index .. 4 little; open without. */
  readonly finger?: number;
  /** 0 .. 1: the bow is spent too early, and the note's end squeezed out of what is left. */
  readonly squeezed?: number;
  /** 0 .. 1: the bow nearly stands in the middle of its way. */
  readonly stalls?: number;
  /** 0 .. 1: the bow is pressed into the string before it moves, and the note begins with a crunch. */
  readonly pressedStart?: number;
}

export type View = 'front-above' | 'scroll-side' | 'bow-side' | 'whole-body' | 'profile' | 'hand-front' | 'hand-low' | 'left-hand';

/** Everything that decides a clip. Angles in degrees, lengths in mm, times in seconds. */
export interface Scenario {
  readonly name: string;
  readonly seed: number;
  readonly family: Family;
  readonly size: string;
  /** An instrument and bow as unlike others of their size as they come, in shape and looks. */
  readonly unlike?: boolean;
  readonly strokes: readonly StrokeSpec[];
  /** The way from rest to the string before the first stroke; the player is ready from the start without. For instruments held at the shoulder. */
  readonly ready?: ReadySpec;
  /** Skew along the bow, + tip to the scroll. */
  readonly skew: Course;
  /** Contact as a share of the strip from bridge to fingerboard end. */
  readonly contact: Course;
  /** Every other stroke starts so far (share of the strip) from where the last one ended. */
  readonly contactJump: number;
  /** Every third stroke strays so far (share of the strip) to the fingerboard, and the next one is late to come back. */
  readonly contactStray: number;
  /** How far the level is off the string's own, a course along the bow. */
  readonly levelOffset: Course;
  /** Unsteadiness: multiplies all wander of the bow. */
  readonly wander: number;
  /** Sway of the player: multiplies movement of body and instrument. */
  readonly sway: number;
  /** The instrument's heading follows the bow by so many degrees to either side. */
  readonly instrumentSwing: number;
  readonly heading: number;
  readonly pitch: number;
  readonly roll: number;
  readonly view: View;
  readonly width: number;
  readonly height: number;
  readonly framesPerSecond: number;
  readonly fieldOfView: number;
  /** Multiplies hand-held shake; 0 is a tripod. */
  readonly shake: number;
  /** Grey levels of sensor noise, 1 sigma. */
  readonly noise: number;
  /** How far the lens is out of focus or smeared (sigma, px at 960 across); left out when it is in focus. */
  readonly defocus?: number;
  /** Light in the room, 1 ordinary. */
  readonly light: number;
  /** 0 .. 1: a bright wall behind a player in shade. */
  readonly backLight: number;
  /** How much the exposure wanders, share of itself. */
  readonly exposureDrift: number;
  /** Seconds a phone takes to read a picture from its top row to its last; 0 for all rows at once (phones: 0.01 to 0.03, from memory). */
  readonly rollingShutter: number;
  /** Someone walks through the room behind the player. */
  readonly walker: boolean;
  /** Bits a second of the encoded film. */
  readonly bitrate: number;
  /** How much later the sound comes than the picture, seconds: phones are off by up to 0.15 (from memory). */
  readonly soundLate: number;
  /** Tuning, cents from A = 440. */
  readonly tuneCents: number;
  /** 0 a dry room .. 1 an echoing one. */
  readonly echo: number;
  /** A left-handed player: the picture is mirrored, and with it every place in it. */
  readonly leftHanded: boolean;
  /** Whether the frog end of the hair is marked; false where the teacher could not see it under the hand. */
  readonly frogMarked: boolean;
  readonly posture: Posture;
  /** Faults played into it, for the record; their effects are in the other fields. */
  readonly faults: readonly PlayedFault[];
  /** mm; by the size of the instrument when not given. */
  readonly stature?: number;
}

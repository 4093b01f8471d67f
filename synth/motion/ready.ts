import type { HoldKind } from '../../src/core/body/holds';
import { add, addScaled, cross, dot, mix, normalize, scale, type Vec3 } from '../../src/core/geometry/vec3';
import { AT_SHOULDER } from '../figure/bowHold';
import { minimumJerk } from './course';

/** The ready sequence before the first stroke: instrument under the bow arm, raised to the shoulder, held there, and the bow brought to the string; seconds each. */
export interface ReadySpec {
  readonly rest: number;
  readonly raise: number;
  readonly hold: number;
  readonly place: number;
  /** Whether the left hand lets go while the instrument is held at the shoulder. */
  readonly handsFree: boolean;
}

/** How far the player has come at a moment; all of it where no sequence is played. */
export interface Readiness {
  /** 0 the instrument is under the arm .. 1 at the shoulder. */
  readonly lifted: number;
  /** 0 the bow hangs from the hand .. 1 it is on the string. */
  readonly onString: number;
  /** 0 the left hand is at the neck .. 1 it hangs. */
  readonly leftAway: number;
}

const PLAYING: Readiness = { lifted: 1, onString: 1, leftAway: 0 };
/** The left hand takes the neck, or leaves it, within so many seconds (ours). */
const REACH = 0.5;

/** Seconds before the first stroke. */
export const readyLength = (spec: ReadySpec | undefined): number => (spec ? spec.rest + spec.raise + spec.hold + spec.place : 0);

/** How far the player has come at a time, seconds from the start of the clip. */
export function readinessAt(spec: ReadySpec | undefined, t: number): Readiness {
  if (!spec || t >= readyLength(spec)) return PLAYING;
  const raised = spec.rest + spec.raise;
  const held = raised + spec.hold;
  const gone = (from: number) => minimumJerk((t - from) / REACH);
  const letGo = spec.handsFree ? gone(raised) - gone(held - REACH) : 0;
  return { lifted: minimumJerk((t - spec.rest) / spec.raise), onString: minimumJerk((t - held) / spec.place), leftAway: 1 - gone(spec.rest - REACH) + letGo };
}

/** The holds of a sequence as they are meant, to the end of the clip; ways from one to the next are none. */
export function readyHolds(spec: ReadySpec, end: number): { readonly kind: HoldKind; readonly from: number; readonly to: number }[] {
  const raised = spec.rest + spec.raise;
  const held = raised + spec.hold;
  const rest = { kind: 'rest', from: 0, to: spec.rest } as const;
  if (!spec.handsFree) return [rest, { kind: 'playing', from: raised, to: end }];
  return [rest, { kind: 'hands-free', from: raised + REACH / 2, to: held - REACH / 2 }, { kind: 'playing', from: held - REACH / 2, to: end }];
}

/** The instrument's angles at rest, degrees: scroll ahead, its top outward. */
export const AT_REST = { heading: 14, pitch: 8, roll: 88 } as const;

/** The place of the tailpiece's end on its way from under the arm (0) to `shoulder` (1), forward past the arm first: room frame, mm, x to the player's left, y behind. */
export function raised(lifted: number, shoulder: Vec3, stature: number): Vec3 {
  const under: Vec3 = [-0.128 * stature, 0.03 * stature, 0.705 * stature];
  return addScaled(mix(under, shoulder, lifted), [-0.3, -1, 0], 0.13 * stature * Math.sin(Math.PI * lifted));
}

/** The bow's axes at its frog, as the hand takes them. */
export interface HeldBow {
  readonly frog: Vec3;
  readonly along: Vec3;
  readonly off: Vec3;
}

/** The bow as it hangs from the hand, tip down, before the thigh. `lifted` as in {@link Readiness}. */
export function hangingBow(lifted: number, stature: number): HeldBow {
  const k = stature / 1700;
  // With the instrument under the arm the forearm lies below it.
  const wrist = mix([-0.118 * stature, -0.13 * stature, 0.622 * stature], [-0.15 * stature, -0.09 * stature, 0.53 * stature], lifted);
  const along = normalize([0.12, -0.42, -0.9]);
  const toLeft: Vec3 = [1, 0, 0];
  const off = normalize(addScaled(toLeft, along, -dot(toLeft, along)));
  const back = cross(off, along);
  return { frog: add(wrist, scale(add(add(scale(along, AT_SHOULDER.along), scale(back, AT_SHOULDER.back)), scale(off, AT_SHOULDER.off)), -k)), along, off };
}

/** The bow on its way from hanging (0) to the string (1): hand over the instrument, tip forward and then to the left. */
export function bowOnItsWay(onString: number, hanging: HeldBow, playing: HeldBow, stature: number): HeldBow {
  const way = (a: Vec3, over: Vec3, b: Vec3) => mix(mix(a, over, onString), mix(over, b, onString), onString);
  const along = normalize(way(hanging.along, [0.3, -1.4, 0.5], playing.along));
  const off = way(hanging.off, [0.6, 0.3, 0.9], playing.off);
  const over = add(playing.frog, [-0.06 * stature, -0.06 * stature, 0.12 * stature]);
  return { frog: way(hanging.frog, over, playing.frog), along, off: normalize(addScaled(off, along, -dot(off, along))) };
}

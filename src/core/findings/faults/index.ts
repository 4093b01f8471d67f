import { elbowBehind, elbowTooHigh, elbowTooLow, elbowWristApart } from './bowArm';
import { littleCollapsed, littleStraight, thumbBentBack, thumbStraight } from './bowHold';
import { tipToPlayer, tipToScroll } from './bowPath';
import { atBridge, contactDrifts, onFingerboard } from './contact';
import { crossingEarly, crossingLate, levelsNotDistinct, neighbourTouched } from './crossings';
import type { Fault } from './fault';
import { instrumentInFront, instrumentMoves, instrumentTooFarLeft, instrumentTooFlat, instrumentTooSteep, scrollDroops, scrollTooHigh } from './instrument';

/** The catalogue in the order of the work: instrument, hold of the bow, then its path and the arm, contact, levels and crossings. */
export const FAULTS: readonly Fault[] = [
  scrollDroops,
  scrollTooHigh,
  instrumentInFront,
  instrumentTooFarLeft,
  instrumentTooFlat,
  instrumentTooSteep,
  instrumentMoves,
  thumbStraight,
  thumbBentBack,
  littleStraight,
  littleCollapsed,
  tipToScroll,
  tipToPlayer,
  elbowBehind,
  elbowTooLow,
  elbowTooHigh,
  elbowWristApart,
  onFingerboard,
  atBridge,
  contactDrifts,
  levelsNotDistinct,
  crossingLate,
  crossingEarly,
  neighbourTouched,
];
export const faultById = (id: string): Fault | undefined => FAULTS.find((f) => f.id === id);

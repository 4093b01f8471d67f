import { elbowBehind, elbowTooHigh, elbowTooLow, elbowWristApart } from './bowArm';
import { littleCollapsed, littleStraight, thumbBentBack, thumbStraight } from './bowHold';
import { bowArcs, crookedAtFrog, strokeFromShoulder, tipToPlayer, tipToScroll } from './bowPath';
import { atBridge, contactDrifts, contactJumps, onFingerboard } from './contact';
import { crossingEarly, crossingLate, levelsNotDistinct, neighbourTouched } from './crossings';
import type { Fault } from './fault';
import { instrumentInFront, instrumentMoves, instrumentTooFarLeft, instrumentTooFlat, instrumentTooSteep, scrollDroops, scrollTooHigh } from './instrument';
import { smallPartOfBow, unevenShares } from './strokes';

/** The catalogue in the order of the work: instrument, hold of the bow, then its path and the arm, contact, levels and crossings, strokes. */
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
  crookedAtFrog,
  bowArcs,
  strokeFromShoulder,
  elbowBehind,
  elbowTooLow,
  elbowTooHigh,
  elbowWristApart,
  onFingerboard,
  atBridge,
  contactDrifts,
  contactJumps,
  levelsNotDistinct,
  crossingLate,
  crossingEarly,
  neighbourTouched,
  unevenShares,
  smallPartOfBow,
];
export const faultById = (id: string): Fault | undefined => FAULTS.find((f) => f.id === id);

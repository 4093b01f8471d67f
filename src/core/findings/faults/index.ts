import { armNotParallel, elbowBehind, elbowTooHigh, elbowTooLow, elbowWristApart, rightAngleMissed } from './bowArm';
import {
  fingersBunched,
  fingersPerched,
  fingersSpread,
  fingersTooDeep,
  handClosed,
  handRigid,
  indexStretched,
  littleCollapsed,
  littleOffStick,
  littleStraight,
  thumbBentBack,
  thumbStraight,
  wristBent,
} from './bowHold';
import { bowArcs, crookedAtFrog, strokeFromShoulder, tipToPlayer, tipToScroll } from './bowPath';
import { atBridge, contactDrifts, contactJumps, onFingerboard } from './contact';
import { crossingEarly, crossingLate, levelLost, levelsNotDistinct, neighbourTouched } from './crossings';
import type { Fault } from './fault';
import { instrumentInFront, instrumentMoves, instrumentTooFarLeft, instrumentTooFlat, instrumentTooSteep, scrollDroops, scrollTooHigh } from './instrument';
import { airy, extraNoiseAtStart, glassy, scratchy, twoStrings } from './sound';
import {
  backHollow,
  celloFeetNotSet,
  celloLeaningOff,
  celloSeatHeight,
  feetNotSet,
  headClamped,
  headOverTurned,
  leaning,
  leftElbowOnRibs,
  leftWristCollapsed,
  shoulderRaised,
} from './stance';
import { runsOutOfBow, slowRecovery, smallPartOfBow, speedCollapses, stopsBetweenStrokes, unevenShares } from './strokes';

/** The catalogue in the order of the work: stance and instrument, hold of the bow, then its path and the arm, contact, levels and crossings, strokes, sound. */
export const FAULTS: readonly Fault[] = [
  feetNotSet,
  celloSeatHeight,
  celloFeetNotSet,
  celloLeaningOff,
  leaning,
  backHollow,
  shoulderRaised,
  headClamped,
  headOverTurned,
  leftElbowOnRibs,
  leftWristCollapsed,
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
  littleOffStick,
  fingersPerched,
  fingersTooDeep,
  fingersBunched,
  fingersSpread,
  indexStretched,
  handClosed,
  handRigid,
  wristBent,
  tipToScroll,
  tipToPlayer,
  crookedAtFrog,
  bowArcs,
  strokeFromShoulder,
  elbowBehind,
  elbowTooLow,
  elbowTooHigh,
  armNotParallel,
  elbowWristApart,
  rightAngleMissed,
  onFingerboard,
  atBridge,
  contactDrifts,
  contactJumps,
  levelsNotDistinct,
  levelLost,
  crossingLate,
  crossingEarly,
  neighbourTouched,
  unevenShares,
  smallPartOfBow,
  runsOutOfBow,
  speedCollapses,
  stopsBetweenStrokes,
  slowRecovery,
  extraNoiseAtStart,
  airy,
  glassy,
  scratchy,
  twoStrings,
];
/** The catalogue with every quantity in which a fault can show: the first of a fault's rows goes before the other. */
export const ROWS: readonly Fault[] = FAULTS.flatMap((fault) => (fault.kind === 'posture' && fault.or ? [fault, { ...fault, ...fault.or }] : [fault]));

/** The row by which a fault was found. */
export const rowOf = ({ fault, quantity }: { readonly fault: string; readonly quantity: string }): Fault | undefined => ROWS.find((f) => f.id === fault && f.quantity === quantity);

export const faultById = (id: string): Fault | undefined => FAULTS.find((f) => f.id === id);

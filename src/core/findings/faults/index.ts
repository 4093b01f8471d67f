import { tipToPlayer, tipToScroll } from './bowPath';
import { atBridge, contactDrifts, onFingerboard } from './contact';
import type { Fault } from './fault';

/** The catalogue in the order of the work: path of the bow before contact. */
export const FAULTS: readonly Fault[] = [tipToScroll, tipToPlayer, onFingerboard, atBridge, contactDrifts];
export const faultById = (id: string): Fault | undefined => FAULTS.find((f) => f.id === id);

import type { FrameMeasures } from '../measures/measures';
import { median } from '../statistics';
import { type RoomMotion, splitSkewChange } from '../strokes/armOrInstrument';
import type { Stroke } from '../strokes/stroke';
import type { Excess } from './excess';
import type { CauseId, Evidence } from './finding';

/** A cause is named only if it explains this share of the departure (ours) */
const MIN_SHARE = 0.6;
/** and exceeds this many standard uncertainties (ours). */
export const MIN_U = 2;

export interface Cause {
  readonly cause?: CauseId;
  readonly evidence: readonly Evidence[];
}

/**
 * Arm or instrument? Splits the change of skew between the squarest part of a stroke and the excess into what
 * the bow turned in the room and what the instrument turned, each with the other held, both orders averaged.
 * Degrees; + makes the tip go to the scroll.
 */
export function armOrInstrument(frames: readonly FrameMeasures[], strokes: readonly Stroke[], excesses: readonly Excess[], motion: RoomMotion): Cause {
  const bowParts: number[] = [];
  const instrumentParts: number[] = [];
  const doubts: number[] = [];
  for (const excess of excesses) {
    const stroke = strokes[excess.stroke]!;
    let reference: number | undefined;
    let peak: number | undefined;
    for (let i = stroke.first; i <= stroke.last; i++) {
      const skew = frames[i]!.values.skew_deg;
      if (!skew || !frames[i]!.values.inclination_deg || !motion.poses[i]) continue;
      if (reference === undefined || Math.abs(skew.value) < Math.abs(frames[reference]!.values.skew_deg!.value)) reference = i;
      if (peak === undefined || Math.abs(skew.value) > Math.abs(frames[peak]!.values.skew_deg!.value)) peak = i;
    }
    if (reference === undefined || peak === undefined || reference === peak) continue;
    const split = splitSkewChange(frames, motion, reference, peak);
    if (!split) continue;
    bowParts.push(split.bow);
    instrumentParts.push(split.instrument);
    // The change within a stroke is surer than the angle itself: what lasts drops out (ours: half).
    doubts.push(frames[peak]!.values.skew_deg!.u / 2);
  }
  if (bowParts.length === 0) return { evidence: [] };
  const bow = median(bowParts);
  const instrument = median(instrumentParts);
  const u = Math.max(0.5, median(doubts));
  const total = bow + instrument;
  const evidence: Evidence[] = [
    { quantity: 'bow_rotation_deg', value: bow, u, says: `the bow turned ${degrees(bow)} in the room` },
    { quantity: 'instrument_rotation_deg', value: instrument, u: u / 2, says: `the instrument turned ${degrees(instrument)}` },
  ];
  const explains = (part: number) => Math.abs(part) > MIN_U * u && part / total >= MIN_SHARE;
  if (explains(bow)) return { cause: 'arm-swung', evidence };
  if (explains(instrument)) return { cause: 'instrument-turned', evidence };
  return { evidence };
}

/** Where the upper half of a well-led bow is made by less than this share of the elbow's opening, the upper arm swung (edge of section 6 of the measurement reference). */
const LEAST_FOREARM = 0.6;

/**
 * Shoulder or elbow? Adds what the elbow's opening made of the hand's way in the strokes that show a fault; a swing of
 * the arm that came from the shoulder is named so only beyond twice the doubt.
 */
export function withForearm(cause: Cause, strokes: readonly Stroke[]): Cause {
  const shares = strokes.flatMap((s) => s.forearmShare ?? []);
  if (shares.length === 0 || cause.evidence.length === 0) return cause;
  const value = median(shares.map((s) => s.value));
  const u = median(shares.map((s) => s.u));
  const evidence = [...cause.evidence, { quantity: 'forearm_share', value, u, says: `the elbow's opening made ${Math.round(100 * value)} % of the hand's way` }];
  return cause.cause === 'arm-swung' && value + MIN_U * u < LEAST_FOREARM ? { cause: 'shoulder-opened', evidence } : { ...cause, evidence };
}

const degrees = (value: number) => `${Math.abs(value).toFixed(0)}°`;

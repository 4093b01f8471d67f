import { PitchDetector } from 'pitchy';
import type { Family } from '../instrument/family';
import { mean } from '../statistics';
import { OPEN_STRING_HZ } from './openStrings';

/** Between two looks at the pitch, seconds (ours). */
const STEP = 0.04;
/** Clarity of a pitch that is used for tuning, 0..1 (ours). */
const CLEAR = 0.93;
/** Fewer pitches than this say nothing of the tuning (ours). */
const LEAST = 5;
/** Instruments are found up to a whole tone flat, and A up to 450 Hz (cents from A = 440). */
const FLATTEST = -245;
const SHARPEST = 45;
/** How readily beginners play each semitone over an open string: open, then first finger, high and low second, third (common practice, no source; the numbers are ours). */
const STOP_WORTH = [1, 0.1, 0.6, 0.4, 0.6, 0.6, 0, 0.6];
/** Each semitone away from A = 440 must be worth so much of the time on likely notes (ours). */
const SEMITONE_PRICE = 0.15;

/** A clear pitch at a moment. */
export interface ClearPitch {
  readonly t: number;
  readonly hz: number;
}

/** Pitches of single clear notes through a sound (McLeod's method, from the pitchy package). `samples` mono. */
export function clearPitches(samples: Float32Array, rate: number, family: Family): ClearPitch[] {
  const lowest = OPEN_STRING_HZ[family][0]! * 2 ** (FLATTEST / 1200);
  const size = 2 ** Math.ceil(Math.log2((4 * rate) / lowest));
  const detector = PitchDetector.forFloat32Array(size);
  const out: ClearPitch[] = [];
  for (let t = 0; t * rate + size < samples.length; t += STEP) {
    const first = Math.round(t * rate);
    const [hz, clarity] = detector.findPitch(samples.subarray(first, first + size), rate);
    if (clarity >= CLEAR && hz > lowest * 0.97 && hz < 3000) out.push({ t: t + size / 2 / rate, hz });
  }
  return out;
}

/** How the instrument is tuned: cents from A = 440 with standard uncertainty; undefined where too little was clear. */
export function tuningOf(pitches: readonly ClearPitch[], family: Family): { cents: number; u: number } | undefined {
  if (pitches.length < LEAST) return undefined;
  const open = OPEN_STRING_HZ[family].map((hz) => 1200 * Math.log2(hz / 440));
  const heard = pitches.map((p) => 1200 * Math.log2(p.hz / 440));
  // Against the nearest semitone above an open string, round a circle of 100 cents.
  const angles = heard.map((c) => (2 * Math.PI * (c - nearestBase(c, open))) / 100);
  const x = mean(angles.map(Math.cos));
  const y = mean(angles.map(Math.sin));
  const phase = (100 * Math.atan2(y, x)) / (2 * Math.PI);
  const spread = (100 / (2 * Math.PI)) * Math.sqrt(-2 * Math.log(Math.max(1e-3, Math.hypot(x, y))));
  const worth = (cents: number) => {
    const stops = heard.map((c) => Math.round((c - cents - nearestBase(c - cents, open)) / 100));
    return mean(stops.map((stop) => STOP_WORTH[stop] ?? (stop < 0 ? -2 : 0))) - SEMITONE_PRICE * Math.abs(Math.round(cents / 100));
  };
  const choices = [-2, -1, 0].map((k) => phase + 100 * k).filter((c) => c >= FLATTEST && c <= SHARPEST);
  if (choices.length === 0) return undefined;
  const cents = choices.reduce((a, b) => (worth(b) > worth(a) ? b : a));
  return { cents, u: Math.max(2, spread / Math.sqrt(Math.max(1, pitches.length / 10))) };
}

/** The open string at or next below a pitch: stopped notes are counted up from it. */
function nearestBase(cents: number, open: readonly number[]): number {
  return open.reduce((best, o) => (o <= cents + 50 ? o : best), open[0]!);
}

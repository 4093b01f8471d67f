import type { Family } from '../instrument/family';
import { type floorOf, type Harmonics, harmonicsOf } from './harmonics';
import { type PlayablePitch, playablePitches } from './openStrings';
import { HOP, type Spectra } from './spectra';

/** A harmonic this far over the quiet between speaks fully for a pitch (dB, ours). */
const CLEAR = 30;
/** A harmonic must be so much of clear to speak for its pitch rather than against it (ours). */
const ABSENT = 0.4;
/**
 * Neighbouring harmonics of a bowed string differ by less than this (dB, ours): those of half a pitch's frequency stand
 * in every other place only as what leaks from their neighbours.
 */
const BESIDE = 18;
/** What silence is worth against a pitch (ours). */
const SILENT = 1.3;
/** What a change of pitch must be worth, in spectra of a clear note (ours). */
const CHANGE = 5;
/** Sound this far below the clip's loud parts is silence (amplitude, ours: 46 dB). */
const QUIETEST = 0.005;

/** The pitch under way in every spectrum: index into {@link playablePitches}, -1 where none sounds; and how clear it is. */
export interface PitchPath {
  readonly pitches: readonly PlayablePitch[];
  readonly at: Int16Array;
  /** How far the pitch is ahead of the next best and of silence, about 0 doubtful .. 4 clear. */
  readonly lead: Float32Array;
}

/** How well a pitch explains a spectrum: harmonics that are there speak for it, those that are missing against it. */
export function worthOf({ over, amplitude }: Harmonics): number {
  let sum = 0;
  for (let i = 0; i < over.length; i++) {
    const beside = Math.max(amplitude[i - 1] ?? 0, amplitude[i + 1] ?? 0);
    const under = 20 * Math.log10(Math.max(1, beside / Math.max(1e-7, amplitude[i]!)));
    const speaks = over[i]! - Math.max(0, under - BESIDE);
    sum += (Math.min(1, Math.max(0, speaks / CLEAR)) - ABSENT) / Math.sqrt(1 + 0.3 * i);
  }
  return sum;
}

/** Loudest harmonic amplitude in each spectrum, for telling silence. */
function loudness(spectra: Spectra): Float32Array {
  const from = Math.max(1, Math.floor(50 / spectra.binHz));
  const to = Math.min(spectra.bins, Math.ceil(5000 / spectra.binHz));
  return Float32Array.from({ length: spectra.count }, (_, k) => {
    let most = 0;
    for (let b = from; b < to; b++) most = Math.max(most, spectra.amplitude[k * spectra.bins + b]!);
    return most;
  });
}

/**
 * The likeliest course of pitch: every pitch of the instrument, tuned `cents` from A = 440, against silence, with a
 * price for every change (Viterbi).
 */
export function pitchPath(spectra: Spectra, floor: ReturnType<typeof floorOf>, family: Family, cents: number): PitchPath {
  const pitches = playablePitches(family);
  const tuned = pitches.map((p) => p.hz * 2 ** (cents / 1200));
  const states = pitches.length + 1;
  const { count } = spectra;
  const loud = loudness(spectra);
  const loudest = [...loud].sort((a, b) => b - a)[Math.floor(count / 10)] ?? 0;
  const worth = new Float32Array(states * count);
  const back = new Int16Array(states * count);
  let before = new Float64Array(states);
  for (let k = 0; k < count; k++) {
    const now = new Float64Array(states);
    let best = 0;
    for (let s = 1; s < states; s++) if (before[s]! > before[best]!) best = s;
    const heard = loud[k]! > QUIETEST * loudest;
    for (let s = 0; s < states; s++) {
      const own = s === 0 ? SILENT : heard ? worthOf(harmonicsOf(spectra, floor, k, tuned[s - 1]!)) : 0;
      worth[k * states + s] = own;
      const stay = before[s]!;
      const come = before[best]! - CHANGE;
      back[k * states + s] = stay >= come ? s : best;
      now[s] = own + Math.max(stay, come);
    }
    before = now;
  }
  const at = new Int16Array(count);
  const lead = new Float32Array(count);
  let state = before.reduce((best, v, s) => (v > before[best]! ? s : best), 0);
  for (let k = count - 1; k >= 0; k--) {
    at[k] = state - 1;
    if (state > 0) {
      let next = SILENT;
      for (let s = 1; s < states; s++) if (s !== state) next = Math.max(next, worth[k * states + s]!);
      lead[k] = worth[k * states + state]! - next;
    }
    state = back[k * states + state]!;
  }
  return { pitches, at, lead };
}

/** A stretch of one pitch in the path; spectra `first`..`last` inclusive. */
export interface PitchRun {
  readonly pitch: number;
  readonly first: number;
  readonly last: number;
}

export function runsOf(path: PitchPath): PitchRun[] {
  const runs: PitchRun[] = [];
  let first = 0;
  for (let k = 1; k <= path.at.length; k++) {
    if (k < path.at.length && path.at[k] === path.at[first]) continue;
    if (path.at[first]! >= 0) runs.push({ pitch: path.at[first]!, first, last: k - 1 });
    first = k;
  }
  return runs;
}

export const timeOf = (frame: number): number => frame * HOP;

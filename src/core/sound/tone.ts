import { mean } from '../statistics';
import { amplitudeNear, harmonicCount } from './harmonics';
import type { Spectra } from './spectra';

/**
 * Raw measures of a note's tone colour. What they mean depends on instrument, room and phone: they are compared
 * within a clip, never judged alone.
 */
export interface Tone {
  /** Centre of gravity of the harmonics, in harmonics (1 = only the fundamental): high near the bridge. */
  readonly brightness: number;
  /** Share of the power between the harmonics, 0..1: breath, scratch and noise. */
  readonly noise: number;
  /** Scatter of the pitch about its slow course, cents; absent where too little was clear. */
  readonly unsteadiness?: number;
  /** How much noisier it begins than it goes on, dB; absent for short notes. */
  readonly startNoise?: number;
}

/** The ends of a note are its start and the change of bow (seconds, ours). */
const ENDS = 0.08;

/** Tone of a note between two spectra; `cents` the pitches heard meanwhile against the note's own. */
export function toneOf(spectra: Spectra, first: number, last: number, hz: number, cents: readonly number[]): Tone {
  const inset = Math.min(Math.round(ENDS * 100), Math.floor((last - first) / 3));
  const brightness: number[] = [];
  const noise: number[] = [];
  for (let k = first + inset; k <= last - inset; k++) {
    let harmonic = 0;
    let moment = 0;
    const halfWidth = 2;
    const from = Math.max(1, Math.floor((hz * 0.7) / spectra.binHz));
    let all = 0;
    for (let b = from; b < spectra.bins; b++) all += spectra.amplitude[k * spectra.bins + b]! ** 2;
    let inHarmonics = 0;
    for (let h = 1; h <= harmonicCount(hz); h++) {
      const a = amplitudeNear(spectra, k, h * hz) ** 2;
      harmonic += a;
      moment += h * a;
    }
    const slack = hz * 0.02;
    for (let h = 1; h * hz < spectra.bins * spectra.binHz; h++) {
      const middle = Math.round((h * hz) / spectra.binHz);
      const reach = Math.min(Math.floor((0.45 * hz) / spectra.binHz), halfWidth + Math.round((h * slack) / spectra.binHz));
      for (let b = middle - reach; b <= middle + reach; b++) if (b > 0 && b < spectra.bins) inHarmonics += spectra.amplitude[k * spectra.bins + b]! ** 2;
    }
    if (harmonic > 0 && all > 0) {
      brightness.push(moment / harmonic);
      noise.push(Math.max(0, 1 - inHarmonics / all));
    }
  }
  const middle = mean(cents);
  const scatter = cents.length >= 4 ? Math.sqrt(mean(cents.map((c) => (c - middle) ** 2))) : undefined;
  return { brightness: mean(brightness), noise: mean(noise), ...(scatter === undefined ? {} : { unsteadiness: scatter }) };
}

import type { Spectra } from './spectra';

/** Harmonics above this frequency are not asked: phones and rooms leave little of them (Hz, ours). */
const HIGHEST = 5_000;
/** So many harmonics at most (ours). */
const MOST = 16;
/** Vibrato and unsteady stopping move a harmonic by up to this share of its frequency (about 35 cents, ours). */
const SLACK = 2 ** (35 / 1200) - 1;

/** The harmonics of one pitch in one spectrum. */
export interface Harmonics {
  /** Amplitude of each harmonic, from the first. */
  readonly amplitude: readonly number[];
  /** How far each stands over the quiet between, dB. */
  readonly over: readonly number[];
}

/** Level of the quiet between the harmonics, amplitude per bin: the lower fifth of each stretch of 300 Hz. */
export function floorOf(spectra: Spectra): { at(frame: number, bin: number): number } {
  const { bins, binHz, count, amplitude } = spectra;
  const width = Math.max(8, Math.round(300 / binHz));
  const stretches = Math.ceil(bins / width);
  const floor = new Float32Array(stretches * count);
  for (let k = 0; k < count; k++) {
    for (let s = 0; s < stretches; s++) {
      const part = amplitude.slice(k * bins + s * width, k * bins + Math.min(bins, (s + 1) * width)).sort();
      floor[k * stretches + s] = Math.max(1e-7, part[Math.floor(part.length / 5)]!);
    }
  }
  return { at: (frame, bin) => floor[frame * stretches + Math.min(stretches - 1, Math.floor(bin / width))]! };
}

/** Range of bins in which the h-th harmonic of a pitch may lie. */
function binsOf(spectra: Spectra, hz: number): [number, number] {
  const middle = hz / spectra.binHz;
  const slack = Math.max(1, middle * SLACK);
  return [Math.max(1, Math.round(middle - slack)), Math.min(spectra.bins - 2, Math.round(middle + slack))];
}

/** Highest amplitude near a frequency. */
export function amplitudeNear(spectra: Spectra, frame: number, hz: number): number {
  const [from, to] = binsOf(spectra, hz);
  let most = 0;
  for (let b = from; b <= to; b++) most = Math.max(most, spectra.amplitude[frame * spectra.bins + b]!);
  return most;
}

/** Amplitude of the peak near a frequency; 0 where the spectrum only slopes past it, as it does beside a stronger harmonic. */
export function peakNear(spectra: Spectra, frame: number, hz: number): number {
  const [from, to] = binsOf(spectra, hz);
  const at = frame * spectra.bins;
  let best = 0;
  for (let b = from; b <= to; b++) {
    const a = spectra.amplitude[at + b]!;
    if (a > best && a >= spectra.amplitude[at + b - 1]! && a >= spectra.amplitude[at + b + 1]!) best = a;
  }
  return best;
}

export const harmonicCount = (hz: number): number => Math.max(1, Math.min(MOST, Math.floor(HIGHEST / hz)));

/** Reads the harmonics of a pitch in one spectrum. */
export function harmonicsOf(spectra: Spectra, floor: ReturnType<typeof floorOf>, frame: number, hz: number): Harmonics {
  const amplitude: number[] = [];
  const over: number[] = [];
  for (let h = 1; h <= harmonicCount(hz); h++) {
    const a = amplitudeNear(spectra, frame, h * hz);
    amplitude.push(a);
    over.push(20 * Math.log10(Math.max(1e-7, a) / floor.at(frame, Math.round((h * hz) / spectra.binHz))));
  }
  return { amplitude, over };
}

import FFT from 'fft.js';

/** Time between two spectra, seconds. */
export const HOP = 0.01;

/** Spectra of a sound, one every {@link HOP} seconds; the k-th window is centred at k * HOP. */
export interface Spectra {
  readonly rate: number;
  /** Width of one bin, Hz. */
  readonly binHz: number;
  /** Amplitudes, `bins` a spectrum; a sine of amplitude 1 in the middle of a bin gives 1. */
  readonly amplitude: Float32Array;
  readonly bins: number;
  readonly count: number;
}

/** Highest frequency kept, Hz: strings say nothing of interest above it through a phone (ours). */
const TOP_HZ = 10_000;

/**
 * Amplitude spectra under a Hann window of about `seconds` (rounded to a power of two samples).
 * `samples` mono, -1..1.
 */
export function spectraOf(samples: Float32Array, rate: number, seconds: number): Spectra {
  const size = 2 ** Math.round(Math.log2(seconds * rate));
  const fft = new FFT(size);
  const window = Float64Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / size));
  const bins = Math.min(size / 2, Math.ceil((TOP_HZ * size) / rate));
  const count = Math.max(1, Math.ceil(samples.length / (HOP * rate)));
  const amplitude = new Float32Array(bins * count);
  const input = new Array<number>(size).fill(0);
  const output = fft.createComplexArray() as number[];
  for (let k = 0; k < count; k++) {
    const first = Math.round(k * HOP * rate) - size / 2;
    for (let i = 0; i < size; i++) {
      const at = first + i;
      input[i] = at >= 0 && at < samples.length ? samples[at]! * window[i]! : 0;
    }
    fft.realTransform(output, input);
    for (let b = 0; b < bins; b++) {
      const re = output[2 * b]!;
      const im = output[2 * b + 1]!;
      amplitude[k * bins + b] = Math.sqrt(re * re + im * im) / (size / 4);
    }
  }
  return { rate, binHz: rate / size, amplitude, bins, count };
}

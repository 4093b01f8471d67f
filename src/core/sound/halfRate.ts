/** Taps of a half-band low-pass on either side of the middle one. */
const SIDE = 11;
const TAPS = Float64Array.from({ length: SIDE + 1 }, (_, i) => {
  const sinc = i === 0 ? 0.5 : Math.sin((Math.PI * i) / 2) / (Math.PI * i);
  return sinc * (0.54 + 0.46 * Math.cos((Math.PI * i) / (SIDE + 1)));
});

/** The sound at half its rate, without what would fold back (windowed-sinc half-band filter, textbook method). */
export function atHalfRate(samples: Float32Array): Float32Array {
  const out = new Float32Array(samples.length >> 1);
  for (let k = 0; k < out.length; k++) {
    const at = 2 * k;
    let sum = TAPS[0]! * samples[at]!;
    for (let i = 1; i <= SIDE; i += 2) sum += TAPS[i]! * ((samples[at - i] ?? 0) + (samples[at + i] ?? 0));
    out[k] = sum;
  }
  return out;
}

import { seededRandom } from '../../src/core/random';

/** Comb delays in seconds of a small room (ours; no two share a divisor). */
const COMBS = [0.0297, 0.0371, 0.0411, 0.0437];
const ALLPASSES = [0.005, 0.0017];

/**
 * The sound as it is in a small room: parallel combs and allpasses in a row (Schroeder, J. Audio Eng. Soc. 10, 1962;
 * cited from memory). `decay` seconds to -60 dB, `wet` 0..1.
 */
export function inRoom(dry: Float32Array, rate: number, decay: number, wet: number, seed: number): Float32Array {
  if (wet <= 0) return dry;
  const random = seededRandom(seed * 13 + 5);
  let sum = new Float32Array(dry.length);
  for (const seconds of COMBS) {
    const delay = Math.round(seconds * (0.9 + 0.2 * random()) * rate);
    const feedback = 10 ** ((-3 * delay) / rate / decay);
    const y = new Float32Array(dry.length);
    for (let i = 0; i < dry.length; i++) {
      y[i] = dry[i]! + (i >= delay ? feedback * y[i - delay]! : 0);
      sum[i]! += y[i]! / COMBS.length;
    }
  }
  for (const seconds of ALLPASSES) {
    const delay = Math.round(seconds * rate);
    const y = new Float32Array(dry.length);
    for (let i = 0; i < dry.length; i++) y[i] = -0.7 * sum[i]! + (i >= delay ? sum[i - delay]! + 0.7 * y[i - delay]! : 0);
    sum = y;
  }
  return dry.map((x, i) => (1 - wet) * x + wet * sum[i]!);
}

import { normal, seededRandom } from '../random';

/** Samples a second of the sounds that tests make. */
export const RATE = 44_100;

/** A plain bowed note: twelve harmonics falling as 1/h (a sawtooth's, as Helmholtz found for the bowed string; from memory). */
export interface PlainTone {
  readonly hz: number;
  readonly from: number;
  readonly to: number;
  readonly level?: number;
}

/** Some notes with a little noise over them, by seed. */
export function soundOf(tones: readonly PlainTone[], seconds: number, noise = 0.001, seed = 1): Float32Array {
  const random = seededRandom(seed);
  const out = new Float32Array(Math.round(seconds * RATE));
  for (const { hz, from, to, level = 0.2 } of tones) {
    for (let i = Math.round(from * RATE); i < Math.min(out.length, Math.round(to * RATE)); i++) {
      const t = i / RATE;
      const rise = Math.min(1, (t - from) / 0.03, (to - t) / 0.03);
      for (let h = 1; h <= 12 && h * hz < 9000; h++) out[i]! += ((level * rise) / h) * Math.sin(2 * Math.PI * h * hz * t + h);
    }
  }
  return out.map((x) => x + noise * normal(random));
}

import type { Family } from '../../src/core/instrument/family';
import { normal, seededRandom } from '../../src/core/random';
import type { Performance } from '../motion/performance';
import { OPEN_STRING_HZ } from './score';

export const SAMPLE_RATE = 48_000;

/** Resonances of a violin's body: Hz, width, strength (from memory; rough). Lower for larger bodies. */
const BODY = [
  [280, 40, 0.9],
  [460, 60, 1],
  [550, 70, 0.8],
  [1200, 300, 0.6],
  [2400, 700, 0.7],
] as const;

/** Two-pole resonator. */
class Resonator {
  private y1 = 0;
  private y2 = 0;
  private readonly a1: number;
  private readonly a2: number;
  private readonly gain: number;
  constructor(hz: number, width: number, strength: number) {
    const r = Math.exp((-Math.PI * width) / SAMPLE_RATE);
    this.a1 = 2 * r * Math.cos((2 * Math.PI * hz) / SAMPLE_RATE);
    this.a2 = -r * r;
    this.gain = strength * (1 - r);
  }
  next(x: number): number {
    const y = this.gain * x + this.a1 * this.y1 + this.a2 * this.y2;
    this.y2 = this.y1;
    this.y1 = y;
    return y;
  }
}

/**
 * The strings as the bow draws them: a sawtooth (the string's stick and slip) through the body, loudness
 * following bow speed, brighter near the bridge, breathy over the fingerboard.
 */
export function bowedSound(performance: Performance, family: Family, bodyScale: number, fingerboardEnd: number, seed: number): Float32Array {
  const n = Math.ceil(performance.duration * SAMPLE_RATE);
  const out = new Float32Array(n);
  const body = BODY.map(([hz, width, strength]) => new Resonator(hz / bodyScale, width / bodyScale, strength));
  const random = seededRandom(seed * 19 + 2);
  let phase = 0;
  let smooth = 0;
  let level = 0;
  let target = 0;
  let hz: number = OPEN_STRING_HZ[family][0]!;
  let nearness = 0.5;
  for (let i = 0; i < n; i++) {
    if (i % 240 === 0) {
      const m = performance.at(i / SAMPLE_RATE);
      target = Math.min(1, Math.abs(m.speed) / 500) ** 0.6;
      hz = performance.pitchAt(i / SAMPLE_RATE);
      nearness = Math.min(1, Math.max(0, 1 - m.bow.contact / fingerboardEnd));
    }
    level += (target - level) * 0.002;
    phase += (hz * (1 + 0.0006 * Math.sin(i / 9000))) / SAMPLE_RATE;
    phase -= Math.floor(phase);
    const saw = 2 * phase - 1;
    smooth += (saw - smooth) * (0.12 + 0.5 * nearness);
    const breath = normal(random) * (0.03 + 0.1 * (1 - nearness));
    const x = level * (smooth + breath);
    let y = 0.12 * x;
    for (const r of body) y += r.next(x) * 3;
    out[i] = Math.tanh(y * 0.9) * 0.5;
  }
  return out;
}

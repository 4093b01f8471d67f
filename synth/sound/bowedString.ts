import type { Family } from '../../src/core/instrument/family';
import { normal, seededRandom } from '../../src/core/random';
import { OPEN_STRING_HZ } from '../../src/core/sound/openStrings';
import { CREEP, type Performance } from '../motion/performance';
import type { Scenario } from '../presets/scenario';
import { inRoom } from './room';
import { touchOf } from './touch';

export const SAMPLE_RATE = 48_000;

/** Resonances of a violin's body: Hz, width, strength (from memory; rough). Lower for larger bodies. */
const BODY = [
  [280, 40, 0.5],
  [460, 60, 0.8],
  [550, 70, 0.7],
  [850, 160, 0.7],
  [1250, 300, 0.9],
  [1800, 400, 0.9],
  [2500, 700, 1.3],
  [3400, 900, 0.9],
] as const;

/** What decides a take's sound beside the playing. */
export interface SoundTake {
  readonly seed: number;
  /** Tuning, cents from A = 440. */
  readonly cents: number;
  /** How much later the sound comes than the picture, seconds. */
  readonly late: number;
  /** 0 dry .. 1 an echoing room. */
  readonly room: number;
}

export const soundTakeOf = ({ seed, tuneCents, soundLate, echo }: Scenario): SoundTake => ({ seed, cents: tuneCents, late: soundLate, room: echo });

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

/** Speed (mm/s) at which the bow sounds fully; slower it is softer, and below {@link CREEP} it only rubs. */
const FULL_SPEED = 500;
/** A string swings up to a third of its height in 25 ms (share a sample; starts of bowed notes take some 50 ms: Guettler and Askenfelt 1997, from memory). */
const RISE = 1 / (0.025 * SAMPLE_RATE);
/** A string rings on after the bow has left it: seconds to a third, open strings longer (ours). */
const RING = { open: 0.12, stopped: 0.05 } as const;
/** Control values are read so many samples apart. */
const CONTROL = 240;

/** One string: phase of its sawtooth, loudness, and the corner that the bow's place sharpens or rounds. */
class BowedString {
  private phase = 0;
  private smooth = 0;
  private level = 0;
  private jitter = 1;
  constructor(private readonly random: () => number) {}

  /** Next sample: `target` loudness 0..1, `hz`, `bright` 0 (over the fingerboard) .. 1 (at the bridge), `scratch` 0..1, `ring` seconds. */
  next(target: number, hz: number, bright: number, scratch: number, ring: number): number {
    const rate = target > this.level ? RISE : 1 / (ring * SAMPLE_RATE);
    this.level += (target - this.level) * rate;
    this.phase += (hz * this.jitter) / SAMPLE_RATE;
    if (this.phase >= 1) {
      this.phase -= Math.floor(this.phase);
      // Pressed too hard for its speed, the string slips early or late.
      this.jitter = 1 + scratch * 0.12 * normal(this.random);
    }
    if (this.level < 1e-4) return 0;
    const saw = 2 * this.phase - 1;
    this.smooth += (saw - this.smooth) * (0.2 + 0.6 * bright);
    return this.level * this.smooth;
  }
}

/**
 * The strings as the bow draws them: each a sawtooth (the string's stick and slip, Helmholtz motion), loud with bow
 * speed, brighter near the bridge, breathy over the fingerboard; every string under the hair sounds, and rings on when
 * the bow leaves it. Through the body, a room and a phone's levelling.
 */
export function bowedSound(performance: Performance, family: Family, bodyScale: number, fingerboardEnd: number, take: SoundTake): Float32Array {
  const { seed, cents, late, room } = take;
  const n = Math.ceil(performance.duration * SAMPLE_RATE);
  const dry = new Float32Array(n);
  const body = BODY.map(([hz, width, strength]) => new Resonator(hz / bodyScale, width / bodyScale, strength));
  const random = seededRandom(seed * 19 + 2);
  const open = OPEN_STRING_HZ[family].map((hz) => hz * 2 ** (cents / 1200));
  const strings = open.map(() => new BowedString(random));
  let targets = open.map(() => 0);
  let pitches = [...open];
  let rings = open.map(() => RING.open as number);
  let bright = 0.5;
  let breath = 0;
  let scratch = 0;
  let crunch = 0;
  let finger = 0;
  let lastPitch = performance.pitchAt(-late) * 2 ** (cents / 1200);
  for (let i = 0; i < n; i++) {
    if (i % CONTROL === 0) {
      const t = i / SAMPLE_RATE - late;
      const m = performance.at(Math.max(0, t));
      const speed = t < 0 ? 0 : Math.abs(m.speed);
      // A string pressed before the bow moves rasps as soon as it creeps.
      crunch = t < 0 || speed < 1 ? 0 : m.press;
      const loud = Math.max(0.6 * crunch, speed < CREEP ? 0 : Math.min(1, speed / FULL_SPEED) ** 0.6);
      targets = touchOf(performance.levels, m.bow.inclination).map((touch) => loud * Math.sqrt(touch));
      const pitch = performance.pitchAt(t) * 2 ** (cents / 1200);
      pitches = open.map((hz, s) => (s === m.string ? pitch : hz));
      rings = open.map((hz, s) => (s === m.string && pitch > hz * 1.01 ? RING.stopped : RING.open));
      bright = Math.min(1, Math.max(0, 1 - m.bow.contact / fingerboardEnd));
      breath = 0.6 * crunch + loud * (0.03 + 0.4 * (1 - bright) ** 2) + (speed > 3 && speed < 60 ? 0.02 : 0);
      // Slow near the bridge the bow presses; ordinary playing does not.
      scratch = Math.max(crunch, Math.min(1, Math.max(0, 2 * (bright - 0.55) - speed / 500)) * (speed > CREEP ? 1 : 0));
      if (pitch !== lastPitch) finger = 0.05;
      lastPitch = pitch;
    }
    finger *= 0.9992;
    let x = normal(random) * (breath + finger);
    const vibrato = 1 + 0.0006 * Math.sin(i / 9000);
    strings.forEach((string, s) => {
      x += string.next(targets[s]!, pitches[s]! * vibrato, bright, scratch, rings[s]!);
    });
    let y = 0.12 * x;
    for (const r of body) y += r.next(x) * 3;
    dry[i] = y;
  }
  return throughPhone(inRoom(dry, SAMPLE_RATE, 0.25 + 0.5 * room, 0.35 * room, seed), random);
}

/** A phone's microphone and levelling: no deep bass, loud and soft drawn together, a little hiss. */
function throughPhone(sound: Float32Array, random: () => number): Float32Array {
  let bass = 0;
  let loudness = 0.2;
  return sound.map((x) => {
    bass += (x - bass) * 0.008;
    const y = x - bass;
    loudness += (Math.abs(y) - loudness) * 0.00004;
    const gain = 0.35 / (0.25 + loudness);
    return Math.tanh(y * gain) * 0.5 + 0.0006 * normal(random);
  });
}

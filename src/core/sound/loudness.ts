import type { Measured } from '../measures/measures';
import { HOP, type Spectra } from './spectra';

/** The strings' part of the sound (Hz, ours). */
const FROM_HZ = 150;
const TO_HZ = 5_000;
/** A string sounds about as the bow's speed to this power (ours); slower than {@link CREEPS} (share of the hair a second) a bow only rubs. */
const POWER = 0.6;
const CREEPS = 0.012;
/** String and room ring on: loudness falls no faster than by a third in so many seconds (ours, measured on synthetic and sampled strings). */
const RINGS = 0.1;
/** Fineness of the comparison (seconds). */
const FINE = 0.005;
/** Every so many of those steps are compared. */
const EVERY = 4;
/** The bow's speed is taken over so long to either side (seconds). */
const BESIDE = 0.06;
/** The ends of a clip are left out (seconds). */
const EDGE = 0.3;
/** Phones are off by no more than this (seconds, ours). */
const FURTHEST = 0.25;
/** A sound is so much later than the speed that makes it: the string has to swing, the window to fill (seconds, ours, measured on synthetic and sampled strings). */
const BEHIND = 0.044;
/** The two must go together so well, and nowhere else nearly as well (ours). */
const LEAST = 0.6;
const APART = 0.12;
const NEARLY = 0.04;
/** What playing, strings and rooms leave (seconds, ours). */
const SHARED = 0.015;
const UNLIKE = 0.025;
/** Less of the bow seen than this is no comparison (seconds). */
const SHORTEST = 2;

/** Loudness of the strings, dB, every {@link HOP} seconds. `spectra` under a short window. */
export function loudnessOf({ amplitude, bins, binHz, count }: Spectra): Float64Array {
  const [first, last] = [Math.floor(FROM_HZ / binHz), Math.min(bins, Math.floor(TO_HZ / binHz))];
  return Float64Array.from({ length: count }, (_, k) => {
    let power = 1e-12;
    for (let b = first; b < last; b++) power += amplitude[k * bins + b]! ** 2;
    return 10 * Math.log10(power);
  });
}

/** Where the bow was: seconds, share of the hair; undefined where it was not seen. */
export interface BowPlace {
  readonly t: number;
  readonly position: number | undefined;
}

/**
 * How much later the sound comes than the picture, seconds, + = late: the shift at which loudness goes best with the
 * speed of the bow. Undefined where they do not go together, or nearly as well at another shift.
 */
export function loudnessOffset(loudness: ArrayLike<number>, places: readonly BowPlace[]): Measured | undefined {
  const expected = expectedLoudness(places);
  const told = expected.filter((e) => e.t > EDGE && e.t < (places.at(-1)?.t ?? 0) - EDGE);
  if (told.length * EVERY * FINE < SHORTEST) return undefined;
  const heardAt = (t: number): number | undefined => {
    const x = t / HOP;
    const i = Math.floor(x);
    return i < 0 || i + 1 >= loudness.length ? undefined : loudness[i]! + (loudness[i + 1]! - loudness[i]!) * (x - i);
  };
  const together = (shift: number) => {
    const pairs = told.flatMap((e): [number, number][] => {
      const heard = heardAt(e.t + shift);
      return heard === undefined ? [] : [[e.decibels, heard]];
    });
    return correlation(pairs);
  };
  const count = Math.round((2 * FURTHEST) / FINE) + 1;
  const shifts = Array.from({ length: count }, (_, i) => BEHIND - FURTHEST + i * FINE);
  const worth = shifts.map(together);
  const best = worth.indexOf(Math.max(...worth));
  const rival = Math.max(-1, ...worth.filter((w, i) => Math.abs(i - best) * FINE > APART && w >= (worth[i - 1] ?? -1) && w >= (worth[i + 1] ?? -1)));
  if (best === 0 || best === count - 1 || worth[best]! < LEAST || rival > worth[best]! - NEARLY) return undefined;
  const [a, b, c] = [worth[best - 1]!, worth[best]!, worth[best + 1]!];
  const between = a + c - 2 * b < 0 ? (0.5 * (a - c)) / (a - 2 * b + c) : 0;
  return { value: shifts[best]! + between * FINE - BEHIND, u: Math.hypot(SHARED, UNLIKE * (1 - b)) };
}

/** Loudness that the bow's speed lets expect, dB, every few hundredths of a second in which the bow was seen. */
function expectedLoudness(places: readonly BowPlace[]): { t: number; decibels: number }[] {
  const out: { t: number; decibels: number }[] = [];
  if (places.length < 2) return out;
  const end = places.at(-1)!.t;
  let loud = 0;
  let i = 0;
  let k = 0;
  for (let t = places[0]!.t; t < end; t += FINE, k++) {
    while (i + 2 < places.length && places[i + 1]!.t <= t) i++;
    const [from, to] = [positionAt(places, t - BESIDE, i), positionAt(places, t + BESIDE, i)];
    loud *= Math.exp(-FINE / RINGS);
    if (from === undefined || to === undefined) continue;
    loud = Math.max(loud, Math.max(CREEPS, Math.abs(to - from) / (2 * BESIDE)) ** POWER);
    if (k % EVERY === 0) out.push({ t, decibels: 20 * Math.log10(loud) });
  }
  return out;
}

/** Position at a time near the i-th place; undefined next to a place where the bow was not seen. */
function positionAt(places: readonly BowPlace[], t: number, near: number): number | undefined {
  let i = near;
  while (i > 0 && places[i]!.t > t) i--;
  while (i + 2 < places.length && places[i + 1]!.t <= t) i++;
  const [a, b] = [places[i]!, places[i + 1]!];
  if (a.position === undefined || b.position === undefined || t < places[0]!.t) return undefined;
  return a.position + ((b.position - a.position) * (t - a.t)) / (b.t - a.t);
}

function correlation(pairs: readonly (readonly [number, number])[]): number {
  const n = pairs.length;
  if (n < 10) return -1;
  let [x, y, xx, yy, xy] = [0, 0, 0, 0, 0];
  for (const [a, b] of pairs) {
    x += a;
    y += b;
    xx += a * a;
    yy += b * b;
    xy += a * b;
  }
  const [sx, sy] = [xx - (x * x) / n, yy - (y * y) / n];
  return sx > 0 && sy > 0 ? (xy - (x * y) / n) / Math.sqrt(sx * sy) : -1;
}

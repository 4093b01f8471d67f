import { harmonicCount } from './harmonics';
import { strengthAt } from './onset';
import { HOP, type Spectra } from './spectra';

/** Noise is looked for from here up: below it strings that ring on and the room are too strong (Hz, ours). */
const LOWEST = 1_500;
/** Distance of the places at which it is read (Hz). */
const STEP = 300;
/** A start lasts from so long before the note is heard to begin to so long after (seconds, ours). */
const BEFORE = 0.18;
const AFTER = 0.11;
/** The note's middle begins so long after its start and ends so long before its end (seconds, ours). */
const SETTLED = 0.18;
const BEFORE_END = 0.08;
/** Fewer spectra of the middle are no measure. */
const LEAST = 5;

/**
 * How much noisier a note of `hz` begins than it goes on, dB: what lies between its harmonics above {@link LOWEST}
 * against the harmonics themselves, at its start and in its middle; so a phone's levelling drops out. About 0 for a
 * clean start. Undefined for notes too short to compare. `from`, `to` seconds; `spectra` and their `floor` under a
 * short window.
 */
export function startNoise(spectra: Spectra, floor: { at(frame: number, bin: number): number }, hz: number, from: number, to: number): number | undefined {
  const first = Math.max(0, Math.round((from - BEFORE) / HOP));
  const begun = Math.round((from + AFTER) / HOP);
  const settled = Math.round((from + SETTLED) / HOP);
  const last = Math.min(spectra.count - 1, Math.round((to - BEFORE_END) / HOP));
  if (last - settled + 1 < LEAST) return undefined;
  const harmonics = Array.from({ length: harmonicCount(hz) }, (_, h) => (h + 1) * hz);
  const bins: number[] = [];
  for (let f = LOWEST; f < spectra.bins * spectra.binHz; f += STEP) bins.push(Math.floor(f / spectra.binHz));
  const noise = (k: number) => bins.reduce((sum, b) => sum + 20 * Math.log10(floor.at(k, b)), 0) / bins.length;
  const tone = (k: number) => 20 * Math.log10(strengthAt(spectra, k, harmonics) + 1e-7);
  const over = (a: number, b: number, value: (k: number) => number) => Array.from({ length: b - a + 1 }, (_, i) => value(a + i)).sort((x, y) => x - y);
  // The third highest: one loud window is a click.
  const start = over(first, begun, noise).at(-3)! - over(first, settled, tone).at(-3)!;
  const middle = (values: readonly number[]) => values[Math.floor(values.length / 2)]!;
  return start - (middle(over(settled, last, noise)) - middle(over(settled, last, tone)));
}

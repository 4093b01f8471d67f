import { amplitudeNear, harmonicCount } from './harmonics';
import { HOP, type Spectra } from './spectra';

/** A note begins where its own harmonics have risen by this share from before to their first height (ours). */
const RISEN = 0.12;
/** Seconds before and after the change of pitch in which the rise is looked for (ours). */
const BEFORE = 0.15;
const AFTER = 0.16;
/** A Hann window sees a step by {@link RISEN} this share of its width before the step comes to its middle (0.5 - x - sin(2 pi x) / (2 pi) = 0.12). */
const SEEN_AHEAD = 0.22;
/** The ear's note begins with the bow's bite, before the harmonics have grown so far (seconds, ours, measured on sampled strings). */
const BITE = 0.0275;

/** Harmonics of `hz` (Hz) that do not fall on any of `other`, with the resolution of the spectra; all of them if none is free. */
export function ownHarmonics(spectra: Spectra, hz: number, other: number | undefined): number[] {
  const all = Array.from({ length: harmonicCount(hz) }, (_, h) => (h + 1) * hz);
  if (other === undefined) return all;
  const apart = 2.5 * spectra.binHz;
  const free = all.filter((f) => Math.abs(f - Math.max(1, Math.round(f / other)) * other) > Math.max(apart, 0.03 * f));
  return free.length > 0 ? free : all;
}

/** Root of the summed power of some harmonics. */
export function strengthAt(spectra: Spectra, frame: number, harmonics: readonly number[]): number {
  let sum = 0;
  for (const f of harmonics) sum += amplitudeNear(spectra, frame, f) ** 2;
  return Math.sqrt(sum);
}

/**
 * Time (s) at which a note of `hz` begins, near `around`: its own harmonics, free of those of the note before
 * (`other`), rise. `spectra` under a short window.
 */
export function onsetOf(spectra: Spectra, around: number, hz: number, other: number | undefined): number {
  const harmonics = ownHarmonics(spectra, hz, other);
  const middle = Math.round(around / HOP);
  const first = Math.max(0, middle - Math.round(BEFORE / HOP));
  const last = Math.min(spectra.count - 1, middle + Math.round(AFTER / HOP));
  const course = Array.from({ length: last - first + 1 }, (_, i) => strengthAt(spectra, first + i, harmonics));
  const top = Math.max(...course.slice(Math.max(0, middle - first)));
  const reached = course.findIndex((v, i) => i >= middle - first - 4 && v >= 0.9 * top);
  let low = reached;
  for (let i = reached; i >= 0; i--) if (course[i]! <= course[low]!) low = i;
  const edge = course[low]! + RISEN * (top - course[low]!);
  let at = reached;
  while (at > low && course[at - 1]! > edge) at--;
  const [a, b] = [course[Math.max(0, at - 1)]!, course[at]!];
  const part = b > a ? Math.min(1, Math.max(0, (edge - a) / (b - a))) : 1;
  return (first + at - 1 + part) * HOP + SEEN_AHEAD / spectra.binHz - BITE;
}

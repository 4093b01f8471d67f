import { median } from '../statistics';
import { amplitudeNear, harmonicCount } from './harmonics';
import { HOP, type Spectra } from './spectra';

/** Dips in what has faded so far below the usual level are noise, not bows (dB, ours). */
const FADED = 12;
/** Between a change of bow and the first full tone, or the last before, lies less than this (seconds, ours). */
const REACH = 0.15;
/** Two changes of bow are at least so far apart (seconds, ours). */
const LEAST_APART = 0.12;
/** The dip lies this much after the new bow begins (seconds, ours, measured on sampled strings). */
const DIP_LATE = 0.015;
const MOST_HARMONICS = 12;
/** The fewer harmonics a pitch has below the phone's limit, the more vibrato makes dips of its own: so steeply more is asked (ours). */
const FEWER = 0.4;

/** A dip common to all harmonics of one long pitch: the bow changes, or stops and starts. */
export interface Dip {
  /** When the new bow begins, seconds. */
  readonly t: number;
  /** Depth against the lower of its two shores, dB; mean over the harmonics, so that vibrato, which moves them apart, counts little. */
  readonly depth: number;
}

/** Dips inside a stretch of one pitch, spectra `first`..`last` under a short window, of at least `least` dB. */
export function dipsIn(spectra: Spectra, first: number, last: number, hz: number, least: number): Dip[] {
  const count = Math.min(MOST_HARMONICS, harmonicCount(hz));
  const course = Array.from({ length: last - first + 1 }, (_, i) => {
    let sum = 0;
    for (let h = 1; h <= count; h++) sum += 20 * Math.log10(amplitudeNear(spectra, first + i, h * hz) + 1e-4);
    return sum / count;
  });
  const reach = Math.round(REACH / HOP);
  const usual = median(course);
  const dips: Dip[] = [];
  for (let i = 3; i < course.length - 3; i++) {
    const near = course.slice(Math.max(0, i - 4), i + 5);
    if (course[i]! > Math.min(...near)) continue;
    const shores = Math.min(Math.max(...course.slice(Math.max(0, i - reach), i)), Math.max(...course.slice(i + 1, i + 1 + reach)));
    if (shores < usual - FADED) continue;
    const depth = (shores - course[i]!) * (count / MOST_HARMONICS) ** FEWER;
    const dip = { t: (first + i) * HOP - DIP_LATE, depth };
    if (depth < least) continue;
    const before = dips[dips.length - 1];
    if (before && dip.t - before.t < LEAST_APART) {
      if (depth > before.depth) dips[dips.length - 1] = dip;
    } else dips.push(dip);
  }
  return dips;
}

import type { Family } from '../instrument/family';
import { mean, slope } from '../statistics';
import { amplitudeNear, type floorOf, peakNear } from './harmonics';
import type { HeardNote, SecondString } from './heard';
import { ownHarmonics } from './onset';
import { OPEN_STRING_HZ } from './openStrings';
import { HOP, type Spectra } from './spectra';

/** A second string speaks when its own harmonics stand, in the mean, no further below the note's (dB, ours). */
const AUDIBLE = -22;
/** ... and have risen so far within {@link RISE_TIME} seconds (dB, ours): what only rings on, falls. */
const RISE = 6;
const RISE_TIME = 0.15;
/** ... or stay for so long (seconds) while fading no faster than this (dB a second, ours): an open string left to itself fades faster. */
const STAYS = 0.3;
const FADES = -6;
/** It ends when it has fallen so far from its height (dB, ours). */
const FALLEN = 9;
/** Shorter touches are not told apart from the noise of a change of bow (seconds, ours). */
const LEAST = 0.06;
/** Harmonics asked of a second string (ours): higher ones lie among those of the note. */
const ASKED = 8;
/** What lies further below the note than this is not there (dB, ours). */
const NOTHING = -36;
/** A harmonic counts when it is so many times as strong as the quiet about it (amplitude, ours). */
const CLEAR_OF_NOISE = 4;
/** Over the whole touch this share of its harmonics stands well clear: noise lifts now one, now another (ours). */
const MOST_CLEAR = 0.55;
const WELL_CLEAR = 5;
/** Touches with less than this between them are one (seconds, ours). */
const GAP = 0.08;

/**
 * Stretches in which an open neighbour of the string under way sounds too: harmonics of its own, apart from those of
 * the note, that rise together and stay. Taken in dB and as a mean, so that one harmonic of vibrato does not count
 * as a string; the ringing on of a string left before does not rise.
 */
export function secondStrings(spectra: Spectra, floor: ReturnType<typeof floorOf>, family: Family, cents: number, notes: readonly HeardNote[]): SecondString[] {
  const open = OPEN_STRING_HZ[family].map((hz) => hz * 2 ** (cents / 1200));
  return notes
    .flatMap((note) => [note.string - 1, note.string + 1].flatMap((string) => (open[string] === undefined ? [] : beside(spectra, floor, note, string, open[string]))))
    .sort((a, b) => a.from - b.from);
}

const decibels = (amplitude: number) => 20 * Math.log10(Math.max(1e-7, amplitude));

function beside(spectra: Spectra, floor: ReturnType<typeof floorOf>, note: HeardNote, string: number, hz: number): SecondString[] {
  /** Level of a peak that stands clear of the noise about it. */
  const standing = (frame: number, f: number, clear = CLEAR_OF_NOISE) => {
    const peak = peakNear(spectra, frame, f);
    return peak > clear * floor.at(frame, Math.round(f / spectra.binHz)) ? decibels(peak) : Number.NEGATIVE_INFINITY;
  };
  const low = (f: number) => f < (ASKED + 0.5) * hz;
  const own = ownHarmonics(spectra, hz, note.hz).filter(low);
  const notes = ownHarmonics(spectra, note.hz, hz).filter(low);
  if (own.length < 2 || notes.length < 1) return [];
  const back = Math.round(RISE_TIME / HOP);
  const first = Math.max(0, Math.round(note.from / HOP) + 3);
  const last = Math.min(spectra.count - 1, Math.round(note.to / HOP) - 3);
  const start = Math.max(0, first - back);
  const loud = Array.from({ length: Math.max(0, last - start + 1) }, (_, i) => mean(notes.map((f) => decibels(amplitudeNear(spectra, start + i, f)))));
  const level = loud.map((_, i) => {
    // The note at its full height: neither its attack nor a gap at a change of bow must lift the neighbour.
    const main = Math.max(...loud.slice(Math.max(0, i - back), i + back + 1));
    return mean(own.map((f) => Math.max(NOTHING, standing(start + i, f) - main)));
  });
  const itself = level.map((_, i) => mean(own.map((f) => Math.max(-90, decibels(amplitudeNear(spectra, start + i, f))))));
  /** What is there from the beginning of a note is bowed with it when it does not fade; what only rings on, does. */
  const stays = (k: number): boolean => {
    const reach = itself.slice(k, k + Math.round(STAYS / HOP));
    if (reach.length < STAYS / HOP || Math.min(...level.slice(k, k + reach.length)) < AUDIBLE) return false;
    return (
      (slope(
        reach.map((_, i) => i * HOP),
        reach,
      )?.slope ?? FADES) > FADES
    );
  };
  const out: SecondString[] = [];
  for (let k = first - start; k < level.length; k++) {
    if (level[k]! < AUDIBLE || (level[k]! < Math.min(...level.slice(Math.max(0, k - back), k)) + RISE && !stays(k))) continue;
    let top = level[k]!;
    let end = k;
    for (let j = k; j < level.length && j - end <= GAP / HOP; j++) {
      if (level[j]! < Math.max(top - FALLEN, AUDIBLE - 4)) continue;
      end = j;
      top = Math.max(top, level[j]!);
    }
    const clear = mean(Array.from({ length: end - k + 1 }, (_, j) => own.filter((f) => standing(start + k + j, f, WELL_CLEAR) > Number.NEGATIVE_INFINITY).length / own.length));
    if ((end - k) * HOP >= LEAST && clear >= MOST_CLEAR) {
      out.push({ from: (start + k) * HOP, to: (start + end) * HOP, string, beside: note.string, level: top, confidence: Math.min(1, Math.max(0, (top - AUDIBLE) / 8)) });
    }
    k = end + 1;
  }
  return out;
}

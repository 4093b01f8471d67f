import { median, quantile } from '../statistics';
import type { HeardNote } from './heard';

/** What a note's sound hints at. The teacher may call it otherwise; it stands beside what the picture shows, never alone. */
export type ToneHint = 'centred' | 'airy' | 'glassy' | 'scratchy';

export interface HintedTone {
  readonly hint: ToneHint;
  /** 0..1, low on purpose: phones and rooms colour a sound more than a bow does. */
  readonly confidence: number;
}

/** Fewer notes on a string give nothing to compare with (ours). */
const LEAST_NOTES = 4;
/** So much noise, above what is usual in this clip, is breath (share of power, ours). */
const BREATH = 0.04;
/** So much brighter than usual on this string is glassy (factor, ours). */
const BRIGHT = 1.6;
/** So much unsteadier than usual is scratchy (cents, ours). */
const UNSTEADY = 12;

/** A hint for each note, against the clip's other notes on the same string; undefined where there is nothing to compare with. */
export function toneHints(notes: readonly HeardNote[]): (HintedTone | undefined)[] {
  return notes.map((note) => {
    const same = notes.filter((n) => n.string === note.string);
    if (same.length < LEAST_NOTES || !Number.isFinite(note.tone.brightness)) return undefined;
    const usual = median(same.map((n) => n.tone.brightness));
    const quiet = quantile(
      notes.map((n) => n.tone.noise),
      0.25,
    );
    const steady = quantile(
      notes.flatMap((n) => n.tone.unsteadiness ?? []),
      0.25,
    );
    const airy = (note.tone.noise - quiet) / BREATH;
    const glassy = (note.tone.brightness / usual - 1) / (BRIGHT - 1);
    const scratchy = ((note.tone.unsteadiness ?? steady) - steady) / UNSTEADY;
    const most = Math.max(airy, glassy, scratchy);
    if (!(most >= 1)) return { hint: 'centred', confidence: Math.min(0.7, 0.7 * (1 - Math.max(0, most) / 2)) };
    return { hint: most === airy ? 'airy' : most === glassy ? 'glassy' : 'scratchy', confidence: Math.min(0.7, 0.35 * most) };
  });
}

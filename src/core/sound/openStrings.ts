import type { Family } from '../instrument/family';

/**
 * Open strings from the lowest, Hz at A = 440, tuned in pure fifths from A (bass: in pure fourths); ISO 16 gives A,
 * the tuning in fifths and fourths is common practice, no source.
 */
export const OPEN_STRING_HZ: Record<Family, readonly number[]> = {
  violin: [(440 * 4) / 9, (440 * 2) / 3, 440, 440 * 1.5],
  viola: [(440 * 8) / 27, (440 * 4) / 9, (440 * 2) / 3, 440],
  cello: [(220 * 8) / 27, (220 * 4) / 9, (220 * 2) / 3, 220],
  bass: [55 * 0.75, 55, (55 * 4) / 3, (55 * 16) / 9],
};

/** Highest note asked of a beginner above an open string, semitones: the octave (ours). */
const HIGHEST_STOP = 12;
/** Above the fourth finger of first position a note is played on the next string, if there is one (common practice, no source). */
export const FIRST_POSITION: Record<Family, number> = { violin: 7, viola: 7, cello: 5, bass: 4 };

/** A pitch the instrument can play: so many semitones over its highest string that reaches it. */
export interface PlayablePitch {
  /** Hz at A = 440. */
  readonly hz: number;
  /** Index of the string from the lowest. */
  readonly string: number;
  /** Semitones over the open string, 0 = open. */
  readonly stop: number;
}

/** Open strings and stopped notes in semitones, from the lowest string up; each pitch stands once, on the highest string it lies on in first position. */
export function playablePitches(family: Family): PlayablePitch[] {
  const open = OPEN_STRING_HZ[family];
  return open.flatMap((base, string) => {
    const above = open[string + 1];
    const reach = above === undefined ? HIGHEST_STOP : Math.round(12 * Math.log2(above / base)) - 1;
    return Array.from({ length: reach + 1 }, (_, stop) => ({ hz: base * 2 ** (stop / 12), string, stop }));
  });
}

/** Strings on which a pitch can be played in first position: index from the lowest, and semitones over the open string. `hz` at A = 440. */
export function stringsFor(family: Family, hz: number): { string: number; stop: number }[] {
  return OPEN_STRING_HZ[family].flatMap((base, string) => {
    const stop = Math.round(12 * Math.log2(hz / base));
    const highest = string === OPEN_STRING_HZ[family].length - 1 ? HIGHEST_STOP : FIRST_POSITION[family];
    return stop >= 0 && stop <= highest ? [{ string, stop }] : [];
  });
}

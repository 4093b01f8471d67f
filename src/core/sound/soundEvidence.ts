import { type Family, STRINGS } from '../instrument/family';
import { stringsFor } from './openStrings';
import { inFilmTime, type TakeSound } from './takeSound';

/** What a note speaks against a string it cannot lie on, in one frame (chi squared, ours): well above what a picture says in a frame, below what no picture could outweigh. */
const AGAINST = 9;
/** The same pitch lies on the lower neighbour too, under the fourth finger: seldom with beginners (chi squared a frame, ours). */
const FOURTH_FINGER = 1.5;
/** Near its ends a note says nothing of the bow, which is already changing (seconds, ours). */
const ENDS = 0.06;
/** Without a known offset the ends are so much wider (seconds: what phones are off by). */
const UNKNOWN_OFFSET = 0.15;

/** A second string less sure than this does not speak of the bow's level (ours). */
const SURE = 0.5;

/** The two neighbouring strings heard at once in each frame, the lower first; undefined where one sounds, or none. `times` seconds of the frames. */
export function stringsTogether(sound: TakeSound, times: readonly number[]): (readonly [number, number] | undefined)[] {
  const seconds = inFilmTime(sound).seconds.filter((s) => s.confidence >= SURE && Math.abs(s.string - s.beside) === 1);
  return times.map((t) => {
    const now = seconds.find((s) => t >= s.from && t <= s.to);
    return now && [Math.min(now.string, now.beside), Math.max(now.string, now.beside)];
  });
}

/**
 * What the sound says against each string in each frame: costs (chi squared) by frame and string, undefined where it
 * says nothing. `times` seconds of the frames.
 */
export function soundEvidence(sound: TakeSound, family: Family, times: readonly number[]): (readonly number[] | undefined)[] {
  const { notes, seconds } = inFilmTime(sound);
  const ends = ENDS + (sound.late ? sound.late.u : UNKNOWN_OFFSET);
  const tuned = 2 ** (sound.heard.cents / 1200);
  return times.map((t) => {
    const note = notes.find((n) => t >= n.from + ends && t <= n.to - ends);
    if (!note || note.confidence < 0.3) return undefined;
    const possible = stringsFor(family, note.hz / tuned);
    if (possible.length === 0) return undefined;
    const also = seconds.filter((s) => t > s.from - ENDS && t < s.to + ENDS).map((s) => s.string);
    return STRINGS[family].map((_, string) => {
      if (string === note.string) return 0;
      if (also.includes(string)) return FOURTH_FINGER;
      return (possible.some((p) => p.string === string) ? FOURTH_FINGER : AGAINST) * note.confidence;
    });
  });
}

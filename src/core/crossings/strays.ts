import { type Family, STRINGS, sideSign } from '../instrument/family';
import type { FrameMeasures } from '../measures/measures';
import { nearestIndex } from '../nearestIndex';
import type { HeardNote, SecondString } from '../sound/heard';
import type { Crossing } from './crossings';

/** Why another string than the one meant sounded. */
export type StrayCause = 'early' | 'late' | 'too-high' | 'too-low';

/** A neighbouring string that sounded beside the one under way. Times in seconds of the film. */
export interface Stray {
  readonly from: number;
  readonly to: number;
  readonly string: string;
  /** Place on the bow, 0 frog .. 1 tip; absent where the bow was not seen. */
  readonly position?: number;
  readonly inCrossing: boolean;
  /** In a crossing: the bow came early or left late. Inside a string: the arm was too high or too low for it. */
  readonly why: StrayCause;
  /** 0..1 */
  readonly confidence: number;
}

/** A stray so near a crossing belongs to it (seconds, ours). */
const NEAR_CROSSING = 0.3;

/** From this share of its frames on the second string is the one that was meant (ours). */
const SEEN_ON_IT = 0.7;

/** Share of the frames of a stretch, of those with a string, that lie on one. */
function shareOn(string: string, frames: readonly FrameMeasures[], from: number, to: number): number {
  const there = frames.filter((f) => f.t >= from && f.t <= to && f.string !== undefined);
  return there.length > 0 ? there.filter((f) => f.string === string).length / there.length : 0;
}

/** Second strings heard, with where the bow was and why. `seconds` and `notes` in film time. */
export function straysOf(family: Family, frames: readonly FrameMeasures[], notes: readonly HeardNote[], seconds: readonly SecondString[], crossings: readonly Crossing[]): Stray[] {
  const names = STRINGS[family];
  const times = Float64Array.from(frames, (f) => f.t);
  return seconds.map((second): Stray => {
    const { from, to, confidence } = second;
    // Of two that sound, the one the bow is seen on was meant, however loud the other is.
    const seenOnIt = shareOn(names[second.string]!, frames, from, to) > SEEN_ON_IT;
    const [stray, meant] = seenOnIt ? [second.beside, second.string] : [second.string, second.beside];
    const string = names[stray]!;
    const position = frames.length > 0 ? frames[nearestIndex(times, (from + to) / 2)]!.values.bow_position?.value : undefined;
    // Come to or come from: the crossing next to it, or failing a picture, the change of note.
    const changes = [
      ...crossings.map((c) => ({ from: c.leaves, to: c.reaches, t: c.tNote ?? c.tBow })),
      ...notes.slice(1).map((n, i) => ({ from: names[notes[i]!.string]!, to: names[n.string]!, t: n.from })),
    ];
    const coming = changes.some((c) => c.to === string && c.t >= to - 0.05 && c.t - to < NEAR_CROSSING);
    const leaving = changes.some((c) => c.from === string && c.t <= from + 0.05 && from - c.t < NEAR_CROSSING);
    const inCrossing = coming || leaving;
    // On violin and viola the arm rises toward the lower strings, on cello and bass toward the higher.
    const towardLower = stray < meant;
    const why = coming ? 'early' : leaving ? 'late' : towardLower === (sideSign(family) === 1) ? 'too-high' : 'too-low';
    return { from, to, string, ...(position === undefined ? {} : { position }), inCrossing, why, confidence };
  });
}

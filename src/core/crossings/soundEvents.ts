import { stringLevels, stringLines } from '../instrument/strings';
import type { Measured } from '../measures/measures';
import type { HeardNote } from '../sound/heard';
import { inFilmTime } from '../sound/takeSound';
import type { TakeMeasures } from '../take/analyse';
import { armLag } from './armLag';
import { type Crossing, crossingsOf } from './crossings';
import { type Stray, straysOf } from './strays';

/** What sound and picture tell together. Times in seconds of the film. */
export interface SoundEvents {
  readonly notes: readonly HeardNote[];
  readonly crossings: readonly Crossing[];
  readonly strays: readonly Stray[];
  /** How much later the arm's level changes than the bow's, over the clip; absent where it cannot be told. */
  readonly lag: Measured | undefined;
}

/** Notes, crossings and stray strings of a take; `shift` (seconds, + = sound late) instead of the measured offset where the teacher gave one. */
export function soundEvents(take: Pick<TakeMeasures, 'family' | 'solution' | 'frames' | 'sound'>, shift?: number): SoundEvents {
  const { family, solution, frames, sound } = take;
  const names = stringLines(solution.model, family).map((l) => l.name);
  const { notes, seconds } = sound ? inFilmTime(sound, shift) : { notes: [], seconds: [] };
  const crossings = crossingsOf(frames, names, stringLevels(solution.model, family), notes);
  return { notes, crossings, strays: straysOf(family, frames, notes, seconds, crossings), lag: armLag(frames) };
}

import type { Family } from '../instrument/family';
import type { MarksSolution } from '../instrument/solveMarks';
import { stringLevels, stringLines } from '../instrument/strings';
import { type LevelTable, levelTable } from '../levels/levelTable';
import type { FrameMeasures, Measured } from '../measures/measures';
import { nearestIndex } from '../nearestIndex';
import type { HeardNote } from '../sound/heard';
import { inFilmTime, type TakeSound } from '../sound/takeSound';
import { type HintedTone, toneHints } from '../sound/toneWord';
import type { Stroke } from '../strokes/stroke';
import { type BowedNotes, bowedNotes } from '../strokes/strokeKinds';
import { type ArmCourse, armLag } from './armLag';
import { type CrossingPair, crossingPairs } from './crossingPairs';
import { type Crossing, crossingsOf } from './crossings';
import { type Stray, straysOf } from './strays';

/** The parts of a take that its events are told from. */
export interface SoundEventsInput {
  readonly family: Family;
  readonly solution: Pick<MarksSolution, 'model'>;
  readonly frames: readonly FrameMeasures[];
  readonly strokes: readonly Stroke[];
  readonly sound?: TakeSound | undefined;
  /** The bow arm in the pictures that were looked at. */
  readonly arms?: ArmCourse['arms'];
}

/** What sound and picture tell together. Times in seconds of the film. */
export interface SoundEvents {
  readonly notes: readonly HeardNote[];
  readonly crossings: readonly Crossing[];
  readonly strays: readonly Stray[];
  /** How much later the arm's level changes than the bow's, over the clip; absent where it cannot be told. */
  readonly lag: Measured | undefined;
  readonly levels: LevelTable;
  /** The crossings summed up by pair of strings and direction. */
  readonly pairs: readonly CrossingPair[];
  /** Notes of each bow: separate, stopped or slurred, and the share of bow each took. */
  readonly bows: readonly BowedNotes[];
  /** What each note's sound hints at, beside the picture. */
  readonly tones: readonly (HintedTone | undefined)[];
}

/** Notes, crossings and stray strings of a take; `shift` (seconds, + = sound late) instead of the measured offset where the teacher gave one. */
export function soundEvents(take: SoundEventsInput, shift?: number): SoundEvents {
  const { family, solution, frames, strokes, sound } = take;
  const names = stringLines(solution.model, family).map((l) => l.name);
  const { notes, seconds } = sound ? inFilmTime(sound, shift) : { notes: [], seconds: [] };
  const natural = stringLevels(solution.model, family);
  const crossings = crossingsOf(frames, names, natural, notes);
  const times = Float64Array.from(frames, (f) => f.t);
  const positionAt = (t: number) => frames[nearestIndex(times, t)]?.values.bow_position?.value;
  const levels = levelTable(frames, strokes, names, natural);
  return {
    notes,
    crossings,
    strays: straysOf(family, frames, notes, seconds, crossings),
    lag: armLag(take),
    levels,
    pairs: crossingPairs(frames, crossings, levels.steps, names, natural),
    bows: bowedNotes(strokes, notes, positionAt),
    tones: toneHints(notes),
  };
}

import type { Family } from '../instrument/family';
import type { Exercise } from './exercise';
import { exerciseByName } from './exercises';

/** Few things at once: so many foci a week at most (common practice, no source). */
export const MOST_FOCI = 2;
/** A day's practice beside the pieces, minutes (ours): from a beginner's five to twenty. */
export const MINUTES_A_DAY = [5, 8, 10, 15, 20] as const;
export const DAYS = 7;
/** The day without set exercises, counted from the first, and the one on which the next clip is filmed (ours). */
const FREE_DAY = 2;
const FILMING_DAY = DAYS - 1;
/** An exercise is not cut shorter than this (minutes, ours). */
const SHORTEST = 1;

/** What a week is about: a fault and the exercises that mend it, in the order they are tried. */
export interface Focus {
  readonly fault: string;
  readonly exercises: readonly string[];
}

export interface PlannedExercise {
  readonly exercise: Exercise;
  readonly minutes: number;
  /** The focus it serves. */
  readonly fault: string;
}

export interface PlannedDay {
  /** 0 the first day .. 6 the last. */
  readonly day: number;
  readonly items: readonly PlannedExercise[];
  readonly minutes: number;
  /** Nothing set: play what you like. */
  readonly free: boolean;
  /** The next clip is filmed. */
  readonly film: boolean;
}

export interface WeekPlan {
  readonly days: readonly PlannedDay[];
  /** Every exercise of the week, once, in the order they come. */
  readonly exercises: readonly Exercise[];
}

export interface PlanOptions {
  readonly family: Family;
  readonly minutesADay: number;
  /** Names of exercises the teacher took out. */
  readonly without?: readonly string[];
}

/**
 * A week's plan from at most {@link MOST_FOCI} foci: short and daily, the first exercise of each focus nearly every
 * day, the others by turns, within the minutes of a day; one free day, the clip filmed on the last.
 * @throws RangeError for more foci or no minutes.
 */
export function weekPlan(foci: readonly Focus[], { family, minutesADay, without = [] }: PlanOptions): WeekPlan {
  if (foci.length > MOST_FOCI) throw new RangeError(`A week has at most ${MOST_FOCI} foci, not ${foci.length}.`);
  if (!(minutesADay > 0)) throw new RangeError('A day needs some minutes to practise.');
  const chosen = foci.map((focus) => ({
    fault: focus.fault,
    exercises: focus.exercises.flatMap((name) => exerciseByName(name) ?? []).filter((e) => e.families.includes(family) && !without.includes(e.name)),
  }));
  const days = Array.from({ length: DAYS }, (_, day): PlannedDay => {
    const film = day === FILMING_DAY;
    if (day === FREE_DAY) return { day, items: [], minutes: 0, free: true, film };
    const wanted = chosen.flatMap(({ fault, exercises }, k): Omit<PlannedExercise, 'minutes'>[] => {
      const [first, ...others] = exercises;
      if (!first) return [];
      // The second focus begins with its other exercise on odd days, so that no two days are alike.
      const turn = others.length > 0 && (day + k) % 2 === 1 ? others[Math.floor(day / 2) % others.length] : undefined;
      return [{ exercise: first, fault }, ...(turn ? [{ exercise: turn, fault }] : [])];
    });
    const items = fitted(unique(wanted), minutesADay);
    return { day, items, minutes: items.reduce((sum, i) => sum + i.minutes, 0), free: false, film };
  });
  const exercises = [...new Map(days.flatMap((d) => d.items.map((i) => [i.exercise.name, i.exercise] as const))).values()];
  return { days, exercises };
}

function unique(items: readonly Omit<PlannedExercise, 'minutes'>[]): Omit<PlannedExercise, 'minutes'>[] {
  return items.filter((item, i) => items.findIndex((other) => other.exercise.name === item.exercise.name) === i);
}

/** Takes as many as fit, in order; what is left over shortens the last rather than leaving it out, down to a minute. */
function fitted(items: readonly Omit<PlannedExercise, 'minutes'>[], minutes: number): PlannedExercise[] {
  let left = minutes;
  return items.flatMap((item): PlannedExercise[] => {
    const own = Math.min(item.exercise.dose.minutes, Math.floor(left));
    if (own < SHORTEST) return [];
    left -= own;
    return [{ ...item, minutes: own }];
  });
}

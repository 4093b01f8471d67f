import { differenceInMonths, parseISO } from 'date-fns';
import type { Stage } from './rubric';

/** A first term lasts so many months, a first year so many (ours). */
const TERM = 4;
const YEAR = 12;

/** How far a student is who began on one day, on another (ISO dates): bands are wider at the start. */
export function stageOn(startedOn: string, day: string): Stage {
  const months = differenceInMonths(parseISO(day), parseISO(startedOn));
  return months < TERM ? 'first-term' : months < YEAR ? 'first-year' : 'later';
}

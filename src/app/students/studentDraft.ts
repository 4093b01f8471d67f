import { format } from 'date-fns';
import { sizesOf } from '../../core/instrument/dimensions';
import { MIDDLE_OF_STRIP } from '../../core/rubric/rubric';
import type { StudentRecord } from '../../store/records';

/** What is asked of a student. */
export type StudentDraft = Omit<StudentRecord, 'id'>;

export const newStudent = (): StudentDraft => ({
  name: '',
  family: 'violin',
  size: sizesOf('violin')[0]!,
  startedOn: format(new Date(), 'yyyy-MM-dd'),
  rubric: MIDDLE_OF_STRIP.id,
  place: '',
});

/** Whether nothing that must be known is missing. */
export const isComplete = (draft: StudentDraft): boolean => draft.name.trim().length > 0 && /^\d{4}-\d{2}-\d{2}$/.test(draft.startedOn);

/** As it is kept: no blanks about the words, no side where it is the usual one. */
export function recordOf(id: string, { side, ...draft }: StudentDraft): StudentRecord {
  return { ...draft, id, name: draft.name.trim(), place: draft.place.trim(), ...(side === 'left' ? { side } : {}) };
}

import { describe, expect, it } from 'vitest';
import { sizesOf } from '../../core/instrument/dimensions';
import { rubricById } from '../../core/rubric/rubric';
import { isComplete, newStudent, recordOf } from './studentDraft';

describe('what is asked of a student', () => {
  it('begins with the usual and lacks only the name', () => {
    const draft = newStudent();
    expect(sizesOf(draft.family)).toContain(draft.size);
    expect(rubricById(draft.rubric)).toBeDefined();
    expect(isComplete(draft)).toBe(false);
    expect(isComplete({ ...draft, name: '  ' })).toBe(false);
    expect(isComplete({ ...draft, name: 'Edda' })).toBe(true);
    expect(isComplete({ ...draft, name: 'Edda', startedOn: '' })).toBe(false);
  });

  it('is kept without blanks about it, and with a side only where it is not the usual one', () => {
    const draft = { ...newStudent(), name: ' Edda ', place: ' North Isle ' };
    expect(recordOf('s1', draft)).toMatchObject({ id: 's1', name: 'Edda', place: 'North Isle' });
    expect(recordOf('s1', { ...draft, side: 'right' })).not.toHaveProperty('side');
    expect(recordOf('s1', { ...draft, side: 'left' }).side).toBe('left');
  });
});

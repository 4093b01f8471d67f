import { nextVersion } from '../core/rubric/editing';
import { completed, RUBRICS, type Rubric, rubricById } from '../core/rubric/rubric';
import type { Database } from './database';

/** Every rubric at its newest version: the schools that come along, then the teacher's own by name. */
export async function listRubrics(db: Database): Promise<Rubric[]> {
  const newest = new Map<string, Rubric>();
  for (const rubric of await db.rubrics.toArray()) {
    const known = newest.get(rubric.id);
    if (!known || known.version < rubric.version) newest.set(rubric.id, rubric);
  }
  return [...RUBRICS, ...[...newest.values()].map(completed).sort((a, b) => a.name.localeCompare(b.name))];
}

/** Versions of a rubric of the teacher's own, oldest first. */
export const versionsOf = (db: Database, id: string): Promise<Rubric[]> => db.rubrics.where('id').equals(id).sortBy('version');

/** Keeps a rubric as a new one (version 1), or as the next version of one that is there. @throws RangeError for a school that came along: it is copied instead. */
export async function saveRubric(db: Database, rubric: Rubric): Promise<Rubric> {
  if (rubricById(rubric.id)) throw new RangeError('The schools that come along stay as they are. Make a copy and change that.');
  return db.transaction('rw', db.rubrics, async () => {
    const before = (await versionsOf(db, rubric.id)).at(-1);
    const kept = before ? nextVersion({ ...rubric, version: before.version }) : { ...rubric, version: 1 };
    await db.rubrics.put(kept);
    return kept;
  });
}

/** Gives up a rubric of the teacher's own. @throws RangeError while a student is judged by it. */
export async function deleteRubric(db: Database, id: string): Promise<void> {
  await db.transaction('rw', db.rubrics, db.students, async () => {
    const [student] = await db.students.filter((s) => s.rubric === id).toArray();
    if (student) throw new RangeError(`${student.name} is judged by it. Choose another rubric for ${student.name} first.`);
    await db.rubrics.where('id').equals(id).delete();
  });
}

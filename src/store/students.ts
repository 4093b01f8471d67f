import type { Database } from './database';
import type { StudentRecord } from './records';

export const listStudents = (db: Database): Promise<StudentRecord[]> => db.students.orderBy('name').toArray();

/** Writes a student, new or changed. */
export async function saveStudent(db: Database, student: StudentRecord): Promise<void> {
  await db.students.put(student);
}

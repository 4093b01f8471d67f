import type { Marks } from '../core/formats/marks';
import type { TakeMeasures } from '../core/take/analyse';
import type { Task } from '../core/take/task';
import type { Database } from './database';
import type { FilmRecord, MeasuresRecord, PlanRecord, StudentRecord, TakeRecord, Verdict, VerdictRecord } from './records';

export interface TakeWithStudent {
  readonly take: TakeRecord;
  readonly student: StudentRecord;
}

export async function listTakes(db: Database): Promise<TakeWithStudent[]> {
  const [takes, students] = await Promise.all([db.takes.orderBy('filmedOn').reverse().toArray(), db.students.toArray()]);
  const byId = new Map(students.map((s) => [s.id, s]));
  return takes.flatMap((take) => {
    const student = byId.get(take.studentId);
    return student ? [{ take, student }] : [];
  });
}

export async function findTake(db: Database, id: string): Promise<TakeWithStudent | null> {
  const take = await db.takes.get(id);
  const student = take && (await db.students.get(take.studentId));
  return take && student ? { take, student } : null;
}

/** Takes a film in. The film and its record are written together or not at all. */
export async function addTake(
  db: Database,
  input: { studentId: string; title: string; filmedOn: string; film: FilmRecord; blob: Blob; marks?: Marks; id?: string },
): Promise<string> {
  const { blob, id = crypto.randomUUID(), ...rest } = input;
  await db.transaction('rw', db.takes, db.media, async () => {
    await db.media.put({ takeId: id, blob });
    await db.takes.put({ id, ...rest });
  });
  return id;
}

export const filmOf = async (db: Database, takeId: string): Promise<Blob | null> => (await db.media.get(takeId))?.blob ?? null;

export async function saveMarks(db: Database, takeId: string, marks: Marks | undefined): Promise<void> {
  await db.takes
    .where('id')
    .equals(takeId)
    .modify((take) => {
      const writable = take as { marks?: Marks };
      if (marks) writable.marks = marks;
      else delete writable.marks;
    });
}

/** How the week after a take is planned. */
export async function savePlan(db: Database, takeId: string, plan: PlanRecord): Promise<void> {
  await db.takes.update(takeId, { plan });
}

/** What is played in a take. */
export async function saveTask(db: Database, takeId: string, task: Task): Promise<void> {
  await db.takes.update(takeId, { task });
}

/** The teacher's own offset of the sound (seconds, + = sound late); undefined goes back to the measured one. */
export async function saveSoundShift(db: Database, takeId: string, shift: number | undefined): Promise<void> {
  await db.takes
    .where('id')
    .equals(takeId)
    .modify((take) => {
      const writable = take as { soundShift?: number };
      if (shift === undefined) delete writable.soundShift;
      else writable.soundShift = shift;
    });
}

export const measuresOf = async (db: Database, takeId: string): Promise<MeasuresRecord | null> => (await db.measures.get(takeId)) ?? null;

export async function saveMeasures(db: Database, takeId: string, marks: Marks, measures: TakeMeasures): Promise<void> {
  await db.measures.put({ takeId, marks, measures });
}

export const verdictsOf = (db: Database, takeId: string): Promise<VerdictRecord[]> => db.verdicts.where('takeId').equals(takeId).toArray();

/** Writes what is given and keeps the rest; an undefined verdict takes it back. */
export async function saveVerdict(
  db: Database,
  takeId: string,
  fault: string,
  change: { verdict?: Verdict | undefined; note?: string | undefined; focus?: boolean | undefined },
): Promise<void> {
  await db.transaction('rw', db.verdicts, async () => {
    const before = await db.verdicts.get([takeId, fault]);
    const merged = { ...before, ...change };
    const { verdict, note, focus } = merged;
    await db.verdicts.put({ takeId, fault, ...(verdict ? { verdict } : {}), ...(note ? { note } : {}), ...(focus ? { focus } : {}) });
  });
}

/** Deletes a take with its film, measures and verdicts. */
export async function deleteTake(db: Database, takeId: string): Promise<void> {
  await db.transaction('rw', db.takes, db.media, db.measures, db.verdicts, async () => {
    await db.verdicts.where('takeId').equals(takeId).delete();
    await db.measures.delete(takeId);
    await db.media.delete(takeId);
    await db.takes.delete(takeId);
  });
}

/** A take with what was measured in it. */
export interface MeasuredTake {
  readonly take: TakeRecord;
  readonly record: MeasuresRecord;
}

/** A student's measured takes, oldest first. */
export async function measuredTakesOf(db: Database, studentId: string): Promise<MeasuredTake[]> {
  const takes = await db.takes.where('studentId').equals(studentId).sortBy('filmedOn');
  const records = await db.measures.bulkGet(takes.map((t) => t.id));
  return takes.flatMap((take, i) => (records[i] ? [{ take, record: records[i] }] : []));
}

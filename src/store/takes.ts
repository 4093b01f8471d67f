import type { Marks } from '../core/formats/marks';
import type { Stage } from '../core/rubric/rubric';
import { stageOn } from '../core/rubric/stage';
import type { TakeMeasures } from '../core/take/analyse';
import type { Task } from '../core/take/task';
import type { Database } from './database';
import type { FilmRecord, MeasuresRecord, PlanRecord, StartRecord, StudentRecord, TakeRecord, VerdictRecord } from './records';

export interface TakeWithStudent {
  readonly take: TakeRecord;
  readonly student: StudentRecord;
}

/** How far the student was when the take was filmed. */
export const stageIn = ({ take, student }: TakeWithStudent): Stage => stageOn(student.startedOn, take.filmedOn);

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

/** Puts fields of a take; what is undefined is taken out. */
async function putFields(db: Database, takeId: string, fields: { readonly [Field in keyof TakeRecord]?: TakeRecord[Field] | undefined }): Promise<void> {
  await db.takes
    .where('id')
    .equals(takeId)
    .modify((take) => {
      Object.assign(take, fields);
      for (const [name, value] of Object.entries(fields)) if (value === undefined) delete (take as Partial<TakeRecord>)[name as keyof TakeRecord];
    });
}

export const saveMarks = (db: Database, takeId: string, marks: Marks | undefined): Promise<void> => putFields(db, takeId, { marks });

/** What looking for the instrument came to. */
export async function saveStart(db: Database, takeId: string, start: StartRecord): Promise<void> {
  await db.takes.update(takeId, { start });
}

/** Takes nobody has marked or looked at yet, the newest first. */
export const takesToStart = async (db: Database): Promise<TakeRecord[]> => (await db.takes.orderBy('filmedOn').reverse().toArray()).filter((take) => !take.marks && !take.start);

/** The next take, other than this one, whose instrument was found and waits for a look. */
export const nextToConfirm = async (db: Database, takeId: string): Promise<TakeRecord | undefined> =>
  (await db.takes.orderBy('filmedOn').reverse().toArray()).find((take) => take.id !== takeId && !take.marks && take.start && 'candidates' in take.start);

/** The newest other take of the same student, filmed in the same shape, that is marked: a phone often stands where it stood. Undefined where there is none. */
export async function lastMarked(db: Database, takeId: string): Promise<TakeRecord | undefined> {
  const take = await db.takes.get(takeId);
  if (!take) return undefined;
  const others = await db.takes.where('studentId').equals(take.studentId).sortBy('filmedOn');
  return others.reverse().find((t) => t.id !== takeId && t.marks && t.film.width === take.film.width && t.film.height === take.film.height);
}

/** How the week after a take is planned. */
export async function savePlan(db: Database, takeId: string, plan: PlanRecord): Promise<void> {
  await db.takes.update(takeId, { plan });
}

/** What is played in a take. */
export async function saveTask(db: Database, takeId: string, task: Task): Promise<void> {
  await db.takes.update(takeId, { task });
}

/** How far the lens was zoomed; undefined where the teacher cannot say. What was found in the film with another lens in mind is forgotten. */
export const saveZoom = (db: Database, takeId: string, zoom: number | undefined): Promise<void> => putFields(db, takeId, { zoom, start: undefined });

/** The teacher's own offset of the sound (seconds, + = sound late); undefined goes back to the measured one. */
export const saveSoundShift = (db: Database, takeId: string, shift: number | undefined): Promise<void> => putFields(db, takeId, { soundShift: shift });

export const measuresOf = async (db: Database, takeId: string): Promise<MeasuresRecord | null> => (await db.measures.get(takeId)) ?? null;

export async function saveMeasures(db: Database, takeId: string, marks: Marks, measures: TakeMeasures): Promise<void> {
  await db.measures.put({ takeId, marks, measures });
}

export const verdictsOf = (db: Database, takeId: string): Promise<VerdictRecord[]> => db.verdicts.where('takeId').equals(takeId).toArray();

/** Writes what is given and keeps the rest; an undefined field takes it back. */
export async function saveVerdict(
  db: Database,
  takeId: string,
  fault: string,
  change: { [K in keyof Omit<VerdictRecord, 'takeId' | 'fault'>]?: VerdictRecord[K] | undefined },
): Promise<void> {
  await db.transaction('rw', db.verdicts, async () => {
    const merged = { ...(await db.verdicts.get([takeId, fault])), ...change, takeId, fault };
    const kept = Object.fromEntries(Object.entries(merged).filter(([, value]) => value !== undefined && value !== '' && value !== false));
    await db.verdicts.put(kept as unknown as VerdictRecord);
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

/** The measured take of the same student and task before this one; null where there is none. */
export async function takeBefore(db: Database, takeId: string): Promise<MeasuredTake | null> {
  const take = await db.takes.get(takeId);
  if (!take) return null;
  const task = (t: TakeRecord) => t.task ?? 'ordinary';
  const earlier = (await db.takes.where('studentId').equals(take.studentId).sortBy('filmedOn')).filter(
    (t) => t.id !== takeId && t.filmedOn < take.filmedOn && task(t) === task(take),
  );
  for (const candidate of earlier.reverse()) {
    const record = await db.measures.get(candidate.id);
    if (record) return { take: candidate, record };
  }
  return null;
}

/** The newest measured takes with their students and the teacher's words on them, newest first. */
export async function judgedTakes(db: Database, most: number): Promise<(TakeWithStudent & { readonly record: MeasuresRecord; readonly verdicts: VerdictRecord[] })[]> {
  const out = [];
  for (const entry of await listTakes(db)) {
    if (out.length >= most) break;
    const record = await db.measures.get(entry.take.id);
    if (record) out.push({ ...entry, record, verdicts: await verdictsOf(db, entry.take.id) });
  }
  return out;
}

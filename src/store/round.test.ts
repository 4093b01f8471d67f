import 'fake-indexeddb/auto';
import { describe, expect, it } from 'vitest';
import { changeBand, copyRubric } from '../core/rubric/editing';
import { MIDDLE_OF_STRIP } from '../core/rubric/rubric';
import { Database } from './database';
import type { StudentRecord, TakeRecord } from './records';
import { listPlaces, needOf, roundOf, saveVisit } from './round';
import { deleteRubric, listRubrics, saveRubric, versionsOf } from './rubrics';

const student = (id: string, place: string): StudentRecord => ({ id, name: id, family: 'violin', size: '4/4', startedOn: '2024-09-02', rubric: 'middle-of-strip', place });
const film = { width: 1280, height: 720, frames: 100, duration: 4, hasSound: true };
const entry = (id: string, place: string, take: Partial<TakeRecord> = {}) => ({
  student: student(`s-${place}`, place),
  take: { id, studentId: 's', title: id, filmedOn: '2026-11-10', film, ...take },
});
const marks = { format: 'gestometra-marks/1', video: { width: 1, height: 1 }, instrument: { family: 'violin', size: '4/4' }, frames: [] } as unknown as NonNullable<
  TakeRecord['marks']
>;

describe('the round', () => {
  const takes = [
    entry('done', 'Orrey', { reviewedAt: '2026-11-20' }),
    entry('old', 'Orrey', { filmedOn: '2026-11-02' }),
    entry('new', 'Orrey', { filmedOn: '2026-11-12' }),
    entry('far', 'Skarva'),
    entry('near', 'Quernsay'),
  ];

  it('goes by the next visits, past and unplanned ones last', () => {
    const stops = roundOf(
      takes,
      [
        { place: 'Quernsay', nextVisit: '2026-12-01' },
        { place: 'Skarva', nextVisit: '2026-11-01' },
        { place: 'Orrey', nextVisit: '2026-11-28' },
      ],
      new Set(),
      '2026-11-26',
    );
    expect(stops.map((s) => s.place)).toEqual(['Orrey', 'Quernsay', 'Skarva']);
    expect(stops[0]!.waiting).toBe(2);
  });

  it('puts what can be judged first and what is done last', () => {
    const [orrey] = roundOf(takes, [{ place: 'Orrey', nextVisit: '2026-11-28' }], new Set(['old', 'done']), '2026-11-26');
    expect(orrey!.takes.map((t) => t.take.id)).toEqual(['old', 'new', 'done']);
  });

  it('tells what each take needs', () => {
    const need = (take: Partial<TakeRecord>, measured: string[] = []) => needOf(entry('x', 'Orrey', take), new Set(measured));
    expect([
      need({}),
      need({ marks }),
      need({ marks }, ['x']),
      need({ start: { candidates: [] } }),
      need({ start: { refused: 'edge-on' } }),
      need({ reviewedAt: '2026-11-20' }, ['x']),
    ]).toEqual(['mark', 'measure', 'judge', 'confirm', 'mark', 'nothing']);
  });

  it('keeps the day of a visit, and forgets it', async () => {
    const db = new Database('round');
    await saveVisit(db, 'Orrey', '2026-12-01');
    expect(await listPlaces(db)).toEqual([{ place: 'Orrey', nextVisit: '2026-12-01' }]);
    await saveVisit(db, 'Orrey', undefined);
    expect(await listPlaces(db)).toEqual([{ place: 'Orrey' }]);
  });
});

describe("rubrics of the teacher's own", () => {
  it('keep every version and offer the newest', async () => {
    const db = new Database('rubrics');
    const own = await saveRubric(db, copyRubric(MIDDLE_OF_STRIP, 'mine', 'Mine'));
    const next = await saveRubric(db, changeBand(own, 'skew', { fault: 14 }));
    expect([own.version, next.version]).toEqual([1, 2]);
    expect((await versionsOf(db, 'mine')).map((r) => r.bands.skew.fault)).toEqual([10, 14]);
    expect((await listRubrics(db)).at(-1)).toEqual(next);
  });

  it('leave the schools alone, and are not given up under a student', async () => {
    const db = new Database('rubrics-kept');
    await expect(saveRubric(db, MIDDLE_OF_STRIP)).rejects.toThrow('Make a copy');
    await saveRubric(db, copyRubric(MIDDLE_OF_STRIP, 'mine', 'Mine'));
    await db.students.put({ ...student('odda', 'Orrey'), rubric: 'mine' });
    await expect(deleteRubric(db, 'mine')).rejects.toThrow('odda is judged by it');
    await db.students.update('odda', { rubric: 'middle-of-strip' });
    await deleteRubric(db, 'mine');
    expect(await versionsOf(db, 'mine')).toEqual([]);
  });
});

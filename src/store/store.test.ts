import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import Dexie from 'dexie';
import { beforeEach, describe, expect, it } from 'vitest';
import { parseMarks } from '../core/formats/marks';
import { stageOn } from '../core/rubric/stage';
import type { TakeMeasures } from '../core/take/analyse';
import { Database } from './database';
import { loadDemo } from './demo';
import { addTake, deleteTake, filmOf, findTake, lastMarked, listTakes, saveMarks, saveMeasures, saveStart, saveTask, saveVerdict, saveZoom, takeBefore, verdictsOf } from './takes';

let db: Database;
let count = 0;
beforeEach(async () => {
  db = new Database(`test-${count++}`);
  await db.students.put({ id: 's', name: 'Odda', family: 'violin', size: '3/4', startedOn: '2026-01-12', rubric: 'middle-of-strip', place: 'Torvane' });
});

const film = { width: 1280, height: 720, frames: 210, duration: 8.4, hasSound: true };
const add = () => addTake(db, { studentId: 's', title: 'long bows', filmedOn: '2026-11-10', film, blob: new Blob(['film']) });

describe('takes', () => {
  it('are kept with their film and listed with their student, newest first', async () => {
    const id = await add();
    await addTake(db, { studentId: 's', title: 'scale', filmedOn: '2026-11-17', film, blob: new Blob(['x']) });
    const list = await listTakes(db);
    expect(list.map((t) => t.take.title)).toEqual(['scale', 'long bows']);
    expect(list[0]!.student.name).toBe('Odda');
    expect(await filmOf(db, id)).not.toBeNull();
    expect(await findTake(db, 'nobody')).toBeNull();
  });

  it('keep the lens they were filmed with, and forget what was found with another in mind', async () => {
    const id = await add();
    await saveStart(db, id, { refused: 'edge-on' });
    await saveZoom(db, id, 0.5);
    const { take } = (await findTake(db, id))!;
    expect(take.zoom).toBe(0.5);
    expect('start' in take).toBe(false);
    await saveZoom(db, id, undefined);
    expect('zoom' in (await findTake(db, id))!.take).toBe(false);
  });

  it('keep marks, and give them up again', async () => {
    const id = await add();
    const marks = parseMarks(readFileSync('demo/ilvi-tube-glide.marks.json', 'utf8'));
    await saveMarks(db, id, marks);
    expect((await findTake(db, id))!.take.marks).toEqual(marks);
    await saveMarks(db, id, undefined);
    expect('marks' in (await findTake(db, id))!.take).toBe(false);
  });

  it('keep verdict and note apart: changing one leaves the other', async () => {
    const id = await add();
    await saveVerdict(db, id, 'tip-to-scroll', { verdict: 'confirmed' });
    await saveVerdict(db, id, 'tip-to-scroll', { note: 'mirror first' });
    expect(await verdictsOf(db, id)).toEqual([{ takeId: id, fault: 'tip-to-scroll', verdict: 'confirmed', note: 'mirror first' }]);
    await saveVerdict(db, id, 'tip-to-scroll', { verdict: undefined });
    expect(await verdictsOf(db, id)).toEqual([{ takeId: id, fault: 'tip-to-scroll', note: 'mirror first' }]);
  });

  it('know the take before them, and whose marks may hold for them', async () => {
    const [first, other] = [await add(), await add()];
    const now = await addTake(db, { studentId: 's', title: 'scale', filmedOn: '2026-11-17', film, blob: new Blob(['x']) });
    expect([await takeBefore(db, now), await lastMarked(db, now)]).toEqual([null, undefined]);
    const marks = parseMarks(readFileSync('demo/ilvi-tube-glide.marks.json', 'utf8'));
    await saveMarks(db, first, marks);
    await saveMeasures(db, first, marks, { frames: [], strokes: [] } as unknown as TakeMeasures);
    await saveMeasures(db, other, marks, { frames: [], strokes: [] } as unknown as TakeMeasures);
    await saveTask(db, other, 'silent');
    expect((await takeBefore(db, now))!.take.id).toBe(first);
    expect((await lastMarked(db, now))!.id).toBe(first);
    // A film of another shape was taken with the phone held otherwise.
    const upright = await addTake(db, { studentId: 's', title: 'upright', filmedOn: '2026-11-18', film: { ...film, width: 720, height: 1280 }, blob: new Blob(['x']) });
    expect(await lastMarked(db, upright)).toBeUndefined();
  });

  it('are deleted with film, measures and verdicts', async () => {
    const id = await add();
    await saveVerdict(db, id, 'at-bridge', { verdict: 'dismissed' });
    await deleteTake(db, id);
    expect([await findTake(db, id), await filmOf(db, id), await verdictsOf(db, id)]).toEqual([null, null, []]);
  });
});

describe('demo', () => {
  const serve = async (path: string) => {
    const body = readFileSync(path.replace(/^\//, ''));
    return new Response(body, { headers: { 'content-type': path.endsWith('.json') ? 'application/json' : 'video/mp4' } });
  };
  it('fills an empty database once, and nothing that is in use', async () => {
    expect(await loadDemo(db, serve)).toEqual([]);
    const fresh = new Database(`fresh-${count}`);
    const ids = await loadDemo(fresh, serve);
    expect(ids.slice(0, 2)).toEqual(['ilvi-long-bows', 'ilvi-tube-glide']);
    expect(await loadDemo(fresh, serve)).toEqual([]);
    const takes = await listTakes(fresh);
    expect(
      takes
        .filter((t) => t.take.marks)
        .map((t) => t.take.id)
        .sort(),
    ).toEqual([...ids].sort());
    expect(takes.length).toBeGreaterThan(ids.length);
    expect(new Set(takes.map((t) => t.student.id)).size).toBe(8);
    expect(new Set(takes.map((t) => t.student.place)).size).toBe(3);
    // Close-ups and views from the side come without marks.
    expect(takes.filter((t) => !t.take.marks).length).toBeLessThan(takes.length / 3);
  });
  it('is not there when the server offers none', async () => {
    const fresh = new Database(`none-${count}`);
    expect(await loadDemo(fresh, async () => new Response('<!doctype html>', { headers: { 'content-type': 'text/html' } }))).toEqual([]);
  });
});

describe('students kept with their stage alone', () => {
  it('are given a likely day of their start', async () => {
    const old = new Dexie('older');
    old.version(2).stores({
      students: 'id, name',
      takes: 'id, studentId, filmedOn',
      media: 'takeId',
      measures: 'takeId',
      verdicts: '[takeId+fault], takeId',
      rubrics: '[id+version], id',
      places: 'place',
    });
    await old
      .table('students')
      .bulkPut(['first-term', 'first-year', 'later'].map((stage) => ({ id: stage, name: stage, family: 'violin', size: '4/4', stage, rubric: 'middle-of-strip', place: '' })));
    old.close();
    const now = new Database('older');
    const today = new Date().toISOString().slice(0, 10);
    for (const student of await now.students.toArray()) {
      expect(stageOn(student.startedOn, today)).toBe(student.id);
      expect(student).not.toHaveProperty('stage');
    }
  });
});

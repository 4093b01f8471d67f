import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Marks } from '../../../core/formats/marks';
import { database } from '../../../store/database';
import { addTake, saveMarks, saveZoom } from '../../../store/takes';
import type { Start } from '../../../vision/start/findStart';
import { type Finder, Starting } from './starting';

const film = { width: 1280, height: 720, frames: 100, duration: 4, hasSound: true };
const marks = { format: 'gestometra-marks/1', video: { width: 1280, height: 720 }, instrument: { family: 'violin', size: '4/4' }, frames: [] } as unknown as Marks;

/** A worker under the test's hand. */
function finders() {
  const asked: { instrument: unknown; settle: (outcome: Start | Error) => void; told: (done: number, total: number, again: boolean) => void }[] = [];
  let [opened, closed, prepared] = [0, 0, 0];
  const open = (): Finder => {
    opened++;
    return {
      api: {
        find: (_blob: unknown, instrument: unknown, told: unknown) =>
          new Promise<Start>((resolve, reject) => {
            asked.push({ instrument, settle: (outcome) => (outcome instanceof Error ? reject(outcome) : resolve(outcome)), told: told as never });
          }),
        prepare: async () => {
          prepared++;
        },
      } as unknown as Finder['api'],
      close: () => {
        closed++;
      },
    };
  };
  return { open, asked, counts: () => ({ opened, closed }), prepared: () => prepared };
}

const take = (id: string, filmedOn = '2026-11-10') => addTake(database, { id, studentId: 's', title: id, filmedOn, film, blob: new Blob(['film']) });
const startOf = async (id: string) => (await database.takes.get(id))!.start;
const found = { candidates: [{ marks }] } as unknown as Start;
const refused = { refused: 'edge-on' } as unknown as Start;

beforeEach(async () => {
  await Promise.all(database.tables.map((table) => table.clear()));
  await database.students.put({ id: 's', name: 'Odda', family: 'viola', size: '15', startedOn: '2026-01-12', rubric: 'middle-of-strip', place: 'Torvane', side: 'left' } as never);
});

describe('the row of takes in which the instrument is looked for', () => {
  it('looks once more where the lens is named while it is looked for', async () => {
    await take('a');
    const { open, asked } = finders();
    new Starting(open).enqueue('a');
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    await saveZoom(database, 'a', 0.5);
    asked[0]!.settle(refused);
    await vi.waitFor(() => expect(asked).toHaveLength(2));
    expect(asked[1]!.instrument).toMatchObject({ zoom: 0.5 });
    expect(await startOf('a')).toBeUndefined();
    asked[1]!.settle(found);
    await vi.waitFor(async () => expect(await startOf('a')).toEqual({ candidates: [marks] }));
  });

  it('keeps what was found and why nothing was, for the student’s own instrument', async () => {
    await Promise.all([take('a'), take('b')]);
    const { open, asked, counts } = finders();
    const row = new Starting(open);
    row.enqueue('a');
    row.enqueue('b');
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    expect(asked[0]!.instrument).toEqual({ family: 'viola', size: '15', side: 'left' });
    asked[0]!.told(2, 6, true);
    expect(row.snapshot().get('a')).toEqual({ kind: 'running', done: 2, total: 6, again: true });
    asked[0]!.settle(found);
    await vi.waitFor(() => expect(asked).toHaveLength(2));
    asked[1]!.settle(refused);
    await vi.waitFor(() => expect(row.snapshot().size).toBe(0));
    expect(await startOf('a')).toEqual({ candidates: [marks] });
    expect(await startOf('b')).toEqual({ refused: 'edge-on' });
    await vi.waitFor(() => expect(counts()).toEqual({ opened: 1, closed: 1 }));
  });
  it('has its networks loaded ahead where a take is about to come, and lets them go where none does', async () => {
    await take('a');
    const { open, asked, counts, prepared } = finders();
    const row = new Starting(open);
    row.prepare();
    expect([prepared(), counts()]).toEqual([1, { opened: 1, closed: 0 }]);
    row.enqueue('a');
    row.rest();
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    expect(counts()).toEqual({ opened: 1, closed: 0 });
    asked[0]!.settle(found);
    await vi.waitFor(() => expect(counts()).toEqual({ opened: 1, closed: 1 }));
    // Prepared in vain.
    row.prepare();
    row.rest();
    expect(counts()).toEqual({ opened: 2, closed: 2 });
  });
  it('passes over what was marked or deleted in the meantime', async () => {
    await Promise.all([take('marked'), take('gone'), take('left')]);
    const { open, asked } = finders();
    const row = new Starting(open);
    await saveMarks(database, 'marked', marks);
    await database.takes.delete('gone');
    for (const id of ['marked', 'gone', 'left']) row.enqueue(id);
    await vi.waitFor(() => expect(row.snapshot().get('left')?.kind).toBe('running'));
    expect(asked).toHaveLength(1);
    expect([...row.snapshot().keys()]).toEqual(['left']);
  });
  it('looks first at what is opened, and goes on after a worker that broke', async () => {
    await Promise.all([take('a'), take('b'), take('c')]);
    const { open, asked, counts } = finders();
    const row = new Starting(open);
    for (const id of ['a', 'b', 'c']) row.enqueue(id);
    row.enqueue('c', 'next');
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    const quiet = vi.spyOn(console, 'warn').mockImplementation(() => undefined);
    asked[0]!.settle(new Error('no memory'));
    await vi.waitFor(() => expect(asked).toHaveLength(2));
    quiet.mockRestore();
    expect(row.snapshot().get('a')).toEqual({ kind: 'failed' });
    expect(row.snapshot().get('c')?.kind).toBe('running');
    expect(row.snapshot().get('b')).toEqual({ kind: 'waiting' });
    expect(counts()).toEqual({ opened: 2, closed: 1 });
    expect(await startOf('a')).toBeUndefined();
  });
  it('takes up after a reload what nobody has looked at, the newest first', async () => {
    await Promise.all([take('old', '2026-11-01'), take('new', '2026-11-20'), take('marked'), take('looked')]);
    await saveMarks(database, 'marked', marks);
    await database.takes.update('looked', { start: { refused: 'edge-on' } } as never);
    const { open, asked } = finders();
    const row = new Starting(open);
    await row.resume();
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    expect(row.snapshot().get('new')?.kind).toBe('running');
    expect([...row.snapshot().keys()].sort()).toEqual(['new', 'old']);
  });
});

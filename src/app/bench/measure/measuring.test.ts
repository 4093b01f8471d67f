import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { Marks } from '../../../core/formats/marks';
import type { TakeMeasures } from '../../../core/take/analyse';
import { database } from '../../../store/database';
import { addTake, measuresOf, saveMarks } from '../../../store/takes';
import { CANCELLED } from '../../../vision/workers/plainError';
import { type Measurer, Measuring } from './measuring';

vi.hoisted(() => {
  const kept = new Map<string, string>();
  vi.stubGlobal('localStorage', { getItem: (key: string) => kept.get(key) ?? null, setItem: (key: string, value: string) => kept.set(key, value), clear: () => kept.clear() });
});

const film = { width: 1280, height: 720, frames: 100, duration: 4, hasSound: true };
const marks = { format: 'gestometra-marks/1', video: { width: 1280, height: 720 }, instrument: { family: 'violin', size: '4/4' }, frames: [] } as unknown as Marks;
const MEASURES = { frames: [] } as unknown as TakeMeasures;

/** A worker under the test's hand: what it was asked for, and how each asking ends. */
function workers() {
  const asked: { settle: (outcome?: Error) => void; told: (done: number, total: number) => void }[] = [];
  let [opened, closed] = [0, 0];
  const open = (): Measurer => {
    opened++;
    return {
      api: {
        measure: (_blob: unknown, _marks: unknown, _before: unknown, _task: unknown, told: unknown) =>
          new Promise<TakeMeasures>((resolve, reject) => {
            asked.push({ settle: (error) => (error ? reject(error) : resolve(MEASURES)), told: told as (done: number, total: number) => void });
          }),
        cancel: async () => asked.at(-1)!.settle(new Error(CANCELLED)),
      } as unknown as Measurer['api'],
      close: () => {
        closed++;
      },
    };
  };
  return { open, asked, counts: () => ({ opened, closed }) };
}

const take = async (id: string, marked = true) => {
  await addTake(database, { id, studentId: 's', title: id, filmedOn: '2026-11-10', film, blob: new Blob(['film']) });
  if (marked) await saveMarks(database, id, marks);
};
const wanted = async (id: string) => (await database.takes.get(id))!.measureWanted;

beforeEach(async () => {
  localStorage.clear();
  await Promise.all(database.tables.map((table) => table.clear()));
  await database.students.put({ id: 's', name: 'Odda', family: 'violin', size: '4/4', startedOn: '2026-01-12', rubric: 'middle-of-strip', place: 'Torvane' });
});

describe('the row of takes to be measured', () => {
  it('measures one after the other with one worker, tells how far each is, and lets the worker go at the end', async () => {
    await Promise.all(['a', 'b'].map((id) => take(id)));
    const { open, asked, counts } = workers();
    const row = new Measuring(open);
    row.enqueue('a');
    row.enqueue('b');
    row.enqueue('a');
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    expect(row.snapshot().get('b')).toEqual({ kind: 'waiting' });
    asked[0]!.told(50, 100);
    const running = row.snapshot().get('a')!;
    expect(running).toMatchObject({ kind: 'running', done: 50, total: 100 });
    expect(running.kind === 'running' && running.secondsLeft).toBeGreaterThanOrEqual(0);
    asked[0]!.settle();
    await vi.waitFor(() => expect(asked).toHaveLength(2));
    asked[1]!.settle();
    await vi.waitFor(() => expect(row.snapshot().size).toBe(0));
    expect(asked).toHaveLength(2);
    expect(await measuresOf(database, 'a')).not.toBeNull();
    expect(counts()).toEqual({ opened: 1, closed: 1 });
    expect([await wanted('a'), await wanted('b')]).toEqual([false, false]);
  });
  it('goes on after one that fails, with a fresh worker, and keeps what was wrong until it is read', async () => {
    await Promise.all(['a', 'b'].map((id) => take(id)));
    const { open, asked, counts } = workers();
    const row = new Measuring(open);
    row.enqueue('a');
    row.enqueue('b');
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    asked[0]!.settle(new Error('no room'));
    await vi.waitFor(() => expect(asked).toHaveLength(2));
    expect(row.snapshot().get('a')).toEqual({ kind: 'failed', message: 'no room' });
    expect(counts().opened).toBe(2);
    row.forget('b');
    expect(row.snapshot().get('b')?.kind).toBe('running');
    row.forget('a');
    expect(row.snapshot().has('a')).toBe(false);
    expect(await measuresOf(database, 'a')).toBeNull();
  });
  it('says what to do about a take without marks, and troubles no worker', async () => {
    await take('bare', false);
    const { open, asked } = workers();
    const row = new Measuring(open);
    row.enqueue('bare');
    await vi.waitFor(() => expect(row.snapshot().get('bare')).toMatchObject({ kind: 'failed', message: expect.stringContaining('Mark the instrument') }));
    expect(asked).toHaveLength(0);
  });
  it('stops the one under way without a complaint, and drops one that waits', async () => {
    await Promise.all(['a', 'b', 'c'].map((id) => take(id)));
    const { open, asked } = workers();
    const row = new Measuring(open);
    for (const id of ['a', 'b', 'c']) row.enqueue(id);
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    row.cancel('b');
    expect(row.snapshot().has('b')).toBe(false);
    row.cancel('a');
    await vi.waitFor(() => expect(asked).toHaveLength(2));
    expect(row.snapshot().has('a')).toBe(false);
    expect(row.snapshot().get('c')?.kind).toBe('running');
  });
  it('measures again what was asked for while it was being stopped', async () => {
    await take('a');
    const { open, asked } = workers();
    const row = new Measuring(open);
    row.enqueue('a');
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    row.cancel('a');
    row.enqueue('a');
    // A reload must find it wanted at every moment, and its screen must never see nothing of it.
    const kept: unknown[] = [];
    const watch = (changes: object) => {
      if ('measureWanted' in changes) kept.push(changes.measureWanted);
    };
    database.takes.hook('updating', watch);
    const gone: boolean[] = [];
    row.subscribe(() => gone.push(!row.snapshot().has('a')));
    await vi.waitFor(() => expect(asked).toHaveLength(2));
    database.takes.hook('updating').unsubscribe(watch);
    expect(gone).not.toContain(true);
    expect(kept).not.toContain(false);
    expect(await wanted('a')).toBe(true);
  });
  it('rests and goes on, remembers that over a reload, and is woken by what is asked for next', async () => {
    await Promise.all(['a', 'b'].map((id) => take(id)));
    const first = workers();
    const row = new Measuring(first.open);
    row.pause(true);
    row.enqueue('a');
    await vi.waitFor(async () => expect(await wanted('a')).toBe(true));
    expect(first.asked).toHaveLength(0);
    const { open, asked } = workers();
    const reloaded = new Measuring(open);
    expect(reloaded.isPaused()).toBe(true);
    await reloaded.resume();
    expect(reloaded.snapshot().get('a')).toEqual({ kind: 'waiting' });
    expect(asked).toHaveLength(0);
    reloaded.enqueue('b', 'next');
    expect(reloaded.isPaused()).toBe(false);
    await vi.waitFor(() => expect(asked).toHaveLength(1));
    expect(reloaded.snapshot().get('b')?.kind).toBe('running');
    asked[0]!.settle();
    await vi.waitFor(() => expect(reloaded.snapshot().get('a')?.kind).toBe('running'));
  });
});

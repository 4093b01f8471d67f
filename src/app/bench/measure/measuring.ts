import * as Comlink from 'comlink';
import { useSyncExternalStore } from 'react';
import type { Marks } from '../../../core/formats/marks';
import { database } from '../../../store/database';
import { filmOf, findTake, measuresOf, saveMeasures } from '../../../store/takes';
import type { MeasureWorker } from '../../../vision/workers/measure.worker';
import { CANCELLED } from '../../../vision/workers/plainError';
import { queryClient } from '../../queryClient';

/** How far the measuring of one take has come. */
export type Progress =
  | { readonly kind: 'waiting' }
  | { readonly kind: 'running'; readonly done: number; readonly total: number; readonly secondsLeft: number | undefined }
  | { readonly kind: 'failed'; readonly message: string };

/** Kept over a reload: whether the row rests. */
const PAUSED = 'gestometra-measuring-paused';

/** A worker that measures one take at a time, and how to let it go. */
export interface Measurer {
  readonly api: Pick<Comlink.Remote<MeasureWorker>, 'measure' | 'cancel'>;
  close(): void;
}

/** One worker measures takes in turn; screens watch. */
export class Measuring {
  private progress: ReadonlyMap<string, Progress> = new Map();
  private readonly listeners = new Set<() => void>();
  private readonly queue: string[] = [];
  private resting = localStorage.getItem(PAUSED) === 'yes';
  private current: { takeId: string; api: Measurer['api']; stopping: boolean } | undefined;
  /** Takes asked for again while they were being stopped. */
  private readonly again = new Set<string>();
  /** Kept from take to take, since its networks take seconds to load; let go when nothing waits. */
  private kept: Measurer | undefined;

  constructor(private readonly open: () => Measurer) {}

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  snapshot = (): ReadonlyMap<string, Progress> => this.progress;

  private set(takeId: string, value: Progress | undefined): void {
    const next = new Map(this.progress);
    if (value) next.set(takeId, value);
    else next.delete(takeId);
    this.progress = next;
    for (const listener of this.listeners) listener();
  }

  /** Puts a take in the row; `next` puts it before those that wait. */
  enqueue(takeId: string, place: 'next' | 'last' = 'last'): void {
    if (this.current?.takeId === takeId && this.current.stopping) this.again.add(takeId);
    if (this.queue.includes(takeId) || this.current?.takeId === takeId) return;
    if (place === 'next') {
      this.queue.unshift(takeId);
      // Asked for by itself: the row goes on.
      if (this.resting) this.pause(false);
    } else this.queue.push(takeId);
    this.set(takeId, { kind: 'waiting' });
    void this.want(takeId, true);
    void this.next();
  }

  isPaused = (): boolean => this.resting;

  /** Lets the row rest after the take under way, or go on. */
  pause(resting: boolean): void {
    this.resting = resting;
    localStorage.setItem(PAUSED, resting ? 'yes' : 'no');
    this.progress = new Map(this.progress);
    for (const listener of this.listeners) listener();
    void this.next();
  }

  /** Takes up again what a reload interrupted. */
  async resume(): Promise<void> {
    const takes = await database.takes.filter((t) => t.measureWanted === true).toArray();
    for (const take of takes) this.enqueue(take.id);
  }

  private async want(takeId: string, measureWanted: boolean): Promise<void> {
    await database.takes.update(takeId, { measureWanted });
  }

  cancel(takeId: string): void {
    const at = this.queue.indexOf(takeId);
    if (at >= 0) {
      this.queue.splice(at, 1);
      void this.want(takeId, false);
      this.set(takeId, undefined);
    }
    if (this.current?.takeId === takeId) {
      this.current.stopping = true;
      this.again.delete(takeId);
      void this.current.api.cancel();
    }
  }

  forget(takeId: string): void {
    if (this.progress.get(takeId)?.kind === 'failed') this.set(takeId, undefined);
  }

  private async next(): Promise<void> {
    if (this.current || this.resting) return;
    const takeId = this.queue.shift();
    if (!takeId) return;
    this.kept ??= this.open();
    const { api } = this.kept;
    this.current = { takeId, api, stopping: false };
    let broken = false;
    let outcome: Progress | undefined;
    try {
      const [found, blob, before] = await Promise.all([findTake(database, takeId), filmOf(database, takeId), measuresOf(database, takeId)]);
      const marks: Marks | undefined = found?.take.marks;
      if (!found || !marks || !blob) throw new Error('This take has no marks yet. Mark the instrument and the bow first.');
      this.set(takeId, { kind: 'running', done: 0, total: found?.take.film.frames ?? 0, secondsLeft: undefined });
      const start = performance.now();
      const measures = await api.measure(
        blob,
        marks,
        before ? { measures: before.measures, marks: before.marks } : undefined,
        found.take.task ?? 'ordinary',
        Comlink.proxy((done: number, total: number) => {
          const elapsed = (performance.now() - start) / 1000;
          const secondsLeft = done > 8 ? (elapsed / done) * (total - done) : undefined;
          this.set(takeId, { kind: 'running', done, total, secondsLeft });
        }),
      );
      await saveMeasures(database, takeId, marks, measures);
      await queryClient.invalidateQueries({ queryKey: ['measures'] });
    } catch (error) {
      const message = (error as Error).message;
      broken = message !== CANCELLED;
      if (broken) outcome = { kind: 'failed', message };
    } finally {
      if (broken || this.queue.length === 0) {
        this.kept?.close();
        this.kept = undefined;
      }
      // Asked for again while it was being stopped, it is wanted throughout: a reload at this moment must not forget it.
      await this.want(takeId, this.again.has(takeId));
      // Told last: what is asked for once the outcome shows must find the row free.
      this.current = undefined;
      // A take asked for again goes from one to the other without a moment in which nothing is known of it: its screen would leave.
      if (this.again.delete(takeId)) this.enqueue(takeId, 'next');
      else this.set(takeId, outcome);
      void this.next();
    }
  }
}

function openWorker(): Measurer {
  const worker = new Worker(new URL('../../../vision/workers/measure.worker.ts', import.meta.url), { type: 'module' });
  return { api: Comlink.wrap<MeasureWorker>(worker), close: () => worker.terminate() };
}

export const measuring = new Measuring(openWorker);

export function useProgress(takeId: string): Progress | undefined {
  return useSyncExternalStore(measuring.subscribe, measuring.snapshot).get(takeId);
}

/** All that is measured or waits, and whether the row rests. */
export function useMeasuringRow(): { readonly progress: ReadonlyMap<string, Progress>; readonly paused: boolean } {
  return { progress: useSyncExternalStore(measuring.subscribe, measuring.snapshot), paused: measuring.isPaused() };
}

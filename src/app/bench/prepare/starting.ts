import * as Comlink from 'comlink';
import { useSyncExternalStore } from 'react';
import { database } from '../../../store/database';
import { filmOf, findTake, saveStart, takesToStart } from '../../../store/takes';
import type { StartWorker } from '../../../vision/workers/start.worker';
import { queryClient } from '../../queryClient';

/** How far the looking for instrument and bow has come. */
export type Looking =
  | { readonly kind: 'waiting' }
  | { readonly kind: 'running'; readonly done: number; readonly total: number; readonly again: boolean }
  | { readonly kind: 'failed' };

/** A worker that looks for instrument and bow in one take at a time, and how to let it go. */
export interface Finder {
  readonly api: Pick<Comlink.Remote<StartWorker>, 'find' | 'prepare'>;
  close(): void;
}

/** One worker looks for the instrument in takes nobody has marked, one after the other, in the background. */
export class Starting {
  private looking: ReadonlyMap<string, Looking> = new Map();
  private readonly listeners = new Set<() => void>();
  private readonly queue: string[] = [];
  private current: string | undefined;
  private kept: Finder | undefined;

  constructor(private readonly open: () => Finder) {}

  subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };
  snapshot = (): ReadonlyMap<string, Looking> => this.looking;

  private set(takeId: string, value: Looking | undefined): void {
    const next = new Map(this.looking);
    if (value) next.set(takeId, value);
    else next.delete(takeId);
    this.looking = next;
    for (const listener of this.listeners) listener();
  }

  /** Puts a take in the row; `next` before those that wait. */
  enqueue(takeId: string, place: 'next' | 'last' = 'last'): void {
    const at = this.queue.indexOf(takeId);
    if (this.current === takeId || (at >= 0 && place === 'last')) return;
    if (at >= 0) this.queue.splice(at, 1);
    if (place === 'next') this.queue.unshift(takeId);
    else this.queue.push(takeId);
    this.set(takeId, { kind: 'waiting' });
    void this.next();
  }

  /** Loads the networks before the first take of a row is there, so that it need not wait for them. */
  prepare(): void {
    this.kept ??= this.open();
    // Told when the first take is looked at.
    this.kept.api.prepare().catch(() => undefined);
  }

  /** Lets the worker go where no take is left to look at. */
  rest(): void {
    if (this.current || this.queue.length > 0) return;
    this.kept?.close();
    this.kept = undefined;
  }

  /** Takes up what was not looked at yet. */
  async resume(): Promise<void> {
    for (const take of await takesToStart(database)) this.enqueue(take.id);
  }

  private async next(): Promise<void> {
    if (this.current) return;
    const takeId = this.queue.shift();
    if (!takeId) {
      this.rest();
      return;
    }
    this.current = takeId;
    let outcome: Looking | undefined;
    try {
      const [found, blob] = await Promise.all([findTake(database, takeId), filmOf(database, takeId)]);
      // Marked or deleted in the meantime: nothing is left to look for.
      if (found && blob && !found.take.marks) {
        this.kept ??= this.open();
        this.set(takeId, { kind: 'running', done: 0, total: 1, again: false });
        const { family, size, side } = found.student;
        const { zoom } = found.take;
        const start = await this.kept.api.find(
          blob,
          { family, size, side, zoom },
          Comlink.proxy((done: number, total: number, again: boolean) => this.set(takeId, { kind: 'running', done, total, again })),
        );
        if ((await findTake(database, takeId))?.take.zoom !== zoom) {
          // Said in the meantime: what was found stands on another lens.
          this.queue.unshift(takeId);
          outcome = { kind: 'waiting' };
          return;
        }
        await saveStart(database, takeId, 'refused' in start ? { refused: start.refused } : { candidates: start.candidates.map((c) => c.marks) });
        await queryClient.invalidateQueries({ queryKey: ['takes'] });
      }
    } catch (error) {
      // No WebGL, no memory, no film: everything is then marked by hand as ever.
      console.warn('the instrument was not looked for:', error);
      outcome = { kind: 'failed' };
      this.kept?.close();
      this.kept = undefined;
    } finally {
      this.current = undefined;
      this.set(takeId, outcome);
      void this.next();
    }
  }
}

function openWorker(): Finder {
  const worker = new Worker(new URL('../../../vision/workers/start.worker.ts', import.meta.url), { type: 'module' });
  return { api: Comlink.wrap<StartWorker>(worker), close: () => worker.terminate() };
}

export const starting = new Starting(openWorker);

export function useLooking(takeId: string): Looking | undefined {
  return useSyncExternalStore(starting.subscribe, starting.snapshot).get(takeId);
}

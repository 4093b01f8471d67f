import * as Comlink from 'comlink';
import type { FilmWorker } from '../../vision/workers/film.worker';

/** Opens a film in a worker of its own; `close` ends it. */
export function createFilmClient() {
  const worker = new Worker(new URL('../../vision/workers/film.worker.ts', import.meta.url), { type: 'module' });
  const api = Comlink.wrap<FilmWorker>(worker);
  return { api, close: () => worker.terminate() };
}

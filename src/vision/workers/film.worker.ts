import * as Comlink from 'comlink';
import { Film, type FilmFacts } from '../film/openFilm';
import { plainError } from './plainError';

/** Pictures kept ready on either side of the one shown. */
const KEEP = 40;

let film: Film | undefined;
let cache = new Map<number, ImageBitmap>();
/** A running decode that goes on forward from the last picture asked for. */
let ahead: { iterator: AsyncGenerator<{ index: number; bitmap: ImageBitmap }>; next: number } | undefined;
let queue: Promise<unknown> = Promise.resolve();

async function* pictures(from: number): AsyncGenerator<{ index: number; bitmap: ImageBitmap }> {
  const open = film!;
  for await (const sample of open.samples(from, open.times.length)) {
    try {
      const index = open.indexOf(sample.timestamp);
      const canvas = new OffscreenCanvas(open.width, open.height);
      sample.drawWithFit(canvas.getContext('2d')!, { fit: 'fill' });
      yield { index, bitmap: canvas.transferToImageBitmap() };
    } finally {
      sample.close();
    }
  }
}

function forget(around: number): void {
  for (const [index, bitmap] of cache) {
    if (Math.abs(index - around) > KEEP) {
      bitmap.close();
      cache.delete(index);
    }
  }
}

async function fetchFrame(index: number): Promise<ImageBitmap> {
  const have = cache.get(index);
  if (have) return have;
  const reuse = ahead && ahead.next <= index && index - ahead.next < 24;
  if (!reuse) {
    await ahead?.iterator.return(undefined);
    // A little earlier, so that stepping back is ready too.
    const from = Math.max(0, cache.has(index + 1) ? index - 12 : index);
    ahead = { iterator: pictures(from), next: from };
  }
  for (;;) {
    const { value, done } = await ahead!.iterator.next();
    if (done || !value) throw new Error(`frame ${index} cannot be decoded`);
    ahead!.next = value.index + 1;
    cache.get(value.index)?.close();
    cache.set(value.index, value.bitmap);
    if (value.index >= index) break;
  }
  forget(index);
  const got = cache.get(index);
  if (!got) throw new Error(`frame ${index} cannot be decoded`);
  return got;
}

/** What the film worker offers to the page: facts of a film, and any frame of it as a picture. */
const api = {
  async open(blob: Blob): Promise<FilmFacts> {
    try {
      film?.close();
      for (const bitmap of cache.values()) bitmap.close();
      cache = new Map();
      await ahead?.iterator.return(undefined);
      ahead = undefined;
      film = await Film.open(blob);
      return film.facts;
    } catch (error) {
      throw plainError(error);
    }
  },
  /** Exactly the frame of that place in the table of times, upright. */
  frame(index: number): Promise<ImageBitmap> {
    const job = queue.then(async () => {
      const bitmap = await fetchFrame(index);
      const copy = await createImageBitmap(bitmap);
      return Comlink.transfer(copy, [copy]);
    });
    queue = job.catch(() => undefined);
    return job;
  },
  close(): void {
    film?.close();
    film = undefined;
  },
};

export type FilmWorker = typeof api;
Comlink.expose(api);

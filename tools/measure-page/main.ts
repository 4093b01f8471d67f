import * as Comlink from 'comlink';
import { eventsToText } from '../../src/core/formats/eventsJson';
import { findingsToText } from '../../src/core/formats/findingsJson';
import { parseMarks } from '../../src/core/formats/marks';
import { measuresToCsv } from '../../src/core/formats/measuresCsv';
import type { Rubric, Stage } from '../../src/core/rubric/rubric';
import type { KnownOfClip } from '../../src/core/start/startMarks';
import { judgeTake } from '../../src/core/take/analyse';
import { doubtfulSpans } from '../../src/core/take/doubt';
import type { Task } from '../../src/core/take/task';
import type { Start } from '../../src/vision/start/findStart';
import type { MeasureWorker } from '../../src/vision/workers/measure.worker';
import type { StartWorker } from '../../src/vision/workers/start.worker';

export interface MeasuredFiles {
  readonly measures: string;
  readonly events: string;
  readonly findings: string;
  readonly doubtful: { readonly from: number; readonly to: number; readonly why: string }[];
  readonly frames: number;
  /** Pictures in which the player was looked for, in which one was found, and in which the bow hand was; those in which the hand at the neck was looked for and found. */
  readonly looked: { readonly pictures: number; readonly player: number; readonly hand: number; readonly neck: number; readonly neckHand: number };
  /** Read as a left-handed set-up, which the marks may show though they do not say it. */
  readonly leftHanded: boolean;
  readonly milliseconds: number;
}

declare global {
  interface Window {
    tellProgress?(done: number, total: number): void;
    /** Starts the film without marks, timed from when the networks are loaded. */
    startFilm(known: KnownOfClip): Promise<{ start: Start; milliseconds: number }>;
    measureFilm(given: { marksText: string; rubric: Rubric; stage: Stage; task?: Task }): Promise<MeasuredFiles>;
  }
}

let starter: Comlink.Remote<StartWorker> | undefined;

window.startFilm = async (known) => {
  const blob = document.querySelector<HTMLInputElement>('#film')!.files![0]!;
  starter ??= Comlink.wrap<StartWorker>(new Worker(new URL('../../src/vision/workers/start.worker.ts', import.meta.url), { type: 'module' }));
  // What stops them is told by the search itself.
  await starter.prepare().catch(() => undefined);
  const begun = performance.now();
  const start = await starter.find(blob, known);
  return { start, milliseconds: performance.now() - begun };
};

window.measureFilm = async ({ marksText, rubric, stage, task }) => {
  const blob = document.querySelector<HTMLInputElement>('#film')!.files![0]!;
  const worker = new Worker(new URL('../../src/vision/workers/measure.worker.ts', import.meta.url), { type: 'module' });
  const api = Comlink.wrap<MeasureWorker>(worker);
  const start = performance.now();
  const take = await api.measure(
    blob,
    parseMarks(marksText),
    undefined,
    task ?? 'ordinary',
    Comlink.proxy((done: number, total: number) => window.tellProgress?.(done, total)),
  );
  const milliseconds = performance.now() - start;
  worker.terminate();
  return {
    measures: measuresToCsv(take.frames),
    events: eventsToText(take, { task }),
    findings: findingsToText(judgeTake(take, rubric, stage, { task }), rubric, stage),
    doubtful: doubtfulSpans(take).map(({ from, to, why }) => ({ from, to, why })),
    frames: take.frames.length,
    looked: {
      pictures: take.bodies?.length ?? 0,
      player: take.bodies?.filter((b) => b.joints).length ?? 0,
      hand: take.bodies?.filter((b) => b.bowHand).length ?? 0,
      neck: take.bodies?.filter((b) => b.neckSought).length ?? 0,
      neckHand: take.bodies?.filter((b) => b.neckHand).length ?? 0,
    },
    leftHanded: take.mirrored ?? false,
    milliseconds,
  };
};

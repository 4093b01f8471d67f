import * as Comlink from 'comlink';
import { type Marks, withNotedZoom } from '../../core/formats/marks';
import { listen } from '../../core/sound/hear';
import type { TakeMeasures } from '../../core/take/analyse';
import { TASK_FACTS, type Task } from '../../core/take/task';
import { type SeePicture, seeBody } from '../body/seeBody';
import { clearPicture, clearPictures } from '../film/clearPictures';
import { Film } from '../film/openFilm';
import { measureTake } from '../pipeline/measureTake';
import { FreshLooks } from '../start/freshLooks';
import { LandmarkNetwork } from '../start/landmarkNetwork';
import { followBowBeside } from './followBowBeside';
import { plainError } from './plainError';
import { seeBodyBeside } from './seeBodyBeside';

let running: AbortController | undefined;
let landmarks: Promise<LandmarkNetwork> | undefined;

/** What the measuring worker offers to the page. */
const api = {
  /** Measures a film in which `task` is played: the sound of some exercises tells no string. Progress is told at most every 100 ms. Rejects with a message for the teacher. */
  async measure(
    blob: Blob,
    marks: Marks,
    previous: { measures: TakeMeasures; marks: Marks } | undefined,
    task: Task,
    onProgress: (done: number, total: number) => void,
  ): Promise<TakeMeasures> {
    running = new AbortController();
    const { signal } = running;
    try {
      const film = await Film.open(blob);
      try {
        let told = 0;
        // Opened while the film is followed; a failure is told when they are needed.
        landmarks ??= LandmarkNetwork.open();
        landmarks.catch(() => undefined);
        if (!previous?.measures.bodies) seeBodyBeside().catch(() => undefined);
        return await measureTake(film, withNotedZoom(marks, film.zoom), {
          signal,
          previous: previous && { ...previous, marks: withNotedZoom(previous.marks, film.zoom) },
          openBow: followBowBeside,
          listen: async (family) => {
            const sound = TASK_FACTS[task].soundLeftOut ? undefined : await film.sound();
            return sound && listen(sound.samples, sound.rate, family);
          },
          lookAfresh: (mirror) => {
            const looks = new FreshLooks({
              pictures: (frames) => film.pictures(frames),
              clear: (picture) => clearPicture(picture).picture,
              look: async (...seen) => (await landmarks!).look(...seen),
              mirror,
            });
            let blind = false;
            const unlessBlind = async <T>(look: () => Promise<T>): Promise<T | undefined> => {
              try {
                return await look();
              } catch (error) {
                if (!blind) console.warn('bow and instrument are not looked at afresh:', error);
                blind = true;
                return undefined;
              }
            };
            return {
              bow: async (...asked) => (await unlessBlind(() => looks.bow(...asked))) ?? new Map(),
              instrument: async (...asked) => (await unlessBlind(() => looks.instrument(...asked))) ?? new Map(),
              contours: async (...asked) => (await unlessBlind(() => looks.contours(...asked))) ?? new Map(),
              glance: (...seen) => unlessBlind(() => looks.glance(...seen)),
            };
          },
          lookAtPlayer: async ({ handsAt, ...when }, tell) => {
            let see: SeePicture;
            try {
              see = await seeBodyBeside();
            } catch (error) {
              // Without WebGL or memory for the networks everything else goes on.
              console.warn('body and hand are not looked at:', error);
              return [];
            }
            return seeBody({ times: film.times, pictures: (frames) => clearPictures(film.pictures(frames), 'smoothed') }, see, handsAt, { ...when, signal, onProgress: tell });
          },
          onProgress: (done, total) => {
            const now = performance.now();
            if (now - told < 100 && done < total) return;
            told = now;
            onProgress(done, total);
          },
        });
      } finally {
        film.close();
      }
    } catch (error) {
      throw plainError(error, signal);
    }
  },
  cancel(): void {
    running?.abort();
  },
};

export type MeasureWorker = typeof api;
Comlink.expose(api);

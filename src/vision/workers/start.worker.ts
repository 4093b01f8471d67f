import * as Comlink from 'comlink';
import type { KnownOfClip } from '../../core/start/startMarks';
import { Film } from '../film/openFilm';
import { findStart, type OnLook, type Start } from '../start/findStart';
import { LandmarkNetwork } from '../start/landmarkNetwork';
import { findPeopleBeside, openPeople } from './findPeopleBeside';
import { layFramesBeside } from './layFramesBeside';
import { plainError } from './plainError';

let opening: Promise<LandmarkNetwork> | undefined;

/** Begins to load the networks; whether they can run is told by the first film. */
function openNetworks(): Promise<LandmarkNetwork> {
  // Told when the first picture is asked about.
  openPeople().catch(() => undefined);
  opening ??= warmed();
  opening.catch(() => undefined);
  return opening;
}

/** The landmark network, run once: its first run takes it longest. */
async function warmed(): Promise<LandmarkNetwork> {
  const network = await LandmarkNetwork.open();
  const blank = await createImageBitmap(new ImageData(1, 1));
  await network.look(blank, [{ middle: [0, 0], side: 1, turn: 0 }]);
  blank.close();
  return network;
}

/** What the worker that starts a clip without marks offers to the page. */
const api = {
  /** Loads the networks ahead of the first film. Rejects where this browser cannot run them. */
  async prepare(): Promise<void> {
    await Promise.all([openNetworks(), openPeople()]);
  },

  /** Looks for instrument and bow in a film. Rejects with a message for the teacher where film or networks cannot be opened. */
  async find(blob: Blob, known: KnownOfClip, onLook?: OnLook): Promise<Start> {
    try {
      const landmarks = openNetworks();
      const film = await Film.open(blob);
      try {
        return await findStart(film, known, { findPeople: findPeopleBeside, look: async (...seen) => (await landmarks).look(...seen), openLayer: layFramesBeside }, onLook);
      } finally {
        film.close();
      }
    } catch (error) {
      throw plainError(error);
    }
  },
};

export type StartWorker = typeof api;
Comlink.expose(api);

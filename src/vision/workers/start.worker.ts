import * as Comlink from 'comlink';
import type { StartInstrument } from '../../core/start/startMarks';
import { BodyNetwork } from '../body/networks';
import { Film } from '../film/openFilm';
import { findStart, type OnLook, type Start } from '../start/findStart';
import { LandmarkNetwork } from '../start/landmarkNetwork';
import { plainError } from './plainError';

let opening: Promise<readonly [BodyNetwork, LandmarkNetwork]> | undefined;

/** What the worker that starts a clip without marks offers to the page. */
const api = {
  /** Looks for instrument and bow in a film. Rejects with a message for the teacher where film or networks cannot be opened. */
  async find(blob: Blob, instrument: StartInstrument, onLook?: OnLook): Promise<Start> {
    try {
      const film = await Film.open(blob);
      try {
        opening ??= Promise.all([BodyNetwork.open(), LandmarkNetwork.open()]);
        const [body, landmarks] = await opening;
        return await findStart(film, instrument, { findBodies: (picture) => body.findBodies(picture), look: (picture, squares) => landmarks.look(picture, squares) }, onLook);
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

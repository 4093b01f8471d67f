import * as Comlink from 'comlink';
import type { Joints } from '../../core/body/sighting';
import { BodyNetwork } from '../body/networks';

let opening: Promise<BodyNetwork> | undefined;
const network = (): Promise<BodyNetwork> => (opening ??= warmed());

/** What a worker that finds people offers: the body network alone, one picture at a time. */
const api = {
  /** Loads the network and runs it once, which takes it longest; rejects where this browser cannot run it. */
  async open(): Promise<void> {
    await network();
  },
  /** Joints of the people in a picture, the plainest to see first. */
  async find(picture: ImageBitmap): Promise<Joints[]> {
    try {
      return (await network()).findBodies(picture);
    } finally {
      picture.close();
    }
  },
};

async function warmed(): Promise<BodyNetwork> {
  const opened = await BodyNetwork.open();
  const blank = new OffscreenCanvas(64, 64);
  blank.getContext('2d')!.fillRect(0, 0, 64, 64);
  opened.findBodies(blank);
  return opened;
}

export type PeopleWorker = typeof api;
Comlink.expose(api);

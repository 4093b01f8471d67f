import * as Comlink from 'comlink';
import type { Joints } from '../../core/body/sighting';
import type { PeopleWorker } from './people.worker';

let worker: Comlink.Remote<PeopleWorker> | undefined;

/** Finds people on a thread of its own, kept for the next clip, in a copy of the picture. Rejects where this browser cannot run the network. */
export async function findPeopleBeside(picture: ImageBitmap): Promise<Joints[]> {
  const copy = await createImageBitmap(picture);
  return open().find(Comlink.transfer(copy, [copy]));
}

/** Loads the network, so that the first picture need not wait. Rejects where this browser cannot run it. */
export const openPeople = (): Promise<void> => open().open();

function open(): Comlink.Remote<PeopleWorker> {
  worker ??= Comlink.wrap<PeopleWorker>(new Worker(new URL('./people.worker.ts', import.meta.url), { type: 'module' }));
  return worker;
}

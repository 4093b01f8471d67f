import * as Comlink from 'comlink';
import type { SeePicture } from '../body/seeBody';
import type { BodyWorker } from './body.worker';

/** Threads with networks of their own: inference uses one each. */
const THREADS = 2;
let workers: Promise<Comlink.Remote<BodyWorker>[]> | undefined;

async function open(): Promise<Comlink.Remote<BodyWorker>[]> {
  const list = Array.from({ length: THREADS }, () => Comlink.wrap<BodyWorker>(new Worker(new URL('./body.worker.ts', import.meta.url), { type: 'module' })));
  await Promise.all(list.map((w) => w.open()));
  return list;
}

/** Opens the networks on threads of their own, kept for the next clip. @throws where this browser cannot run them. */
export async function seeBodyBeside(): Promise<SeePicture> {
  workers ??= open();
  const list = await workers;
  let turn = 0;
  return (picture, hands, glance) => list[turn++ % list.length]!.see(Comlink.transfer(picture, [picture]), hands, glance);
}

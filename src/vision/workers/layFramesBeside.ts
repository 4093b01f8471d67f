import * as Comlink from 'comlink';
import type { OpenFrameLayer } from '../start/frameLayer';
import type { LayerWorker } from './layer.worker';

let worker: Comlink.Remote<LayerWorker> | undefined;

/** Frames laid on a thread of their own, in copies of their pictures; the thread is kept for the next film. */
export const layFramesBeside: OpenFrameLayer = (filmed, known) => {
  worker ??= Comlink.wrap<LayerWorker>(new Worker(new URL('./layer.worker.ts', import.meta.url), { type: 'module' }));
  const layer = worker;
  // Messages arrive in order: what is asked next finds the layer opened.
  const open = layer.open(filmed, known);
  open.catch(() => undefined);
  return {
    // Asked at once, with a picture that is copied on the way: a thread that runs a network does not come round to anything that waits.
    lay: (picture, look, ends) => layer.lay(picture, look, ends),
    bowAnywhere: (index) => layer.bowAnywhere(index),
    together: (starts) => layer.together(starts),
  };
};

import * as Comlink from 'comlink';
import { type FrameLayer, FrameLayerHere, type OpenFrameLayer } from '../start/frameLayer';

let layer: FrameLayer | undefined;

const opened = (): FrameLayer => {
  if (!layer) throw new Error('the layer worker was asked before it was opened');
  return layer;
};

/** What the layer worker offers to the worker that starts clips: the frames of one film at a time. */
const api = {
  open(...film: Parameters<OpenFrameLayer>): void {
    layer = new FrameLayerHere(...film);
  },
  /** The picture is closed. */
  async lay(...[picture, look, ends]: Parameters<FrameLayer['lay']>) {
    try {
      return await opened().lay(picture, look, ends);
    } finally {
      picture.close();
    }
  },
  bowAnywhere: (index: number) => opened().bowAnywhere(index),
  together: (...starts: Parameters<FrameLayer['together']>) => opened().together(...starts),
};

export type LayerWorker = typeof api;
Comlink.expose(api);

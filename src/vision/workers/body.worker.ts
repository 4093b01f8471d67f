import * as Comlink from 'comlink';
import type { BodySighting } from '../../core/body/sighting';
import { HandFinder } from '../body/handCrop';
import type { HandPlace } from '../body/handPlace';
import { BodyNetworks } from '../body/networks';

const hands = new HandFinder();
let opening: Promise<BodyNetworks> | undefined;

/** What a body worker offers: one picture at a time. */
const api = {
  /** Loads the networks; rejects where this browser cannot run them. */
  async open(): Promise<void> {
    opening ??= BodyNetworks.open();
    await opening;
  },
  async see(picture: ImageBitmap, hand: HandPlace | undefined): Promise<Pick<BodySighting, 'joints' | 'bowHand'>> {
    opening ??= BodyNetworks.open();
    const networks = await opening;
    try {
      const joints = networks.findBody(picture);
      const bowHand = hand && hands.find(picture, hand, (cut) => networks.findHand(cut));
      return { ...(joints ? { joints } : {}), ...(bowHand ? { bowHand } : {}) };
    } finally {
      picture.close();
    }
  },
};

export type BodyWorker = typeof api;
Comlink.expose(api);

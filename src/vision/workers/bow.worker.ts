import * as Comlink from 'comlink';
import type { BowContext } from '../../core/bow/residuals';
import { type BowFollower, followBowHere } from '../bow/bowFollower';

let follower: BowFollower | undefined;

const opened = (): BowFollower => {
  if (!follower) throw new Error('the bow worker was asked before it was opened');
  return follower;
};

/** What the bow worker offers to the measuring worker: the bow of one clip at a time. */
const api = {
  open(context: BowContext): void {
    follower = followBowHere(context);
  },
  learn: (...args: Parameters<BowFollower['learn']>) => opened().learn(...args),
  startAt: (...args: Parameters<BowFollower['startAt']>) => opened().startAt(...args),
  follow: (...args: Parameters<BowFollower['follow']>) => opened().follow(...args),
  markSigma: (...args: Parameters<BowFollower['markSigma']>) => opened().markSigma(...args),
};

export type BowWorker = typeof api;
Comlink.expose(api);

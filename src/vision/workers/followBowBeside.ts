import * as Comlink from 'comlink';
import type { OpenBowFollower } from '../bow/bowFollower';
import type { Frame } from '../film/frame';
import type { BowWorker } from './bow.worker';

/** The frame with its memory handed over to the other thread. */
const handOver = (frame: Frame): Frame => Comlink.transfer(frame, [frame.luma.buffer as ArrayBuffer]);

let worker: Comlink.Remote<BowWorker> | undefined;

/** The bow followed on a thread of its own, beside the instrument; the thread is kept for the next clip. */
export const followBowBeside: OpenBowFollower = (context) => {
  worker ??= Comlink.wrap<BowWorker>(new Worker(new URL('./bow.worker.ts', import.meta.url), { type: 'module' }));
  const bow = worker;
  // Messages arrive in order: what is asked next finds the follower opened.
  const open = bow.open(context);
  open.catch(() => undefined);
  return {
    learn: async (frame, pose, mark) => {
      await open;
      return bow.learn(handOver(frame), pose, mark);
    },
    startAt: (...where) => bow.startAt(...where),
    follow: (frame, pose) => bow.follow(handOver(frame), pose),
    markSigma: (unit) => bow.markSigma(unit),
  };
};

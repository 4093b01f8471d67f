import type { BowContext } from '../../core/bow/residuals';
import type { BowSighting } from '../../core/bow/sighting';
import type { Pose } from '../../core/geometry/pose';
import type { Frame } from '../film/frame';
import type { BowInPicture } from '../instrument/keyFrame';
import { BowTracker } from './bowTracker';
import type { Belief, WholeBow } from './markedBow';

export interface FollowedBow {
  readonly sighting: BowSighting;
  /** So many sightings before this one had something else for an end of the bow. */
  readonly mistaken: number;
  /** Where the bow is believed to be, seen or not. */
  readonly inPicture: BowInPicture | undefined;
}

/**
 * Follows the bow beside the instrument. Calls are answered in the order in which they were made; a frame that
 * was handed over must not be used again, because its memory may have gone to another thread.
 */
export interface BowFollower {
  learn(frame: Frame, pose: Pose, mark: WholeBow): Promise<Belief>;
  startAt(belief: Belief, alongUnsure?: boolean): Promise<void>;
  follow(frame: Frame, pose: Pose): Promise<FollowedBow>;
  /** See {@link BowTracker.markSigma}. */
  markSigma(unit: number): Promise<{ frog: number; tip: number }>;
}

/** Makes a follower for a clip. */
export type OpenBowFollower = (context: BowContext) => BowFollower;

/** The bow followed on the caller's own thread. */
export const followBowHere: OpenBowFollower = (context) => {
  const tracker = new BowTracker(context);
  return {
    learn: async (frame, pose, mark) => tracker.learn(frame, pose, mark),
    startAt: async (...where) => tracker.startAt(...where),
    follow: async (frame, pose) => ({ sighting: tracker.follow(frame, pose), mistaken: tracker.mistaken, inPicture: tracker.inPicture(pose) }),
    markSigma: async (unit) => tracker.markSigma(unit),
  };
};

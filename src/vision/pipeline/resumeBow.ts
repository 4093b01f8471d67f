import { layOnHair } from '../../core/bow/layOnHair';
import type { BowContext } from '../../core/bow/residuals';
import { type BowSighting, hairEndsOf } from '../../core/bow/sighting';
import type { TrackedFrame } from '../../core/measures/measureFrames';
import { runsOf } from '../../core/runs';
import type { BowFollower } from '../bow/bowFollower';
import { beliefFromEnds } from '../bow/markedBow';
import { ahead, backward, type Frame, type FrameSource } from '../film/frame';

/** So many frames beside a stretch may pass without both ends of the bow (ours). */
const NEAR = 8;
/** Frames in which the bow may stay unseen before it is given up (ours). */
const MOST_UNSEEN = 6;

export interface ResumeInput {
  readonly source: FrameSource;
  readonly context: BowContext;
  readonly bow: BowFollower;
  /** Every frame as followed so far; those in which the bow is found are put in their place. */
  readonly tracked: Map<number, TrackedFrame>;
  /** Frames in which the instrument was lost and is known again: the bow was not looked for there. */
  readonly restored: ReadonlySet<number>;
  /** Learns the bow's look again from the mark that is nearest to a frame. */
  readonly learnNear: (index: number) => Promise<void>;
  readonly signal?: AbortSignal | undefined;
}

/** Follows the bow on from where it was seen into frames in which the instrument is known again. Returns in how many it was found. */
export async function resumeBow({ source, context, bow, tracked, restored, learnNear, signal }: ResumeInput): Promise<number> {
  const unit = Math.max(source.width, source.height) / 960;
  let found = 0;
  /** The nearest frame from `index` on, in a direction, that shows both ends of the bow. */
  const seenFrom = (index: number, way: 1 | -1) => {
    for (let i = index, k = 0; k < NEAR; i += way, k++) {
      const ends = tracked.get(i)?.pose && hairEndsOf(tracked.get(i)!.sighting);
      if (ends) return { index: i, ends };
    }
    return undefined;
  };
  const missing = (from: number, to: number) => [...restored].some((i) => i >= from && i <= to && !tracked.get(i)!.sighting.line);
  const follow = async (from: number, to: number, way: 1 | -1) => {
    if (!missing(from, to)) return;
    const start = seenFrom(way === 1 ? from - 1 : to + 1, way === 1 ? -1 : 1);
    if (!start) return;
    await learnNear(start.index);
    await bow.startAt(beliefFromEnds(context, tracked.get(start.index)!.pose!, start.ends, unit));
    const frames: AsyncIterable<Frame> = way === 1 ? ahead(source.forward(start.index + 1, to + 1)) : backward(source, start.index - 1, from);
    const seen = new Map<number, BowSighting>();
    const order: number[] = [];
    let unseen = 0;
    for await (const frame of frames) {
      signal?.throwIfAborted();
      const pose = tracked.get(frame.index)?.pose;
      if (!pose) continue;
      const { sighting, mistaken } = await bow.follow(frame, pose);
      for (const index of order.slice(Math.max(0, order.length - mistaken))) {
        const before = seen.get(index);
        if (before) seen.set(index, { ...before, frog: undefined, tip: undefined });
      }
      order.push(frame.index);
      unseen = sighting.line ? 0 : unseen + 1;
      if (unseen > MOST_UNSEEN) break;
      if (sighting.line && restored.has(frame.index) && !tracked.get(frame.index)!.sighting.line) seen.set(frame.index, sighting);
    }
    if (seen.size === 0) return;
    const resumed = [...seen].map(([index, sighting]) => ({ ...tracked.get(index)!, sighting }));
    for (const frame of layOnHair(resumed, await bow.markSigma(unit), unit)) tracked.set(frame.index, frame);
    found += seen.size;
  };
  for (const [from, to] of runsOf([...restored].sort((a, b) => a - b))) {
    await follow(from, to, 1);
    await follow(from, to, -1);
  }
  return found;
}

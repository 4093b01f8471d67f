import type { BowContext } from '../../core/bow/residuals';
import { NO_BOW } from '../../core/bow/sighting';
import type { Pose } from '../../core/geometry/pose';
import type { MarksSolution } from '../../core/instrument/solveMarks';
import type { TrackedFrame } from '../../core/measures/measureFrames';
import type { BowMark } from '../bow/bowTracker';
import { BowTracker } from '../bow/bowTracker';
import { backward, type Frame, type FrameSource } from '../film/frame';
import { InstrumentTracker } from '../instrument/instrumentTracker';

/** A frame the teacher marked, with its solved pose. */
export interface Anchor {
  readonly index: number;
  readonly pose: Pose;
  readonly bow: BowMark;
}

export interface FollowOptions {
  readonly signal?: AbortSignal;
  /** Called after each frame with the count done so far. */
  readonly onFrame?: (frame: TrackedFrame, done: number, total: number) => void;
  /** Only frames from here to there (inclusive) are followed. */
  readonly span?: { readonly from: number; readonly to: number };
}

/**
 * Follows instrument and bow from every marked frame to half way to the next one, and to the ends of the
 * clip. Frames come back in order. Throws the signal's reason when cancelled.
 */
export async function followTake(
  source: FrameSource,
  solution: MarksSolution,
  context: BowContext,
  anchors: readonly Anchor[],
  options: FollowOptions = {},
): Promise<TrackedFrame[]> {
  const sorted = [...anchors].sort((a, b) => a.index - b.index);
  const span = options.span ?? { from: 0, to: source.times.length - 1 };
  const total = span.to - span.from + 1;
  const out = new Map<number, TrackedFrame>();
  const instrument = new InstrumentTracker(solution.camera, solution.model);
  const bow = new BowTracker(context);

  const frameAt = async (index: number): Promise<Frame> => {
    for await (const frame of source.forward(index, index + 1)) return frame;
    throw new Error(`frame ${index} cannot be decoded`);
  };
  const beliefs = new Map<number, ReturnType<BowTracker['learn']>>();
  for (const anchor of sorted) {
    const frame = await frameAt(anchor.index);
    const { frog, tip } = anchor.bow;
    instrument.addKeyFrame(frame, anchor.pose, frog && tip ? { frog, tip } : undefined);
  }
  const run = async (anchor: Anchor, frames: AsyncIterable<Frame>) => {
    instrument.startAt(anchor.pose);
    const belief = beliefs.get(anchor.index);
    if (belief) bow.startAt(belief);
    for await (const frame of frames) {
      options.signal?.throwIfAborted();
      if (frame.index < span.from || frame.index > span.to) continue;
      const seen = instrument.follow(frame, beliefs.size > 0 ? bow.inPicture(instrument.lastPose) : undefined);
      const sure = seen.quality > 0;
      const tracked: TrackedFrame = {
        index: frame.index,
        t: frame.t,
        pose: sure ? seen.pose : undefined,
        quality: seen.quality,
        sighting: sure && beliefs.size > 0 ? bow.follow(frame, seen.pose) : NO_BOW,
      };
      out.set(frame.index, tracked);
      options.onFrame?.(tracked, out.size, total);
    }
  };
  for (let k = 0; k < sorted.length; k++) {
    const anchor = sorted[k]!;
    const { frog, tip, frogGuessed, tipGuessed } = anchor.bow;
    if (frog && tip) {
      const mark = { frog, tip, frogGuessed: frogGuessed ?? false, tipGuessed: tipGuessed ?? false };
      beliefs.set(anchor.index, bow.learn(await frameAt(anchor.index), anchor.pose, mark));
    }
    const from = k === 0 ? span.from : Math.max(span.from, Math.ceil((sorted[k - 1]!.index + anchor.index) / 2));
    const to = k === sorted.length - 1 ? span.to : Math.min(span.to, Math.ceil((anchor.index + sorted[k + 1]!.index) / 2) - 1);
    if (to >= anchor.index) await run(anchor, source.forward(Math.max(anchor.index, from), to + 1));
    if (from < anchor.index) await run(anchor, backward(source, Math.min(anchor.index - 1, to), from));
  }
  return [...out.values()].sort((a, b) => a.index - b.index);
}

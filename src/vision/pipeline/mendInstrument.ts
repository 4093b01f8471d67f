import { type Camera, project } from '../../core/geometry/camera';
import { type Pose, toOuter } from '../../core/geometry/pose';
import type { TrackedFrame } from '../../core/measures/measureFrames';
import { backward, type Frame, type FrameSource } from '../film/frame';
import type { InstrumentTracker } from '../instrument/instrumentTracker';
import type { InstrumentAsk, LookForInstrument } from '../start/lookForInstrument';

/** Shorter losses mend themselves (seconds, ours). */
const LEAST_LOST = 0.25;
/** Seconds between two looks in a loss, and how many there are at most (ours). */
const EVERY = 0.4;
const MOST_LOOKS = 24;
/** Two courses that put the instrument this near (px at 960) are one (ours). */
const JOINED = 3;
const ENDS = ['instrument.endButton', 'instrument.scroll', 'instrument.upperCorner.low', 'instrument.lowerCorner.high'] as const;
/** Frames through which it may stay lost on the way (ours). */
const MOST_UNSEEN = 6;

export interface MendInstrumentInput {
  readonly source: FrameSource;
  readonly camera: Camera;
  /** Knows the instrument's look from the marks. */
  readonly instrument: Pick<InstrumentTracker, 'model' | 'startAt' | 'follow'>;
  /** Every frame as followed so far; mended frames are put in their place, with the bow's line as it was seen. */
  readonly tracked: Map<number, TrackedFrame>;
  readonly look: LookForInstrument;
  readonly signal?: AbortSignal | undefined;
}

/**
 * Where the instrument was lost it is looked for afresh and followed from there, both ways, until it is where it was followed before.
 * A place at which the marks' look is not known again is not believed. Returns how many frames were mended.
 */
export async function mendInstrument({ source, camera, instrument, tracked, look, signal }: MendInstrumentInput): Promise<number> {
  const indices = [...tracked.keys()].sort((a, b) => a - b);
  const asks = asksOf(indices, tracked, (i) => source.times[i]!);
  if (asks.length === 0) return 0;
  const places = await look(camera, instrument.model, asks);
  const [first, last] = [indices[0]!, indices[indices.length - 1]!];
  let mended = 0;
  const unit = Math.max(source.width, source.height) / 960;
  /** How far apart two poses put the ends of the body and the scroll, px. */
  const apart = (a: Pose, b: Pose) =>
    Math.max(
      ...ENDS.map((name) => {
        const [p, q] = [a, b].map((pose) => project(camera, toOuter(pose, instrument.model.landmarks[name])));
        return p && q ? Math.hypot(p[0] - q[0], p[1] - q[1]) : Number.POSITIVE_INFINITY;
      }),
    );
  const follow = async (start: Pose, guessed: boolean, frames: AsyncIterable<Frame>) => {
    instrument.startAt(start, guessed);
    let unseen = 0;
    for await (const frame of frames) {
      signal?.throwIfAborted();
      const before = tracked.get(frame.index);
      if (!before) return;
      const { pose, quality } = instrument.follow(frame);
      // Before it was lost it often strayed: the course that knows the marks' look better stands, until both are one again.
      if (before.pose && (quality < before.quality || apart(before.pose, pose) < JOINED * unit)) return;
      unseen = quality > 0 ? 0 : unseen + 1;
      if (unseen > MOST_UNSEEN) return;
      if (quality === 0) continue;
      tracked.set(frame.index, { ...before, pose, quality });
      mended++;
    }
  };
  for (const [index, place] of [...places].sort((a, b) => a[0] - b[0])) {
    if (tracked.get(index)!.pose) continue;
    await follow(place, true, source.forward(index, last + 1));
    const here = tracked.get(index)!.pose;
    if (here && index > first) await follow(here, false, backward(source, index - 1, first));
  }
  return mended;
}

/** Frames to look at in every loss that is long enough, each with where the instrument was last known. */
function asksOf(indices: readonly number[], tracked: ReadonlyMap<number, TrackedFrame>, timeOf: (index: number) => number): InstrumentAsk[] {
  const known = indices.filter((i) => tracked.get(i)!.pose);
  if (known.length === 0) return [];
  const asks: InstrumentAsk[] = [];
  let run: number[] = [];
  const close = () => {
    if (run.length > 0 && timeOf(run[run.length - 1]!) - timeOf(run[0]!) >= LEAST_LOST) {
      let next = timeOf(run[0]!) + EVERY / 2;
      for (const index of run) {
        if (timeOf(index) < next) continue;
        next = timeOf(index) + EVERY;
        const nearest = known.reduce((a, b) => (Math.abs(b - index) < Math.abs(a - index) ? b : a));
        asks.push({ index, near: tracked.get(nearest)!.pose! });
      }
    }
    run = [];
  };
  for (const index of indices) {
    if (tracked.get(index)!.pose) close();
    else run.push(index);
  }
  close();
  const step = Math.ceil(asks.length / MOST_LOOKS);
  return asks.filter((_, i) => i % Math.max(1, step) === 0);
}

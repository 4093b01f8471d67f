import { layOnHair } from '../../core/bow/layOnHair';
import type { BowContext } from '../../core/bow/residuals';
import { NO_BOW } from '../../core/bow/sighting';
import { knownEnd } from '../../core/bow/stateOnLine';
import { bothInSight, LOOKED_FOR_END, LOOKED_FOR_ENDS, SURE_ENDS } from '../../core/bow/unsureEnds';
import type { Pose } from '../../core/geometry/pose';
import type { MarksSolution } from '../../core/instrument/solveMarks';
import type { TrackedFrame } from '../../core/measures/measureFrames';
import { smoothPoses } from '../../core/measures/smoothPoses';
import { withoutStrayPoses } from '../../core/measures/strayPoses';
import { type FollowedBow, followBowHere, type OpenBowFollower } from '../bow/bowFollower';
import { CLEAR_WHOLE, searchBow, searchWholeBow } from '../bow/bowSearch';
import { likeliestBow, type PosedFrame } from '../bow/likeliestBow';
import type { Belief, BowMark, WholeBow } from '../bow/markedBow';
import { ahead, backward, type Frame, type FrameAt, type FrameSource, keptFrames } from '../film/frame';
import { type InstrumentSighting, InstrumentTracker } from '../instrument/instrumentTracker';
import type { FreshLooks } from '../start/freshLooks';
import { LookOnTheWay } from './lookOnTheWay';
import { mendBow } from './mendBow';
import { mendInstrument } from './mendInstrument';
import { resumeBow } from './resumeBow';
import { settleInstrument } from './settleInstrument';

/** So many frames the bow may be behind the instrument. A fixed number, so that results do not depend on the machine. */
const BOW_BEHIND = 3;
const UNSEEN: FollowedBow = { sighting: NO_BOW, mistaken: 0, inPicture: undefined };
/** Frames to either side through which a bow with an unmarked end is tried. */
const LOOK_AROUND = 8;

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
  /** Called with each frame in which the instrument was followed, before anything is put right. */
  readonly onPosed?: (frame: Frame, pose: Pose) => void;
  /** Only frames from here to there (inclusive) are followed. */
  readonly span?: { readonly from: number; readonly to: number };
  /** Frames of known pose that help to know the instrument again, but are not followed from. */
  readonly beside?: readonly Anchor[];
  /** Single frames, where some were decoded before. */
  readonly frameAt?: FrameAt;
  /** Where the bow is followed; on this thread if not given. */
  readonly openBow?: OpenBowFollower;
  /** Looks afresh at the bow, at an instrument that was lost and at one that was followed less surely, so that what was mistaken, lost or strayed is put right. */
  readonly lookAfresh?: Pick<FreshLooks, 'bow' | 'instrument' | 'contours' | 'glance'> | undefined;
}

/**
 * Follows instrument and bow from every marked frame to half way to the next one, and to the ends of the
 * clip; then looks afresh at both, if it may. Frames come back in order. Throws the signal's reason when cancelled.
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
  const bow = (options.openBow ?? followBowHere)(context);
  let bowKnown = false;

  const frameAt = options.frameAt ?? keptFrames(source);
  const bows = new Map<number, WholeBow>();
  const unit = Math.max(source.width, source.height) / 960;
  const blurs = new Map<number, number>();
  for (const anchor of sorted) {
    const frame = await frameAt(anchor.index);
    const mark = await wholeBow(source, solution, context, anchor, frame);
    if (mark) bows.set(anchor.index, mark);
    instrument.addKeyFrame(frame, anchor.pose, mark);
    const blur = instrument.blurIn(frame, anchor.pose);
    if (blur !== undefined) blurs.set(anchor.index, blur / unit);
  }
  for (const { index, pose, bow: ends } of options.beside ?? []) {
    const { frog, tip } = ends;
    instrument.addKeyFrame(await frameAt(index), pose, frog && tip ? { frog, tip } : undefined);
  }

  const { lookAfresh, signal } = options;
  const onTheWay = lookAfresh && new LookOnTheWay(lookAfresh.glance, solution, bows.size > 0 ? context : undefined, source.times, sorted);

  /** Frames whose bow is still looked for, oldest first: the instrument goes ahead by at most so many. */
  const waiting: { seen: InstrumentSighting; t: number; picture: ImageBitmap | undefined; bow: Promise<FollowedBow> }[] = [];
  /** How blurred the frame followed from is. */
  let blur: number | undefined;
  /** Frames followed since the last mark, in the order of following. */
  const taken: number[] = [];
  const withdrawEnds = (index: number) => {
    const before = out.get(index)!;
    out.set(index, { ...before, sighting: { ...before.sighting, frog: undefined, tip: undefined } });
  };
  const takeOldest = async () => {
    const { seen, t, picture, bow: followed } = waiting.shift()!;
    const { sighting, inPicture, mistaken } = await followed;
    for (const index of taken.slice(Math.max(0, taken.length - mistaken))) withdrawEnds(index);
    taken.push(seen.index);
    if (seen.index === instrument.candidateIndex) instrument.learnCandidate(inPicture);
    const sure = seen.quality > 0;
    const tracked: TrackedFrame = { index: seen.index, t, pose: sure ? seen.pose : undefined, quality: seen.quality, blur, sighting };
    out.set(seen.index, tracked);
    await onTheWay?.see(tracked, picture);
    options.onFrame?.(tracked, out.size, total);
  };
  const run = async (anchor: Anchor, belief: Belief | undefined, frames: AsyncIterable<Frame>) => {
    instrument.startAt(anchor.pose);
    blur = blurs.get(anchor.index);
    if (belief) await bow.startAt(belief);
    taken.length = 0;
    try {
      for await (const { picture, ...frame } of frames) {
        signal?.throwIfAborted();
        if (waiting.length >= BOW_BEHIND) await takeOldest();
        const seen = instrument.follow(frame);
        if (seen.quality > 0) options.onPosed?.(frame, seen.pose);
        const followed = seen.quality > 0 && bowKnown ? bow.follow(frame, seen.pose) : Promise.resolve(UNSEEN);
        // A failure is told when its frame's turn comes.
        followed.catch(() => undefined);
        waiting.push({ seen, t: frame.t, picture, bow: followed });
      }
      while (waiting.length > 0) await takeOldest();
    } finally {
      for (const { picture } of waiting) picture?.close();
      waiting.length = 0;
    }
  };
  for (let k = 0; k < sorted.length; k++) {
    const anchor = sorted[k]!;
    const mark = bows.get(anchor.index);
    const belief = mark && (await bow.learn(await frameAt(anchor.index), anchor.pose, mark));
    bowKnown ||= belief !== undefined;
    const from = k === 0 ? span.from : Math.max(span.from, Math.ceil((sorted[k - 1]!.index + anchor.index) / 2));
    const to = k === sorted.length - 1 ? span.to : Math.min(span.to, Math.ceil((anchor.index + sorted[k + 1]!.index) / 2) - 1);
    if (to >= anchor.index) await run(anchor, belief, ahead(source.forward(Math.max(anchor.index, from), to + 1, onTheWay?.wants)));
    if (from < anchor.index) await run(anchor, belief, backward(source, Math.min(anchor.index - 1, to), from, onTheWay?.wants));
    if (mark) {
      const followed = [...out.values()].filter(({ index }) => index >= from && index <= to);
      for (const frame of layOnHair(followed, await bow.markSigma(unit), unit)) out.set(frame.index, frame);
    }
  }
  const lost = [...out.values()].flatMap(({ index, pose }) => (pose ? [] : [index]));
  if (lookAfresh) await mendInstrument({ source, camera: solution.camera, instrument, tracked: out, look: lookAfresh.instrument, signal });
  if (lookAfresh && bowKnown) {
    const known = sorted.filter((a) => bows.has(a.index));
    const learnNear = async (index: number) => {
      const anchor = known.reduce((a, b) => (Math.abs(b.index - index) < Math.abs(a.index - index) ? b : a));
      await bow.learn(await frameAt(anchor.index), anchor.pose, bows.get(anchor.index)!);
    };
    const placed = known.filter(({ bow: { frog, tip, unsure = SURE_ENDS } }) => frog && tip && bothInSight(unsure)).map((a) => a.index);
    const restored = new Set(lost.filter((index) => out.get(index)!.pose));
    await resumeBow({ source, context, bow, tracked: out, restored, learnNear, signal });
    await mendBow({ source, context, bow, tracked: out, learnNear, look: lookAfresh.bow, placed, signal });
  }
  const inOrder = withoutStrayPoses([...out.values()].sort((a, b) => a.index - b.index));
  const course = smoothPoses(inOrder.map(({ t, pose }) => ({ t, pose, evidence: pose && instrument.evidence.get(pose) })));
  if (!lookAfresh) return inOrder.map((frame, i) => ({ ...frame, pose: course[i] }));
  return settleInstrument(
    inOrder,
    course,
    solution,
    sorted.map((a) => a.index),
    lookAfresh.contours,
  );
}

/** Both ends of the hair in a marked frame; one that is not marked is looked for, with a tracker of its own for the frames around. */
async function wholeBow(source: FrameSource, solution: MarksSolution, context: BowContext, anchor: Anchor, frame: Frame): Promise<WholeBow | undefined> {
  const { frog, tip } = anchor.bow;
  const unsure = anchor.bow.unsure ?? SURE_ENDS;
  if (frog && tip) return { frog, tip, unsure };
  const end = knownEnd(frog, tip);
  if (!end) {
    const found = searchWholeBow(frame, anchor.pose, context);
    return found && found.score >= CLEAR_WHOLE ? { frog: found.frog, tip: found.tip, unsure: LOOKED_FOR_ENDS } : undefined;
  }
  const hypotheses = searchBow(frame, anchor.pose, context, end);
  if (hypotheses.length === 0) return undefined;
  const instrument = new InstrumentTracker(solution.camera, solution.model);
  instrument.addKeyFrame(frame, anchor.pose, hypotheses[0]);
  const posed = async (frames: AsyncIterable<Frame>): Promise<PosedFrame[]> => {
    instrument.startAt(anchor.pose);
    const run: PosedFrame[] = [];
    for await (const next of frames) {
      const seen = instrument.follow(next);
      if (seen.quality > 0) run.push({ frame: next, pose: seen.pose });
    }
    return run;
  };
  const after = await posed(source.forward(anchor.index + 1, Math.min(source.times.length, anchor.index + 1 + LOOK_AROUND)));
  const before = anchor.index > 0 ? await posed(backward(source, anchor.index - 1, Math.max(0, anchor.index - LOOK_AROUND))) : [];
  const found = likeliestBow({ frame, pose: anchor.pose }, context, end.which, hypotheses, { after, before });
  return found && { frog: found.frog, tip: found.tip, unsure: { frog: frog ? unsure.frog : LOOKED_FOR_END, tip: tip ? unsure.tip : LOOKED_FOR_END } };
}

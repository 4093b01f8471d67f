import { stepInside } from '../../core/geometry/pose';
import type { MarksSolution } from '../../core/instrument/solveMarks';
import { commonStep } from '../../core/start/commonStep';
import type { Frame } from '../film/frame';
import { InstrumentTracker } from '../instrument/instrumentTracker';
import type { BowInPicture } from '../instrument/keyFrame';
import type { Anchor } from './followTake';

/** A frame is laid over another so many times, each time from where it came to lie: what motion is expected must not hold it back. */
const TIMES = 3;

/** Frames of which one is followed from, the others help to know the instrument again. */
export interface PlacedFrames {
  readonly anchor: Anchor;
  readonly beside: readonly Anchor[];
}

/**
 * The frames of a start placed alike. Each was found by what its own picture shows, some pixels from where the others
 * would have it, and key frames that contradict each other draw the course to and fro. So the followed frame is laid
 * over the others; by what they say in the mean it is moved itself, unless a hand placed it, and they are put where it has
 * them. One in which it is not known again stays where it was found.
 */
export async function placeAlike(
  { camera, model }: Pick<MarksSolution, 'camera' | 'model'>,
  { anchor, beside }: PlacedFrames,
  byHand: boolean,
  frameAt: (index: number) => Promise<Frame>,
): Promise<PlacedFrames> {
  const tracker = new InstrumentTracker(camera, model);
  tracker.addKeyFrame(await frameAt(anchor.index), anchor.pose, bowIn(anchor));
  const laid = [];
  for (const found of beside) {
    const frame = await frameAt(found.index);
    let followed = found.pose;
    let known = true;
    for (let time = 0; time < TIMES && known; time++) {
      tracker.startAt(followed, true);
      const { pose, quality } = tracker.follow(frame);
      known = quality > 0;
      if (known) followed = pose;
    }
    laid.push({ found, followed: known ? followed : undefined });
  }
  const twice = laid.flatMap(({ found, followed }) => (followed ? [{ followed, found: found.pose }] : []));
  const step = byHand ? new Float64Array(6) : commonStep(camera, model, [{ followed: anchor.pose, found: anchor.pose }, ...twice]);
  return {
    anchor: { ...anchor, pose: stepInside(anchor.pose, step) },
    beside: laid.map(({ found, followed }) => (followed ? { ...found, pose: stepInside(followed, step) } : found)),
  };
}

const bowIn = ({ bow: { frog, tip } }: Anchor): BowInPicture | undefined => (frog && tip ? { frog, tip } : undefined);

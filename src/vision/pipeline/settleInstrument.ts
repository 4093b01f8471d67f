import { hairEndsOf } from '../../core/bow/sighting';
import type { MarksSolution } from '../../core/instrument/solveMarks';
import type { TrackedFrame } from '../../core/measures/measureFrames';
import { SETTLED_BELOW, settlePoses } from '../../core/measures/settlePoses';
import type { LookAtContours } from '../start/lookAtContours';

/** Seconds between two looks at the contours, and how far about a mark they are looked at too (ours). */
const EVERY = 0.2;
const ABOUT_MARK = 0.3;

/** The frames, in order, with the instrument laid on its contours where it was followed less surely (see settlePoses). `marked` are the frames the course starts from. */
export async function settleInstrument(
  tracked: readonly TrackedFrame[],
  { camera, model }: Pick<MarksSolution, 'camera' | 'model'>,
  marked: readonly number[],
  look: LookAtContours,
): Promise<TrackedFrame[]> {
  if (!tracked.some((f) => f.pose && f.quality < SETTLED_BELOW)) return [...tracked];
  const marks = tracked.filter((f) => marked.includes(f.index)).map((f) => f.t);
  let next = Number.NEGATIVE_INFINITY;
  const asks = tracked.flatMap(({ index, t, pose, quality, sighting }) => {
    if (!pose || t < next || (quality >= SETTLED_BELOW && !marks.some((m) => Math.abs(m - t) <= ABOUT_MARK))) return [];
    next = t + EVERY;
    return [{ index, pose, bow: hairEndsOf(sighting) }];
  });
  return settlePoses(tracked, await look(camera, model, asks), marked);
}

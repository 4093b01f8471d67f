import { hairEndsOf } from '../../core/bow/sighting';
import type { Camera } from '../../core/geometry/camera';
import { facingOf, type Pose, stepBetween, stepPose } from '../../core/geometry/pose';
import type { InstrumentModel } from '../../core/instrument/landmarks';
import type { MarksSolution } from '../../core/instrument/solveMarks';
import type { TrackedFrame } from '../../core/measures/measureFrames';
import { SETTLED_BELOW, settlePoses } from '../../core/measures/settlePoses';
import { settleSliding } from '../../core/measures/settleSliding';
import { instrumentBox } from '../../core/start/placeInstrument';
import { spaced } from '../film/spaced';
import type { LookAtContours, Witness } from '../start/lookAtContours';

/** Seconds between two looks at the contours, and how far about a mark they are looked at too (ours). */
export const LOOK_AT_CONTOURS_EVERY = 0.2;
const ABOUT_MARK = 0.3;

/** A plate seen from lower than this (sine of the angle) hardly tells where along itself the instrument lies (ours: films at 0.24 and less gained by points, one at 0.32 lost). */
const LOW = 0.28;
/** In a larger box (px at 960 across) a pixel of the network is more than two of the film: the instrument is followed more finely than that (ours). */
const SMALL = 300;

/** The frames, in order, with the instrument where its `course` has it (see smoothPoses) and laid on its contours where it was followed less surely, or on its points too where it is mostly seen from low (see settlePoses, settleSliding). `marked` are the frames the course starts from. */
export async function settleInstrument(
  tracked: readonly TrackedFrame[],
  course: readonly (Pose | undefined)[],
  { camera, model }: Pick<MarksSolution, 'camera' | 'model'>,
  marked: readonly number[],
  look: LookAtContours,
): Promise<TrackedFrame[]> {
  const smoothed = tracked.map((frame, i) => ({ ...frame, pose: course[i] }));
  const posed = tracked.flatMap((f) => f.pose ?? []);
  const witness = witnessFor(posed, camera, model);
  if (witness === 'contours' && !tracked.some((f) => f.pose && f.quality < SETTLED_BELOW)) return smoothed;
  const marks = tracked.filter((f) => marked.includes(f.index)).map((f) => f.t);
  const asks = spaced(tracked, (f) => f.t, LOOK_AT_CONTOURS_EVERY).flatMap((frame) => {
    const { index, pose, sighting } = frame;
    return pose && (witness === 'points' || tellsByContours(frame, marks)) ? [{ index, pose, bow: hairEndsOf(sighting) }] : [];
  });
  // Looked at from where it was followed, for some looks were taken on the way.
  const seen = await look(camera, model, asks, witness);
  const steps = new Map(
    tracked.flatMap(({ index, pose }, i) => {
      const step = seen.get(index);
      return step && pose ? [[index, stepBetween(course[i]!, stepPose(pose, step))] as const] : [];
    }),
  );
  return witness === 'points' ? settleSliding(smoothed, steps, marked, camera, model) : settlePoses(smoothed, steps, marked);
}

/** Whether the contours of a frame are asked about: where the instrument was followed less surely, and about each mark (`marks`, s), where what they say is taken for nothing. */
export const tellsByContours = ({ t, quality }: Pick<TrackedFrame, 't' | 'quality'>, marks: readonly number[]): boolean =>
  quality < SETTLED_BELOW || marks.some((m) => Math.abs(m - t) <= ABOUT_MARK);

/** What tells most of where an instrument seen so lies. */
export function witnessFor(poses: readonly Pose[], camera: Camera, model: InstrumentModel): Witness {
  const small = (SMALL * Math.max(camera.width, camera.height)) / 960;
  const sliding = poses.filter((pose) => facingOf(pose) < LOW && (instrumentBox(camera, model, pose)?.side ?? 0) < small);
  return sliding.length > poses.length / 2 ? 'points' : 'contours';
}

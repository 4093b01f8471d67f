import { stepPose } from '../geometry/pose';
import { poseNoise, type TrackedFrame } from './measureFrames';
import { meanAbout, nearestIn, type Seen } from './stepsOverTime';

/** Frames followed less surely than this are settled on their contours (ours: above it the course of the marks' look was the better of the two on 13 clips of two renderers). */
export const SETTLED_BELOW = 0.82;
/** How far a course may be off for long, in what its noise has beyond that of a sure one, and how far contours, px at 960 across (ours, from the same clips). */
const LASTING = 4;
const CONTOURS = 1;

/**
 * The frames with their poses moved toward the contours seen in them, the more the less surely they were followed.
 * `steps` tell by how much the instrument lies elsewhere (six numbers, see stepPose); what they say in the frames marked
 * by hand, about which the course is right, is how this instrument differs from its model, and is taken off.
 */
export function settlePoses(tracked: readonly TrackedFrame[], steps: ReadonlyMap<number, ArrayLike<number>>, marked: readonly number[]): TrackedFrame[] {
  const timeOf = new Map(tracked.map((f) => [f.index, f.t]));
  const seen = [...steps].flatMap(([index, step]): Seen[] => (timeOf.has(index) ? [{ t: timeOf.get(index)!, values: step }] : [])).sort((a, b) => a.t - b.t);
  const about = meanAbout(seen, 6);
  const zeros = marked.flatMap((index) => {
    const t = timeOf.get(index);
    const step = t === undefined ? undefined : about(t);
    return t !== undefined && step ? [{ t, step }] : [];
  });
  if (zeros.length === 0) return [...tracked];
  // As sure as the frames about it: what moves poses must not shake them.
  const qualityAbout = meanAbout(
    tracked.flatMap((f) => (f.pose ? [{ t: f.t, values: [f.quality] }] : [])),
    1,
  );
  return tracked.map((frame) => {
    if (!frame.pose) return frame;
    const share = shareOf(qualityAbout(frame.t)![0]!);
    const step = share > 0 ? about(frame.t) : undefined;
    if (!step) return frame;
    const zero = nearestIn(zeros, frame.t).step;
    return {
      ...frame,
      pose: stepPose(
        frame.pose,
        step.map((v, k) => share * (v - zero[k]!)),
      ),
    };
  });
}

/** The contours' share in where an instrument followed with such a quality lies. */
function shareOf(quality: number): number {
  if (quality >= SETTLED_BELOW) return 0;
  const course = (LASTING * (poseNoise({ quality }) - poseNoise({ quality: SETTLED_BELOW }))) ** 2;
  return course / (course + CONTOURS ** 2);
}

import { stepPose } from '../geometry/pose';
import { firstFrom } from '../nearestIndex';
import { poseNoise, type TrackedFrame } from './measureFrames';

/** Frames followed less surely than this are settled on their contours (ours: above it the course of the marks' look was the better of the two on 13 clips of two renderers). */
export const SETTLED_BELOW = 0.82;
/** Contours change slowly against the course: their steps are averaged over about so many seconds (1 sigma, ours). */
const OVER = 0.25;
/** Beyond so many of these nothing counts. */
const REACH = 3;
/** How far a course may be off for long, in what its noise has beyond that of a sure one, and how far contours, px at 960 across (ours, from the same clips). */
const LASTING = 4;
const CONTOURS = 1;

const squared = (v: number) => v * v;

/**
 * The frames with their poses moved toward the instrument's contours, the more the less surely they were followed.
 * `steps` tell by how much the contours lie elsewhere (six numbers, see stepPose); what they say in the frames marked
 * by hand, about which the course is right, is how this instrument differs from the model, and is taken off.
 */
export function settlePoses(tracked: readonly TrackedFrame[], steps: ReadonlyMap<number, ArrayLike<number>>, marked: readonly number[]): TrackedFrame[] {
  const timeOf = new Map(tracked.map((f) => [f.index, f.t]));
  const seen = [...steps].flatMap(([index, step]) => (timeOf.has(index) ? [{ t: timeOf.get(index)!, values: step }] : [])).sort((a, b) => a.t - b.t);
  const about = meanAbout(seen, 6);
  const zeros = marked.flatMap((index) => {
    const t = timeOf.get(index);
    const step = t === undefined ? undefined : about(t);
    return t !== undefined && step ? [{ t, step }] : [];
  });
  if (zeros.length === 0) return [...tracked];
  const qualityAbout = meanAbout(
    tracked.flatMap((f) => (f.pose ? [{ t: f.t, values: [f.quality] }] : [])),
    1,
  );
  return tracked.map((frame) => {
    // As sure as the frames about it: what moves poses must not shake them.
    const quality = frame.pose && qualityAbout(frame.t)![0]!;
    const step = quality !== undefined && quality < SETTLED_BELOW ? about(frame.t) : undefined;
    if (!frame.pose || quality === undefined || !step) return frame;
    const zero = zeros.reduce((a, b) => (Math.abs(b.t - frame.t) < Math.abs(a.t - frame.t) ? b : a)).step;
    const course = LASTING * (poseNoise({ quality }) - poseNoise({ quality: SETTLED_BELOW }));
    const share = squared(course) / (squared(course) + squared(CONTOURS));
    return {
      ...frame,
      pose: stepPose(
        frame.pose,
        step.map((v, k) => share * (v - zero[k]!)),
      ),
    };
  });
}

/** Tells the mean over about {@link OVER} seconds to either side of a time; `list` in order of time. Undefined where nothing is near. */
function meanAbout(list: readonly { readonly t: number; readonly values: ArrayLike<number> }[], length: number): (t: number) => number[] | undefined {
  const times = Float64Array.from(list, (l) => l.t);
  return (t) => {
    const sum = new Array<number>(length).fill(0);
    let weights = 0;
    for (let i = firstFrom(times, t - REACH * OVER); i < list.length && times[i]! <= t + REACH * OVER; i++) {
      const w = Math.exp(-0.5 * squared((times[i]! - t) / OVER));
      weights += w;
      for (let k = 0; k < length; k++) sum[k]! += w * list[i]!.values[k]!;
    }
    return weights > 0 ? sum.map((v) => v / weights) : undefined;
  };
}

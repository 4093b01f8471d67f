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
/**
 * Seen from low over its plate an instrument slides along its own axis however surely it is known again, since its look
 * hardly tells where along it lies: by so much (px at 960 across) after so many seconds, alike in about so many looks
 * running. Points found in the picture, freed of what they always err by, are about {@link POINTS} off (ours, from
 * whole players of two renderers).
 */
const SLIDE = { most: 3, within: 0.3, alike: 3 } as const;
const POINTS = 1;

const squared = (v: number) => v * v;

/** What the steps of a clip were taken from: contours alone, or contours and points found in the picture too, for a clip seen from low over the plate. */
export type Witness = 'contours' | 'points';

/**
 * The frames with their poses moved toward what was seen of the instrument. `steps` tell by how much it lies elsewhere
 * (six numbers, see stepPose); what they say in the frames marked by hand, about which the course is right, is how this
 * instrument and the witness differ from the model, and is taken off. On the word of contours the less sure frames
 * are moved, the more the less surely they were followed; on that of points all, the more the longer since a mark.
 */
export function settlePoses(
  tracked: readonly TrackedFrame[],
  steps: ReadonlyMap<number, ArrayLike<number>>,
  marked: readonly number[],
  witness: Witness = 'contours',
): TrackedFrame[] {
  const timeOf = new Map(tracked.map((f) => [f.index, f.t]));
  const seen = [...steps].flatMap(([index, step]) => (timeOf.has(index) ? [{ t: timeOf.get(index)!, values: step }] : [])).sort((a, b) => a.t - b.t);
  const about = meanAbout(seen, 6);
  const zeroAt = witness === 'points' ? (t: number) => meanOf(seen, 6, (s) => 1 / (SLIDE.alike * squared(slideAfter(s.t - t)) + squared(POINTS))) : about;
  const zeros = marked.flatMap((index) => {
    const t = timeOf.get(index);
    const step = t === undefined ? undefined : zeroAt(t);
    return t !== undefined && step ? [{ t, step }] : [];
  });
  if (zeros.length === 0) return [...tracked];
  const qualityAbout = meanAbout(
    tracked.flatMap((f) => (f.pose ? [{ t: f.t, values: [f.quality] }] : [])),
    1,
  );
  /** The steps' share in where the instrument lies. */
  const shareAt = (t: number, mark: number): number => {
    if (witness === 'points') return shareOf(slideAfter(t - mark), POINTS);
    // As sure as the frames about it: what moves poses must not shake them.
    const quality = qualityAbout(t)![0]!;
    return quality < SETTLED_BELOW ? shareOf(LASTING * (poseNoise({ quality }) - poseNoise({ quality: SETTLED_BELOW })), CONTOURS) : 0;
  };
  return tracked.map((frame) => {
    if (!frame.pose) return frame;
    const zero = zeros.reduce((a, b) => (Math.abs(b.t - frame.t) < Math.abs(a.t - frame.t) ? b : a));
    const share = shareAt(frame.t, zero.t);
    const step = share > 0 ? about(frame.t) : undefined;
    if (!step) return frame;
    return {
      ...frame,
      pose: stepPose(
        frame.pose,
        step.map((v, k) => share * (v - zero.step[k]!)),
      ),
    };
  });
}

const slideAfter = (seconds: number): number => SLIDE.most * (1 - Math.exp(-Math.abs(seconds) / SLIDE.within));

/** Share that a witness with an error has in what it and a course together say. */
const shareOf = (course: number, witness: number): number => squared(course) / (squared(course) + squared(witness));

interface Step {
  readonly t: number;
  readonly values: ArrayLike<number>;
}

/** Weighted mean; undefined where nothing weighs. */
function meanOf(list: readonly Step[], length: number, weight: (step: Step) => number): number[] | undefined {
  const sum = new Array<number>(length).fill(0);
  let weights = 0;
  for (const step of list) {
    const w = weight(step);
    weights += w;
    for (let k = 0; k < length; k++) sum[k]! += w * step.values[k]!;
  }
  return weights > 0 ? sum.map((v) => v / weights) : undefined;
}

/** Tells the mean over about {@link OVER} seconds to either side of a time; `list` in order of time. Undefined where nothing is near. */
function meanAbout(list: readonly Step[], length: number): (t: number) => number[] | undefined {
  const times = Float64Array.from(list, (l) => l.t);
  return (t) => {
    const near = list.slice(firstFrom(times, t - REACH * OVER), firstFrom(times, t + REACH * OVER));
    return meanOf(near, length, (l) => Math.exp(-0.5 * squared((l.t - t) / OVER)));
  };
}

import { stepPose } from '../geometry/pose';
import { poseNoise, type TrackedFrame } from '../measures/measureFrames';

/** Frames followed less surely than this are settled on their contours (ours: above it the course of the marks' look was the better of the two on 13 clips of two renderers). */
export const SETTLED_BELOW = 0.82;
/** Contours change slowly against the course: their steps are averaged over about so many seconds (1 sigma, ours). */
const OVER = 0.25;
/** How far a course may be off, in its own noise from frame to frame beyond the least (px at 960 across), and contours, in px (ours, from the same clips). */
const LASTING = { times: 3, least: 0.1 } as const;
const CONTOURS = 1;

const squared = (v: number) => v * v;

/**
 * The frames with their poses moved toward the instrument's contours, the more the less surely they were followed.
 * `steps` tell by how much the contours lie elsewhere (six numbers, see stepPose); what they say in the frames marked
 * by hand, about which the course is right, is how this instrument differs from the model, and is taken off.
 */
export function settlePoses(tracked: readonly TrackedFrame[], steps: ReadonlyMap<number, ArrayLike<number>>, marked: readonly number[]): TrackedFrame[] {
  const timeOf = new Map(tracked.map((f) => [f.index, f.t]));
  const seen = [...steps].flatMap(([index, step]) => (timeOf.has(index) ? [{ t: timeOf.get(index)!, step }] : []));
  const about = (t: number): number[] | undefined => {
    const sum = [0, 0, 0, 0, 0, 0];
    let weights = 0;
    for (const s of seen) {
      const w = Math.exp(-0.5 * squared((s.t - t) / OVER));
      if (w < 0.01) continue;
      weights += w;
      for (let k = 0; k < 6; k++) sum[k]! += w * s.step[k]!;
    }
    return weights > 0 ? sum.map((v) => v / weights) : undefined;
  };
  const zeros = marked.flatMap((index) => {
    const t = timeOf.get(index);
    const step = t === undefined ? undefined : about(t);
    return t !== undefined && step ? [{ t, step }] : [];
  });
  if (zeros.length === 0) return [...tracked];
  return tracked.map((frame) => {
    const step = frame.pose && frame.quality < SETTLED_BELOW ? about(frame.t) : undefined;
    if (!frame.pose || !step) return frame;
    const zero = zeros.reduce((a, b) => (Math.abs(b.t - frame.t) < Math.abs(a.t - frame.t) ? b : a)).step;
    const course = LASTING.times * (poseNoise(frame.quality) - LASTING.least);
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

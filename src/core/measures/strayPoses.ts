import { NO_BOW } from '../bow/sighting';
import { runsOf } from '../runs';
import { median } from '../statistics';
import type { TrackedFrame } from './measureFrames';

/** A shorter loss is a blur or a jolt, seconds (ours). */
const LASTING = 0.25;
/**
 * On the way into a longer one the instrument had slipped where it fitted less than this share of the usual, for so many seconds at
 * most (ours: as a whole player lifted it to the shoulder its roll was off by 30 to 9 degrees where it fitted 0.55 to 0.8
 * times as well, by 6 at 0.89; re-acquired it fits at least 0.78 times).
 */
const SLIPPED = { share: 0.9, longest: 0.5 } as const;

/**
 * The frames, in order of time, without those in which the instrument was followed astray on the way into a long loss: just before it, or
 * just after it where it was followed backward. Their bow is left out with them.
 */
export function withoutStrayPoses(tracked: readonly TrackedFrame[]): TrackedFrame[] {
  const usual = median(tracked.flatMap((f) => (f.pose ? [f.quality] : [])));
  const stray = new Set<number>();
  const beside = (edge: number, step: 1 | -1) => {
    const isStray = ({ pose, quality, t }: TrackedFrame) => pose !== undefined && quality < SLIPPED.share * usual && Math.abs(t - tracked[edge]!.t) <= SLIPPED.longest;
    for (let i = edge + step; tracked[i] && isStray(tracked[i]!); i += step) stray.add(i);
  };
  for (const [from, to] of runsOf(tracked.flatMap((f, i) => (f.pose ? [] : [i])))) {
    if (tracked[to]!.t - tracked[from]!.t < LASTING) continue;
    beside(from, -1);
    beside(to, 1);
  }
  return tracked.map((frame, i) => (stray.has(i) ? { ...frame, pose: undefined, quality: 0, sighting: NO_BOW } : frame));
}

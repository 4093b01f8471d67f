import { NO_BOW } from '../bow/sighting';
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

/** The frames without those in which the instrument was followed astray just before it was lost, or just after where it was followed backward. In order of time. */
export function withoutSlips(tracked: readonly TrackedFrame[]): TrackedFrame[] {
  const usual = median(tracked.flatMap((f) => (f.pose ? [f.quality] : [])));
  const slipped = new Set<number>();
  const beside = (edge: number, step: 1 | -1) => {
    const lostAt = tracked[edge]!.t;
    for (let i = edge + step; tracked[i]?.pose && tracked[i]!.quality < SLIPPED.share * usual && Math.abs(tracked[i]!.t - lostAt) <= SLIPPED.longest; i += step) slipped.add(i);
  };
  for (let from = 0; from < tracked.length; from++) {
    if (tracked[from]!.pose) continue;
    let to = from;
    while (to + 1 < tracked.length && !tracked[to + 1]!.pose) to++;
    if (tracked[to]!.t - tracked[from]!.t >= LASTING) {
      beside(from, -1);
      beside(to, 1);
    }
    from = to;
  }
  return tracked.map((frame, i) => (slipped.has(i) ? { ...frame, pose: undefined, quality: 0, sighting: NO_BOW } : frame));
}

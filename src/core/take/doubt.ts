import { hangs } from '../body/hangs';
import { heldAtShoulder } from '../instrument/family';
import type { TrackedFrame } from '../measures/measureFrames';
import type { TakeMeasures } from './analyse';

/** A stretch in which something was not followed, in seconds and frame numbers. */
export interface DoubtfulSpan {
  readonly from: number;
  readonly to: number;
  readonly firstFrame: number;
  readonly lastFrame: number;
  readonly why: 'instrument-lost' | 'bow-lost';
}

/** Shorter gaps are bridged by their neighbours (seconds, ours). */
const MIN_SECONDS = 0.16;

/** Share of the looks in a stretch in which the bow arm hangs: then there was nothing to follow (ours). */
const MOST_HANGING = 0.5;

/** Lists the stretches that one more mark would mend: where something was lost, and by what was seen of the player the bow was in use. */
export function doubtfulSpans({ tracked: frames, bodies = [], family }: Pick<TakeMeasures, 'tracked' | 'bodies' | 'family'>): DoubtfulSpan[] {
  const spans: DoubtfulSpan[] = [];
  let start = 0;
  const kind = (f: TrackedFrame) => (!f.pose ? 'instrument-lost' : !f.sighting.line ? 'bow-lost' : undefined);
  for (let i = 1; i <= frames.length; i++) {
    const current = kind(frames[start]!);
    if (i < frames.length && kind(frames[i]!) === current) continue;
    const from = frames[start]!.t;
    const to = frames[i - 1]!.t;
    if (current && to - from >= MIN_SECONDS) {
      spans.push({ from, to, firstFrame: frames[start]!.index, lastFrame: frames[i - 1]!.index, why: current });
    }
    start = i;
  }
  if (!heldAtShoulder(family)) return spans;
  return spans.filter(({ from, to }) => {
    const looks = bodies.flatMap(({ t, joints }) => (joints && t >= from && t <= to ? [hangs(joints, 'wrist.right')] : []));
    return looks.length === 0 || looks.filter(Boolean).length <= MOST_HANGING * looks.length;
  });
}

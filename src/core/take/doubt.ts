import type { TrackedFrame } from '../measures/measureFrames';

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

/** Lists the stretches that one more mark would mend. */
export function doubtfulSpans(frames: readonly TrackedFrame[]): DoubtfulSpan[] {
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
  return spans;
}

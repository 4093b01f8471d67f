import type { BowContext } from '../../core/bow/residuals';
import type { KnownEnd } from '../../core/bow/stateOnLine';
import { LOOKED_FOR_END } from '../../core/bow/unsureEnds';
import type { Pose } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import type { Frame } from '../film/frame';
import type { BowHypothesis } from './bowSearch';
import { BowTracker } from './bowTracker';

/** A neighbouring frame in which the instrument is known. */
export interface PosedFrame {
  readonly frame: Frame;
  readonly pose: Pose;
}

/** Below this a line that looked like a bow did not go on being one (ours). */
const LEAST_TRUST = 0.25;

/**
 * The bow in a frame in which only one end of its hair is marked. Lines that look like a bow there are each
 * followed through the neighbouring frames, forward and back; the one that stays a bow wins, so that a
 * shelf's edge or a sleeve's seam, which lies still, does not.
 */
export function likeliestBow(
  anchor: PosedFrame,
  context: BowContext,
  known: KnownEnd['which'],
  hypotheses: readonly BowHypothesis[],
  neighbours: { readonly after: readonly PosedFrame[]; readonly before: readonly PosedFrame[] },
): { readonly frog: Vec2; readonly tip: Vec2 } | undefined {
  let best: { h: BowHypothesis; value: number; trust: number } | undefined;
  for (const h of hypotheses) {
    const trust = follow(anchor, context, h, known, neighbours);
    const value = trust + 0.25 * Math.min(1.5, h.score);
    if (!best || value > best.value) best = { h, value, trust };
  }
  if (!best || best.trust < LEAST_TRUST) return undefined;
  return { frog: best.h.frog, tip: best.h.tip };
}

/** Mean likeness of the line over the neighbouring frames; a frame without an end counts less, a lost one as none. */
function follow(
  anchor: PosedFrame,
  context: BowContext,
  h: BowHypothesis,
  known: KnownEnd['which'],
  neighbours: { readonly after: readonly PosedFrame[]; readonly before: readonly PosedFrame[] },
): number {
  let sum = 0;
  let n = 0;
  for (const run of [neighbours.after, neighbours.before]) {
    const tracker = new BowTracker(context);
    tracker.learn(anchor.frame, anchor.pose, { frog: h.frog, tip: h.tip, unsure: { frog: known === 'tip' ? LOOKED_FOR_END : 0, tip: known === 'frog' ? LOOKED_FOR_END : 0 } });
    for (const { frame, pose } of run) {
      const seen = tracker.follow(frame, pose);
      sum += seen.line ? seen.score * (seen.frog || seen.tip ? 1 : 0.6) : 0;
      n++;
    }
  }
  return n ? sum / n : 0;
}

import { placedInSight, type UnsureEnds } from '../../core/bow/unsureEnds';
import type { Vec2 } from '../../core/geometry/vec3';
import type { EndScale, FoundEnd } from './endPatch';

/** The seen length may change by this share from one frame to the next before an end counts as mistaken (ours). */
const MOST_STRETCH = 0.03;
/** Below this share the ends agree without a question; how much better (likeness of both ends) one motion must be than the other to be believed alone (ours). */
const LEAST_STRETCH = 0.012;
export const CLEARLY_BETTER = 0.12;
/** One end alone must be so much clearer than the next best place (ours). */
const ALONE_CLEAR = 0.1;

/** The ends of the hair as they were found, if they were. */
export interface FoundEnds {
  readonly frog: FoundEnd | undefined;
  readonly tip: FoundEnd | undefined;
}

/** Where the ends are expected, on a line that runs from frog to tip along `u`. */
export interface ExpectedEnds {
  readonly at: { readonly frog: Vec2; readonly tip: Vec2 };
  readonly u: Vec2;
  readonly scales: { readonly frog: EndScale; readonly tip: EndScale };
  /** How unsurely they were first placed. */
  readonly unsure: UnsureEnds;
}

/** How much the picture at a place looks like an end of the bow, and like the bow ending there. */
export type EndLikeness = (which: 'frog' | 'tip', place: Vec2) => number;

/** Both ends moved along the bow by so many mm. */
function shiftedEnds({ at, u, scales }: ExpectedEnds, mm: number): { frog: Vec2; tip: Vec2 } {
  const by = (p: Vec2, scale: EndScale): Vec2 => [p[0] + u[0] * mm * scale.along, p[1] + u[1] * mm * scale.along];
  return { frog: by(at.frog, scales.frog), tip: by(at.tip, scales.tip) };
}

const clearAlone = (end: FoundEnd | undefined) => (end && end.clear > ALONE_CLEAR ? end : undefined);

const trusted = (end: FoundEnd | undefined): end is FoundEnd => end !== undefined && ((end.score > 0.5 && end.clear > 0.03) || (end.score > 0.3 && end.clear > 0.12));

/**
 * The ends that can be believed. The bow moves as a whole: when the ends have moved differently, one was
 * mistaken, often because the true one is outside the picture or what lies behind it rests. Each end's motion is
 * then tried on the other; the motion under which both look more like themselves is the bow's. Where that does
 * not tell, the end that was out of sight when it was placed goes, else the one that moved more.
 */
export function agreeingEnds({ frog, tip }: FoundEnds, ends: ExpectedEnds, likeness: EndLikeness): FoundEnds {
  const { at: expected, u, scales, unsure } = ends;
  const found = { frog: trusted(frog) ? frog : undefined, tip: trusted(tip) ? tip : undefined };
  if (!found.frog || !found.tip) return { frog: clearAlone(found.frog), tip: clearAlone(found.tip) };
  const moved = (end: FoundEnd, from: Vec2) => (end.point[0] - from[0]) * u[0] + (end.point[1] - from[1]) * u[1];
  const length = Math.hypot(expected.tip[0] - expected.frog[0], expected.tip[1] - expected.frog[1]);
  const [byFrog, byTip] = [moved(found.frog, expected.frog), moved(found.tip, expected.tip)];
  const apart = Math.abs(byFrog - byTip);
  if (apart < LEAST_STRETCH * length) return found;
  const asFrog = found.frog.score + likeness('tip', shiftedEnds(ends, byFrog / scales.frog.along).tip);
  // The tip's own extent is left out: over the room it speaks for itself too easily.
  const asTip = found.tip.score + likeness('frog', shiftedEnds(ends, byTip / scales.tip.along).frog);
  if (Math.abs(asFrog - asTip) > CLEARLY_BETTER) return asFrog > asTip ? { frog: found.frog, tip: undefined } : { frog: undefined, tip: found.tip };
  if (apart < MOST_STRETCH * length) return found;
  const inSight = { frog: placedInSight(unsure.frog), tip: placedInSight(unsure.tip) };
  const frogStays = inSight.frog === inSight.tip ? Math.abs(byFrog) < Math.abs(byTip) : inSight.frog;
  return frogStays ? { frog: found.frog, tip: undefined } : { frog: undefined, tip: found.tip };
}

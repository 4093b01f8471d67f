import type { BowOnString, BowState } from '../../core/bow/bowState';
import type { BowContext } from '../../core/bow/residuals';
import type { BowSighting } from '../../core/bow/sighting';
import { solveFrame } from '../../core/bow/solveFrame';
import { bothInSight, placedInSight, SURE_ENDS, type UnsureEnds } from '../../core/bow/unsureEnds';
import type { Pose } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import type { BowInPicture } from '../instrument/keyFrame';

/** The bow's ends as placed in a frame, and how surely. */
export interface BowMark {
  readonly frog: Vec2 | undefined;
  readonly tip: Vec2 | undefined;
  readonly unsure?: UnsureEnds;
}

/** Both ends of the hair in a marked frame; an end placed by guess or looked for is only a start. */
export interface WholeBow extends BowInPicture {
  readonly unsure?: UnsureEnds;
}

/** State and string the tracker believes in; only a start for the next frame, not a measurement. */
export type Belief = BowOnString;

/** The four-number state on the likeliest string of a bow whose hair has its ends there; `unit` px at 960 across. */
export function beliefFromEnds(context: BowContext, pose: Pose, mark: WholeBow, unit: number): Belief {
  const sighting = sightingOfMark(mark, unit);
  let best: { belief: Belief; cost: number } | undefined;
  for (let string = 0; string < context.strings.length; string++) {
    const start: BowState = { contact: 0.5 * context.strings[0]!.nut[0] * 0.17, skew: 0, inclination: context.levels.natural[string]!, position: 0.5 };
    const solved = solveFrame(context, pose, sighting, string, start);
    if (!best || solved.cost < best.cost) best = { belief: { state: solved.state, string }, cost: solved.cost };
  }
  return best!.belief;
}

/** A mark read as a sighting: the line through both ends, each end as sure as it was placed. */
export function sightingOfMark(mark: WholeBow, unit: number): BowSighting {
  const sigma = 0.8 * unit;
  const unsure = mark.unsure ?? SURE_ENDS;
  return {
    line: { a: mark.frog, b: mark.tip, shareA: 0, shareB: 1, sigmaA: placedInSight(unsure.frog) ? sigma : 1.5 * sigma, sigmaB: placedInSight(unsure.tip) ? sigma : 1.5 * sigma },
    frog: { point: mark.frog, sigma: Math.max(unsure.frog * unit, sigma) },
    tip: { point: mark.tip, sigma: Math.max(unsure.tip * unit, sigma) },
    lengthKnown: bothInSight(unsure),
    score: 1,
  };
}

import type { BowOnString, BowState } from '../../core/bow/bowState';
import type { BowContext } from '../../core/bow/residuals';
import type { BowSighting } from '../../core/bow/sighting';
import { solveFrame } from '../../core/bow/solveFrame';
import type { Pose } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import type { BowInPicture } from '../instrument/keyFrame';

/** The bow's ends as marked in a frame. A guessed end was hidden and placed by judgement. */
export interface BowMark {
  readonly frog: Vec2 | undefined;
  readonly tip: Vec2 | undefined;
  readonly frogGuessed?: boolean;
  readonly tipGuessed?: boolean;
}

/** Both ends of the hair in a marked frame; an end placed by guess or looked for is only a start. */
export interface WholeBow extends BowInPicture {
  readonly frogGuessed?: boolean;
  readonly tipGuessed?: boolean;
}

/** State and string the tracker believes in; only a start for the next frame, not a measurement. */
export type Belief = BowOnString;

/** How far along the bow an end placed by guess may be off (px at 960 across; section 7 of the measurement reference). */
export const GUESS_SIGMA = 6;

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
  return {
    line: { a: mark.frog, b: mark.tip, shareA: 0, shareB: 1, sigmaA: mark.frogGuessed ? 1.5 * sigma : sigma, sigmaB: mark.tipGuessed ? 1.5 * sigma : sigma },
    frog: { point: mark.frog, sigma: mark.frogGuessed ? GUESS_SIGMA * unit : sigma },
    tip: { point: mark.tip, sigma: mark.tipGuessed ? GUESS_SIGMA * unit : sigma },
    lengthKnown: !mark.frogGuessed && !mark.tipGuessed,
    score: 1,
  };
}

import type { Pose } from '../geometry/pose';
import type { BowState } from './bowState';
import type { BowContext } from './residuals';
import type { BowSighting } from './sighting';
import { solveFrame } from './solveFrame';

/** One frame of a clip for the bow's estimate; pose absent where the instrument was lost. */
export interface BowFrame {
  readonly t: number;
  readonly pose: Pose | undefined;
  readonly sighting: BowSighting;
}

/** A change of string must be worth this much (chi squared) for each string crossed. */
export const SWITCH_COST = 2.5;
/** How far skew and inclination go in a frame at 25 frames/s (degrees, 1 sigma): skew is stiff, a crossing is inclination. */
const SKEW_STEP = 2;
const INCLINATION_STEP = 5;
/**
 * The seen length errs alike for many frames (share, ours): a bow that looks a per cent or two short must not be
 * put on another string for it.
 */
const STRING_LENGTH_SIGMA = 0.06;
/** No single frame may decide alone. */
const COST_CAP = 30;

interface Candidate {
  readonly state: BowState;
  readonly cost: number;
}

/**
 * The string the bow lies on in every frame and a first state on it: four hypotheses a frame, the cheapest way
 * through all frames (Viterbi). Frames without a seen line carry the neighbours' string and no state.
 */
export function chooseStrings(given: BowContext, frames: readonly BowFrame[]): { strings: number[]; states: (BowState | undefined)[] } {
  const context = { ...given, lengthSigma: STRING_LENGTH_SIGMA };
  const count = context.strings.length;
  const start = (string: number): BowState => ({
    contact: context.strings[0]!.nut[0] * 0.09,
    skew: 0,
    inclination: context.levels.natural[string]!,
    position: 0.5,
  });
  let previous: (BowState | undefined)[] = Array.from({ length: count }, () => undefined);
  const candidates = frames.map((frame): Candidate[] | undefined => {
    if (!frame.pose || !frame.sighting.line) return undefined;
    const solved = Array.from({ length: count }, (_, string) => {
      const near = previous[string];
      return solveFrame(context, frame.pose!, frame.sighting, string, near ?? start(string));
    });
    previous = solved.map((s) => s.state);
    return solved;
  });
  const seen = candidates.flatMap((c, i) => (c ? [i] : []));
  const strings = new Array<number>(frames.length).fill(0);
  const states = new Array<BowState | undefined>(frames.length).fill(undefined);
  if (seen.length === 0) return { strings, states };

  let costs = candidates[seen[0]!]!.map((c) => Math.min(COST_CAP, c.cost));
  const back: number[][] = [];
  for (let k = 1; k < seen.length; k++) {
    const here = candidates[seen[k]!]!;
    const before = candidates[seen[k - 1]!]!;
    const span = Math.max(0.2, (frames[seen[k]!]!.t - frames[seen[k - 1]!]!.t) * 25);
    const from: number[] = [];
    costs = here.map((c, string) => {
      let best = Number.POSITIVE_INFINITY;
      let origin = string;
      before.forEach((b, other) => {
        const skew = (c.state.skew - b.state.skew) / SKEW_STEP;
        const inclination = (c.state.inclination - b.state.inclination) / INCLINATION_STEP;
        const total = costs[other]! + SWITCH_COST * Math.abs(string - other) + Math.min(COST_CAP, (skew * skew + inclination * inclination) / span);
        if (total < best) {
          best = total;
          origin = other;
        }
      });
      from.push(origin);
      return best + Math.min(COST_CAP, c.cost);
    });
    back.push(from);
  }
  let string = costs.indexOf(Math.min(...costs));
  for (let k = seen.length - 1; k >= 0; k--) {
    const i = seen[k]!;
    strings[i] = string;
    states[i] = candidates[i]![string]!.state;
    if (k > 0) string = back[k - 1]![string]!;
  }
  // Unseen frames: the string of the nearest seen one.
  let next = 0;
  for (let i = 0; i < frames.length; i++) {
    while (next + 1 < seen.length && Math.abs(seen[next + 1]! - i) <= Math.abs(seen[next]! - i)) next++;
    strings[i] = strings[seen[next]!]!;
  }
  return { strings, states };
}

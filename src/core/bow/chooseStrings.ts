import type { Pose } from '../geometry/pose';
import type { BowState } from './bowState';
import { type BowContext, MID_STRIP } from './residuals';
import type { BowSighting } from './sighting';
import { solveFrame } from './solveFrame';

/** One frame of a clip for the bow's estimate; pose absent where the instrument was lost. */
export interface BowFrame {
  readonly t: number;
  readonly pose: Pose | undefined;
  readonly sighting: BowSighting;
  /** How the pose may be off: steps (see stepPose) of 1 sigma, one a column, 6 x 6 row-major; absent where it is held for exact. */
  readonly poseSpread?: Float64Array | undefined;
  /** What the sound speaks against each string (chi squared); absent where it says nothing. */
  readonly heard?: readonly number[] | undefined;
  /** Two neighbouring strings that sound at once, the lower first; absent where none were heard so. */
  readonly together?: readonly [number, number] | undefined;
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

/** A string that might have been played instead, and how the bow would then lie. */
export interface OtherString {
  /** 0..0.5 */
  readonly probability: number;
  readonly state: BowState;
}

export interface StringChoice {
  readonly strings: number[];
  readonly states: (BowState | undefined)[];
  /** The likeliest other reading of each frame; where no bow was seen, of the nearest one in which it was. */
  readonly others: (OtherString | undefined)[];
}

/** Frames err alike for about this long: so many seconds count as one piece of evidence for a string (ours). */
const EVIDENCE_MEMORY = 0.2;

/**
 * The string the bow lies on in every frame and a first state on it: four hypotheses a frame, the cheapest way
 * through all frames (Viterbi). Frames without a seen line carry the neighbours' string and no state.
 */
export function chooseStrings(given: BowContext, frames: readonly BowFrame[]): StringChoice {
  const context = { ...given, lengthSigma: STRING_LENGTH_SIGMA };
  const count = context.strings.length;
  const start = (string: number): BowState => ({
    contact: context.strings[0]!.nut[0] * MID_STRIP,
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
  if (seen.length === 0) return { strings, states, others: frames.map(() => undefined) };

  const own = seen.map((i) => candidates[i]!.map((c, string) => Math.min(COST_CAP, c.cost) + (frames[i]!.heard?.[string] ?? 0)));
  const spanOf = (k: number) => Math.max(0.2, (frames[seen[k + 1]!]!.t - frames[seen[k]!]!.t) * 25);
  const stateOf = (k: number, s: number) => candidates[seen[k]!]![s]!.state;
  /** What it costs to go from a string in the k-th seen frame to another in the next. */
  const move = (k: number, from: number, to: number) => {
    const turn = ((stateOf(k + 1, to).skew - stateOf(k, from).skew) / SKEW_STEP) ** 2 / spanOf(k);
    const tilt = ((stateOf(k + 1, to).inclination - stateOf(k, from).inclination) / INCLINATION_STEP) ** 2 / spanOf(k);
    return SWITCH_COST * Math.abs(to - from) + Math.min(COST_CAP, turn + tilt);
  };
  const all = Array.from({ length: count }, (_, s) => s);
  const before: number[][] = [own[0]!];
  const back: number[][] = [];
  for (let k = 1; k < seen.length; k++) {
    const cost = (from: number, to: number) => before[k - 1]![from]! + move(k - 1, from, to);
    const origin = all.map((s) => all.reduce((a, b) => (cost(b, s) < cost(a, s) ? b : a)));
    back.push(origin);
    before.push(all.map((s) => own[k]![s]! + cost(origin[s]!, s)));
  }
  const path = new Array<number>(seen.length);
  const end = before[seen.length - 1]!;
  path[seen.length - 1] = end.indexOf(Math.min(...end));
  for (let k = seen.length - 1; k > 0; k--) path[k - 1] = back[k - 1]![path[k]!]!;
  seen.forEach((i, k) => {
    strings[i] = path[k]!;
    states[i] = candidates[i]![path[k]!]!.state;
  });
  // How much worse would each run of one string fit on another string, as a whole?
  const others = new Array<OtherString | undefined>(frames.length).fill(undefined);
  for (let first = 0; first < seen.length; ) {
    let last = first;
    while (last + 1 < seen.length && path[last + 1] === path[first]) last++;
    const string = path[first]!;
    // Jumps of level and skew at the run's ends are what a crossing looks like; only the switches count.
    const joints = (s: number) => SWITCH_COST * ((first > 0 ? Math.abs(path[first - 1]! - s) : 0) + (last + 1 < seen.length ? Math.abs(path[last + 1]! - s) : 0));
    const margin = (s: number) => {
      let sum = joints(s) - joints(string);
      for (let k = first; k <= last; k++) {
        const step = k > 0 ? frames[seen[k]!]!.t - frames[seen[k - 1]!]!.t : 0.04;
        sum += (own[k]![s]! - own[k]![string]!) * Math.min(1, step / EVIDENCE_MEMORY);
      }
      return sum;
    };
    const other = all.filter((s) => s !== string).reduce((a, b) => (margin(b) < margin(a) ? b : a));
    const probability = 1 / (1 + Math.exp(Math.max(0, margin(other)) / 2));
    for (let k = first; k <= last; k++) others[seen[k]!] = { probability, state: candidates[seen[k]!]![other]!.state };
    first = last + 1;
  }
  // Unseen frames: the string of the nearest seen one, and its doubt.
  let next = 0;
  for (let i = 0; i < frames.length; i++) {
    while (next + 1 < seen.length && Math.abs(seen[next + 1]! - i) <= Math.abs(seen[next]! - i)) next++;
    strings[i] = strings[seen[next]!]!;
    others[i] = others[seen[next]!];
  }
  return { strings, states, others };
}

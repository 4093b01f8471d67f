import type { StringLevels } from '../instrument/strings';
import type { LevelStep } from '../levels/levelTable';
import type { FrameMeasures } from '../measures/measures';
import { median, quantile } from '../statistics';
import type { Crossing } from './crossings';

/** What moved the bow from one level to the other. */
export type Mover = 'shoulder' | 'wrist' | 'both';

/** All crossings of a clip between two strings in one direction. */
export interface CrossingPair {
  /** Names of the string that is left and of the one that is reached. */
  readonly leaves: string;
  readonly reaches: string;
  readonly count: number;
  /** Seconds the bow takes over the middle four fifths of the way between the levels: short = quick. */
  readonly seconds?: number;
  /** How far the bow passes the new level before it settles, degrees. */
  readonly overshoot?: number;
  /** Note after bow, seconds, and how far the crossings differ in it. */
  readonly noteLag?: number;
  readonly noteSpread?: number;
  /** Whether the upper arm made the step, the hand below it, or both; absent where the arm's step is too doubtful. */
  readonly who?: Mover;
}

/** A crossing is looked at for so long before and after (seconds, ours). */
const ABOUT = 0.35;
/** From this share of the bow's step on the upper arm made it, below the other the wrist and forearm did (ours). */
const BY_SHOULDER = 0.6;
const BY_WRIST = 0.3;

/** Sums the crossings up by pair of strings and direction, in the order they first come. */
export function crossingPairs(
  frames: readonly FrameMeasures[],
  crossings: readonly Crossing[],
  steps: readonly LevelStep[],
  strings: readonly string[],
  levels: StringLevels,
): CrossingPair[] {
  const groups = new Map<string, Crossing[]>();
  for (const c of crossings) groups.set(`${c.leaves}>${c.reaches}`, [...(groups.get(`${c.leaves}>${c.reaches}`) ?? []), c]);
  return [...groups.values()].map((group): CrossingPair => {
    const first = group[0]!;
    const pair = [first.leaves, first.reaches];
    const [a, b] = pair.map((name) => levels.natural[strings.indexOf(name)]!) as [number, number];
    const ways = group.flatMap((c) => wayOf(frames, c.tBow, a, b) ?? []);
    const lags = group.flatMap((c) => (c.tNote === undefined ? [] : [c.tNote - c.tBow]));
    const who = moverOf(steps.find((s) => pair.includes(s.lower) && pair.includes(s.higher)));
    return {
      leaves: first.leaves,
      reaches: first.reaches,
      count: group.length,
      ...(ways.length > 0 ? { seconds: median(ways.map((w) => w.seconds)), overshoot: median(ways.map((w) => w.overshoot)) } : {}),
      ...(lags.length > 0 ? { noteLag: median(lags) } : {}),
      ...(lags.length > 2 ? { noteSpread: quantile(lags, 0.84) - quantile(lags, 0.16) } : {}),
      ...(who ? { who } : {}),
    };
  });
}

/** How long the bow takes from a tenth to nine tenths of the way, and how far it goes beyond. */
function wayOf(frames: readonly FrameMeasures[], t: number, from: number, to: number): { seconds: number; overshoot: number } | undefined {
  const course = frames.flatMap((f) => (f.values.inclination_deg && Math.abs(f.t - t) <= ABOUT ? [{ t: f.t, done: (f.values.inclination_deg.value - from) / (to - from) }] : []));
  const passes = (share: number) => {
    const i = course.findIndex((p, k) => k > 0 && p.done >= share && course[k - 1]!.done < share);
    if (i < 1) return undefined;
    const [p, q] = [course[i - 1]!, course[i]!];
    return p.t + ((share - p.done) / (q.done - p.done)) * (q.t - p.t);
  };
  const [start, end] = [passes(0.1), passes(0.9)];
  if (start === undefined || end === undefined || end < start) return undefined;
  const after = course.filter((p) => p.t >= end).map((p) => p.done);
  return { seconds: end - start, overshoot: Math.max(0, Math.max(...after) - 1) * Math.abs(to - from) };
}

function moverOf(step: LevelStep | undefined): Mover | undefined {
  if (!step?.armStep) return undefined;
  const share = step.armStep.value / step.bowStep;
  const u = step.armStep.u / step.bowStep;
  if (share - u >= BY_WRIST && share >= BY_SHOULDER) return 'shoulder';
  if (share + u <= BY_SHOULDER && share <= BY_WRIST) return 'wrist';
  return u < (BY_SHOULDER - BY_WRIST) / 2 ? 'both' : undefined;
}

import type { StringLevels } from '../instrument/strings';
import type { FrameMeasures } from '../measures/measures';
import { mean } from '../statistics';

/** The bow passes from one string to another. */
export interface StringChange {
  /** Names of the string that is left and of the one that is reached. */
  readonly leaves: string;
  readonly reaches: string;
  /** Time (s) at which the inclination crosses the boundary between them; of several strings, the last boundary. */
  readonly t: number;
}

/** Two strings under the hair at once. */
export interface TwoStringTouch {
  readonly from: number;
  readonly to: number;
  /** Lower string first. */
  readonly strings: readonly [string, string];
  /** Mean place on the bow, 0 frog .. 1 tip; absent where unknown. */
  readonly position?: number;
  /** Mean standard uncertainty of the inclination, degrees: more than the hair's give leaves the touch doubtful. */
  readonly u: number;
  /** While the string changes, rather than inside one. */
  readonly inChange: boolean;
}

/** The hair gives way by about this much (degrees to either side of a boundary; ours). */
export const HAIR_GIVE = 1.5;
/** Shorter touches are not told apart from noise (seconds, ours). */
const LEAST_TOUCH = 0.08;
/** A touch so near a change belongs to it (seconds, ours). */
const NEAR_CHANGE = 0.2;
/** A string held for less than this is a slip of the estimate, not a change (seconds, ours). */
const LEAST_HOLD = 0.1;

/** Changes of string with the time of each, to a fraction of a frame. */
export function stringChanges(frames: readonly FrameMeasures[], strings: readonly string[], levels: StringLevels): StringChange[] {
  const runs: { string: number; first: number; last: number }[] = [];
  frames.forEach((f, i) => {
    if (!f.string) return;
    const string = strings.indexOf(f.string);
    const run = runs[runs.length - 1];
    if (run && run.string === string) run.last = i;
    else runs.push({ string, first: i, last: i });
  });
  const held = runs.filter((r) => frames[r.last]!.t - frames[r.first]!.t >= LEAST_HOLD);
  const changes: StringChange[] = [];
  for (let k = 1; k < held.length; k++) {
    const [a, b] = [held[k - 1]!, held[k]!];
    if (a.string === b.string) continue;
    // Boundary i lies between string i and i + 1; the last one passed is next to the string arrived at.
    const boundary = levels.boundary[b.string > a.string ? b.string - 1 : b.string]!;
    changes.push({ leaves: strings[a.string]!, reaches: strings[b.string]!, t: crossingTime(frames, a.last, b.first, boundary) });
  }
  return changes;
}

function crossingTime(frames: readonly FrameMeasures[], from: number, to: number, boundary: number): number {
  for (let i = Math.max(1, from - 2); i <= Math.min(frames.length - 1, to + 2); i++) {
    const a = frames[i - 1]!.values.inclination_deg?.value;
    const b = frames[i]!.values.inclination_deg?.value;
    if (a === undefined || b === undefined || (a - boundary) * (b - boundary) > 0 || a === b) continue;
    return frames[i - 1]!.t + ((boundary - a) / (b - a)) * (frames[i]!.t - frames[i - 1]!.t);
  }
  return (frames[from]!.t + frames[to]!.t) / 2;
}

/** Stretches in which the hair lies on two strings: the inclination is within the hair's give of a boundary. How sure that is, `u` tells. */
export function twoStringTouches(frames: readonly FrameMeasures[], strings: readonly string[], levels: StringLevels): TwoStringTouch[] {
  const changes = stringChanges(frames, strings, levels);
  const touches: TwoStringTouch[] = [];
  let start: { i: number; boundary: number } | undefined;
  const nearest = (f: FrameMeasures): number | undefined => {
    const value = f.values.inclination_deg?.value;
    if (value === undefined) return undefined;
    const k = levels.boundary.findIndex((b) => Math.abs(value - b) <= HAIR_GIVE);
    return k < 0 ? undefined : k;
  };
  for (let i = 0; i <= frames.length; i++) {
    const boundary = i < frames.length ? nearest(frames[i]!) : undefined;
    if (start && boundary === start.boundary) continue;
    if (start) {
      const inside = frames.slice(start.i, i);
      const [from, to] = [inside[0]!.t, inside[inside.length - 1]!.t];
      const positions = inside.flatMap((f) => (f.values.bow_position ? [f.values.bow_position.value] : []));
      if (to - from >= LEAST_TOUCH) {
        touches.push({
          from,
          to,
          strings: [strings[start.boundary]!, strings[start.boundary + 1]!],
          ...(positions.length ? { position: mean(positions) } : {}),
          u: mean(inside.map((f) => f.values.inclination_deg!.u)),
          inChange: changes.some((c) => c.t > from - NEAR_CHANGE && c.t < to + NEAR_CHANGE),
        });
      }
    }
    start = boundary === undefined ? undefined : { i, boundary };
  }
  return touches;
}

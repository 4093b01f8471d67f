import type { StringLevels } from '../instrument/strings';
import { type StringChange, stringChanges } from '../levels/stringChanges';
import type { FrameMeasures, Measured } from '../measures/measures';
import type { HeardNote } from '../sound/heard';
import { mean, median } from '../statistics';

/** One crossing by its clocks: bow, note and elbow. Times in seconds of the film. */
export interface Crossing {
  /** Names of the string that is left and of the one that is reached. */
  readonly leaves: string;
  readonly reaches: string;
  /** When the bow's inclination passes the boundary. */
  readonly tBow: number;
  /** When the new string's note starts; absent without sound or a note that fits. */
  readonly tNote?: number;
  /** When the upper arm passes half way between its heights on the two strings; absent where that is known to worse than {@link MOST_ELBOW_DOUBT}. */
  readonly tElbow?: Measured;
}

/** Half-way times of the elbow with more doubt (s) say nothing; from measurement-reference, section 6. */
const MOST_ELBOW_DOUBT = 0.04;
/** A note belongs to a crossing when it starts within this of it (seconds, ours). */
const REACH = 0.3;
/** The arm passes half way within this of the bow (seconds, ours). */
const ARM_REACH = 0.5;

/** Changes of string with the note and the elbow that belong to each. `strings` from the lowest; `notes` in film time. */
export function crossingsOf(frames: readonly FrameMeasures[], strings: readonly string[], levels: StringLevels, notes: readonly HeardNote[]): Crossing[] {
  const heights = strings.map((name) => frames.flatMap((f) => (f.string === name && f.values.upper_arm_elevation_deg ? [f.values.upper_arm_elevation_deg.value] : [])));
  return stringChanges(frames, strings, levels).map((change): Crossing => {
    const note = nearestNote(notes, strings.indexOf(change.reaches), change.t);
    const tElbow = elbowTime(frames, change, heights[strings.indexOf(change.leaves)]!, heights[strings.indexOf(change.reaches)]!);
    return {
      leaves: change.leaves,
      reaches: change.reaches,
      tBow: change.t,
      ...(note ? { tNote: note.from } : {}),
      ...(tElbow && tElbow.u <= MOST_ELBOW_DOUBT ? { tElbow } : {}),
    };
  });
}

function nearestNote(notes: readonly HeardNote[], string: number, t: number): HeardNote | undefined {
  const near = notes.filter((n) => n.string === string && !n.again && Math.abs(n.from - t) <= REACH);
  return near.length > 0 ? near.reduce((a, b) => (Math.abs(b.from - t) < Math.abs(a.from - t) ? b : a)) : undefined;
}

function elbowTime(frames: readonly FrameMeasures[], change: StringChange, on: readonly number[], off: readonly number[]): Measured | undefined {
  if (on.length < 5 || off.length < 5) return undefined;
  const half = (median(on) + median(off)) / 2;
  const near = frames.filter((f) => Math.abs(f.t - change.t) <= ARM_REACH && f.values.upper_arm_elevation_deg);
  for (let i = 1; i < near.length; i++) {
    const a = near[i - 1]!.values.upper_arm_elevation_deg!;
    const b = near[i]!.values.upper_arm_elevation_deg!;
    if ((a.value - half) * (b.value - half) > 0 || a.value === b.value) continue;
    const step = near[i]!.t - near[i - 1]!.t;
    const slope = Math.abs(b.value - a.value) / step;
    return { value: near[i - 1]!.t + ((half - a.value) / (b.value - a.value)) * step, u: mean([a.u, b.u]) / slope };
  }
  return undefined;
}

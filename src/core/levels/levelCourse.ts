import type { StringLevels } from '../instrument/strings';
import type { FrameMeasures, Measured } from '../measures/measures';
import { mean, quantile } from '../statistics';

/** Parts of the bow along which the level is followed. */
export const BOW_PARTS = 6;

/** How a string's level is kept along the bow. */
export interface LevelPart {
  /** Middle of the part, bow position 0..1. */
  readonly position: number;
  readonly seconds: number;
  /** Mean departure from the string's natural level, degrees, + toward the lower string's side. */
  readonly departure: Measured;
  /** Angle left to the nearer neighbour in the closest twentieth of the frames, degrees. */
  readonly margin: number;
}

export interface LevelCourse {
  readonly string: string;
  readonly parts: readonly LevelPart[];
  /** The part in which least is left to a neighbour. */
  readonly closest: LevelPart;
}

/** Fewer frames than this say nothing of a part (ours). */
const LEAST_FRAMES = 4;

/** For every string: where along the bow its level is kept, and where it comes near a neighbour. Strings from the lowest. */
export function levelCourses(frames: readonly FrameMeasures[], strings: readonly string[], levels: StringLevels): LevelCourse[] {
  const step = medianStep(frames);
  return strings.flatMap((string, index) => {
    const parts = Array.from({ length: BOW_PARTS }, (_, k) => {
      const inside = frames.filter((f) => {
        const p = f.values.bow_position?.value;
        return f.string === string && p !== undefined && f.values.inclination_deg && Math.min(BOW_PARTS - 1, Math.floor(p * BOW_PARTS)) === k;
      });
      const margins = inside.flatMap((f) => (f.values.level_margin_deg ? [f.values.level_margin_deg.value] : []));
      if (inside.length < LEAST_FRAMES || margins.length === 0) return undefined;
      const departures = inside.map((f) => f.values.inclination_deg!.value - levels.natural[index]!);
      return {
        position: (k + 0.5) / BOW_PARTS,
        seconds: inside.length * step,
        departure: { value: mean(departures), u: mean(inside.map((f) => f.values.inclination_deg!.u)) },
        margin: quantile(margins, 0.05),
      };
    }).filter((p) => p !== undefined);
    return parts.length ? [{ string, parts, closest: parts.reduce((a, b) => (b.margin < a.margin ? b : a)) }] : [];
  });
}

function medianStep(frames: readonly FrameMeasures[]): number {
  const steps = frames.slice(1).map((f, i) => f.t - frames[i]!.t);
  return steps.length ? quantile(steps, 0.5) : 0;
}

import type { StringLevels } from '../instrument/strings';
import type { FrameMeasures, Measured } from '../measures/measures';
import { deviation, mean, median } from '../statistics';
import type { Stroke } from '../strokes/stroke';

/** How one string's level was reached over a clip. */
export interface StringLevel {
  readonly string: string;
  readonly strokes: number;
  /** Inclination of the bow, degrees: median over the strokes. */
  readonly bow: Measured;
  /** How far the strokes differ in it (1 sigma, degrees); absent with fewer than two strokes. */
  readonly bowSpread?: number;
  /** Height of the upper arm, degrees; absent where the arm was not measured. */
  readonly arm?: Measured;
  readonly armSpread?: number;
}

/** Two neighbouring strings' levels against each other. */
export interface LevelStep {
  readonly lower: string;
  readonly higher: string;
  /** Bow's step between the two levels, as a share of the instrument's own: 1 = each fully reached, 0 = one level for both. */
  readonly bowShare: number;
  /** Step of the bow's inclination, degrees. */
  readonly bowStep: number;
  /** Step of the upper arm, degrees, + = higher on the lower string (violin, viola); absent where the arm was not measured. */
  readonly armStep?: Measured;
  /** The arm's step against the spread within the strings: below about 2 the levels are not distinct (ours). */
  readonly distinctness?: number;
}

export interface LevelTable {
  readonly levels: readonly StringLevel[];
  readonly steps: readonly LevelStep[];
  /** Strings of the instrument on which no level was held, from the lowest. */
  readonly missing: readonly string[];
  /** Neighbours for which the bow took up nearly the same level: less than {@link DOUBLED} of the step between them. */
  readonly doubled: readonly (readonly [string, string])[];
}

/** Two levels nearer together than this share of the instrument's own step are one (ours). */
const DOUBLED = 0.5;

/** Frames of a stroke that show its level: the ends belong to the crossings (share of its time, ours). */
const ENDS = 0.2;
/** Least spread of an arm's level that is believed, degrees: smaller ones are luck (ours). */
const LEAST_SPREAD = 1;

/** Levels of bow and arm on every string played, and how distinct neighbours are. `strings` from the lowest. */
export function levelTable(frames: readonly FrameMeasures[], strokes: readonly Stroke[], strings: readonly string[], natural: StringLevels): LevelTable {
  const read = (stroke: Stroke, quantity: 'inclination_deg' | 'upper_arm_elevation_deg'): Measured | undefined => {
    const inset = ENDS * (stroke.to - stroke.from);
    const values = frames.slice(stroke.first, stroke.last + 1).flatMap((f) => {
      const v = f.values[quantity];
      return v && f.t >= stroke.from + inset && f.t <= stroke.to - inset && f.string === stroke.string ? [v] : [];
    });
    return values.length >= 3 ? { value: median(values.map((v) => v.value)), u: mean(values.map((v) => v.u)) } : undefined;
  };
  const levels = strings.flatMap((string): StringLevel[] => {
    const own = strokes.filter((s) => s.string === string);
    const bows = own.flatMap((s) => read(s, 'inclination_deg') ?? []);
    const arms = own.flatMap((s) => read(s, 'upper_arm_elevation_deg') ?? []);
    const bow = together(bows);
    const arm = together(arms);
    if (!bow) return [];
    return [
      {
        string,
        strokes: own.length,
        bow,
        ...(bows.length > 1 ? { bowSpread: deviation(bows.map((v) => v.value)) } : {}),
        ...(arm ? { arm } : {}),
        ...(arms.length > 1 ? { armSpread: deviation(arms.map((v) => v.value)) } : {}),
      },
    ];
  });
  const steps = levels.slice(1).flatMap((higher, i): LevelStep[] => {
    const lower = levels[i]!;
    const [a, b] = [strings.indexOf(lower.string), strings.indexOf(higher.string)];
    if (b !== a + 1) return [];
    const own = natural.natural[a]! - natural.natural[b]!;
    const armStep = lower.arm && higher.arm ? { value: lower.arm.value - higher.arm.value, u: 0.5 * Math.hypot(lower.arm.u, higher.arm.u) } : undefined;
    const within = Math.max(LEAST_SPREAD, mean([lower.armSpread, higher.armSpread].filter((s) => s !== undefined)) || 0);
    return [
      {
        lower: lower.string,
        higher: higher.string,
        bowShare: (lower.bow.value - higher.bow.value) / own,
        bowStep: lower.bow.value - higher.bow.value,
        ...(armStep ? { armStep, ...(lower.armSpread !== undefined || higher.armSpread !== undefined ? { distinctness: Math.abs(armStep.value) / within } : {}) } : {}),
      },
    ];
  });
  return {
    levels,
    steps,
    missing: strings.filter((s) => levels.every((l) => l.string !== s)),
    doubled: steps.filter((s) => s.bowShare < DOUBLED).map((s) => [s.lower, s.higher] as const),
  };
}

const together = (values: readonly Measured[]): Measured | undefined =>
  values.length > 0 ? { value: median(values.map((v) => v.value)), u: mean(values.map((v) => v.u)) } : undefined;

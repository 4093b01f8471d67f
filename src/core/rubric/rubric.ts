import { type Band, type LowerBand, type TwoSidedBand, type UpperBand, widened } from './band';

/** How long the student has played; bands are wider at the start. */
export const STAGES = ['first-term', 'first-year', 'later'] as const;
export type Stage = (typeof STAGES)[number];

/** Scales the half-width of a two-sided band and an upper edge, and divides a lower one (ours). */
export const STAGE_FACTOR: Record<Stage, number> = { 'first-term': 1.5, 'first-year': 1.2, later: 1 };

/** A school: what is asked of the student. Numbers in the quantity's own unit, before the stage widens them. */
export interface Rubric {
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly bands: Bands;
}

export interface Bands {
  /** Degrees either side of parallel to the bridge. */
  readonly skew: TwoSidedBand;
  /** Share of the strip from bridge to fingerboard end. */
  readonly contactFraction: TwoSidedBand;
  /** Range of the contact fraction within a stroke. */
  readonly contactRange: UpperBand;
  /** Scroll up or down, degrees; violin and viola. */
  readonly pitch: TwoSidedBand;
  /** The instrument's way from straight ahead to the left, degrees; violin and viola. */
  readonly heading: TwoSidedBand;
  /** High-string side lower, degrees; violin and viola. */
  readonly roll: TwoSidedBand;
  /** How far the instrument swings in one stroke, degrees. */
  readonly swing: UpperBand;
  /** Degrees of skew over a whole bow. */
  readonly arc: TwoSidedBand;
  /** Part of the hand's way in the upper half that the elbow's opening makes. */
  readonly forearmShare: LowerBand;
  /** Elbow behind the back line, shoulder widths. */
  readonly elbowBehind: UpperBand;
  /** End joint of the thumb, middle joint of the little finger, degrees. */
  readonly thumbBend: LowerBand;
  readonly littleBend: LowerBand;
  /** How much later (+) or earlier the arm changes level than the bow, milliseconds. */
  readonly crossingLag: TwoSidedBand;
  /** Share of the bow's change of level that the upper arm makes too. */
  readonly levelShare: TwoSidedBand;
  /** How far the contact point jumps at a bow change, share of the strip. */
  readonly contactJump: UpperBand;
  /** Spread over mean of the shares of bow that notes of one length take. */
  readonly sharesEvenness: UpperBand;
  /** Share of the bow that long notes use. */
  readonly bowShare: TwoSidedBand;
  /** Share of the strokes in which a neighbouring string sounds too. */
  readonly strayShare: UpperBand;
  /** Upper arm against the bow, degrees; only where the school asks for a parallel arm. */
  readonly armBowGap?: TwoSidedBand;
  /** Elbow against the wrist near the middle of the bow, degrees; only where the school asks for it. */
  readonly elbowRise?: TwoSidedBand;
}

/** Defaults (ours, editable): contact in the middle of the strip. */
export const MIDDLE_OF_STRIP: Rubric = {
  id: 'middle-of-strip',
  name: 'Middle of the strip',
  version: 1,
  bands: {
    skew: { middle: 0, good: 5, fault: 10 },
    contactFraction: { middle: 0.5, good: 0.15, fault: 0.15 },
    contactRange: { good: 0.15, fault: 0.25 },
    pitch: { middle: 0, good: 10, fault: 10 },
    heading: { middle: 45, good: 15, fault: 15 },
    roll: { middle: 27.5, good: 17.5, fault: 17.5 },
    swing: { good: 4, fault: 6, allStages: true },
    elbowBehind: { good: 0.05, fault: 0.05 },
    arc: { middle: 0, good: 8, fault: 15 },
    forearmShare: { least: 0.6, fault: 0.6, most: 1.5 },
    thumbBend: { least: 10, fault: 10, most: 90 },
    littleBend: { least: 15, fault: 15, most: 110 },
    crossingLag: { middle: 0, good: 50, fault: 80 },
    levelShare: { middle: 1, good: 0.3, fault: 0.4 },
    strayShare: { good: 0.15, fault: 0.3 },
    contactJump: { good: 0.12, fault: 0.2 },
    sharesEvenness: { good: 0.15, fault: 0.25 },
    bowShare: { middle: 1, good: 0.5, fault: 0.65 },
  },
};

/** Gentler for beginners: from the middle to slightly on the fingerboard's side (common practice, no source). */
export const FINGERBOARD_SIDE: Rubric = {
  ...MIDDLE_OF_STRIP,
  id: 'fingerboard-side',
  name: 'Middle to fingerboard side',
  bands: { ...MIDDLE_OF_STRIP.bands, contactFraction: { middle: 0.6, good: 0.2, fault: 0.2 } },
};

/** The schools of the elbow's level: the upper arm runs with the bow, the elbow is level with the wrist, or the arm stays low and is not judged by level. */
export const PARALLEL_ARM: Rubric = {
  ...MIDDLE_OF_STRIP,
  id: 'parallel-arm',
  name: 'Upper arm parallel to the bow',
  bands: { ...MIDDLE_OF_STRIP.bands, armBowGap: { middle: 0, good: 15, fault: 15 } },
};
export const LEVEL_WRIST: Rubric = {
  ...MIDDLE_OF_STRIP,
  id: 'level-wrist',
  name: 'Elbow level with the wrist',
  bands: { ...MIDDLE_OF_STRIP.bands, elbowRise: { middle: 0, good: 15, fault: 15 } },
};
export const LOW_ARM: Rubric = { ...MIDDLE_OF_STRIP, id: 'low-arm', name: 'Low arm' };

export const RUBRICS: readonly Rubric[] = [MIDDLE_OF_STRIP, FINGERBOARD_SIDE, PARALLEL_ARM, LEVEL_WRIST, LOW_ARM];
export const rubricById = (id: string): Rubric | undefined => RUBRICS.find((r) => r.id === id);

/** The rubric's bands as they apply to a stage. */
export function bandsFor(rubric: Rubric, stage: Stage): Bands {
  const k = STAGE_FACTOR[stage];
  return Object.fromEntries(Object.entries(rubric.bands).map(([name, band]) => [name, widened(band as Band, k)])) as unknown as Bands;
}

/** How long the student has played; bands are wider at the start. */
export const STAGES = ['first-term', 'first-year', 'later'] as const;
export type Stage = (typeof STAGES)[number];

/** Scales the half-width of a two-sided band (ours). */
export const STAGE_FACTOR: Record<Stage, number> = { 'first-term': 1.5, 'first-year': 1.2, later: 1 };

/** Two edges on either side of a middle: good up to the first, fault beyond the second. */
export interface TwoSidedBand {
  readonly middle: number;
  readonly good: number;
  readonly fault: number;
}

/** Good up to the first edge, fault beyond the second. */
export interface UpperBand {
  readonly good: number;
  readonly fault: number;
}

/** A school: what is asked of the student. Numbers in the quantity's own unit, before the stage widens them. */
export interface Rubric {
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly bands: {
    /** Degrees either side of parallel to the bridge. */
    readonly skew: TwoSidedBand;
    /** Share of the strip from bridge to fingerboard end. */
    readonly contactFraction: TwoSidedBand;
    /** Range of the contact fraction within a stroke. */
    readonly contactRange: UpperBand;
  };
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
  },
};

/** Gentler for beginners: from the middle to slightly on the fingerboard's side (common practice, no source). */
export const FINGERBOARD_SIDE: Rubric = {
  ...MIDDLE_OF_STRIP,
  id: 'fingerboard-side',
  name: 'Middle to fingerboard side',
  bands: { ...MIDDLE_OF_STRIP.bands, contactFraction: { middle: 0.6, good: 0.2, fault: 0.2 } },
};

export const RUBRICS: readonly Rubric[] = [MIDDLE_OF_STRIP, FINGERBOARD_SIDE];
export const rubricById = (id: string): Rubric | undefined => RUBRICS.find((r) => r.id === id);

/** The rubric's bands as they apply to a stage. */
export function bandsFor(rubric: Rubric, stage: Stage): Rubric['bands'] {
  const k = STAGE_FACTOR[stage];
  const widen = (band: TwoSidedBand): TwoSidedBand => ({ middle: band.middle, good: band.good * k, fault: band.fault * k });
  return {
    skew: widen(rubric.bands.skew),
    contactFraction: widen(rubric.bands.contactFraction),
    contactRange: { good: rubric.bands.contactRange.good * k, fault: rubric.bands.contactRange.fault * k },
  };
}

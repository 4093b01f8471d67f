/** What the left hand does; the defaults are a good one in first position. */
export interface FretSpec {
  /** 0 the wrist straight .. 1 the palm lies against the neck. */
  readonly collapse: number;
}

export const GOOD_FRET: FretSpec = { collapse: 0 };

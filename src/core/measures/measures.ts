/** Names of section "quantities" that are measured frame by frame so far, as they stand in exports. */
export const QUANTITIES = [
  'skew_deg',
  'inclination_deg',
  'level_margin_deg',
  'contact_mm',
  'contact_fraction',
  'contact_beta',
  'bow_position',
  'bow_speed_mm_s',
  'instrument_pitch_deg',
  'instrument_roll_deg',
  'instrument_heading_deg',
  'elbow_angle_deg',
  'elbow_rise_deg',
  'upper_arm_elevation_deg',
  'arm_bow_gap_deg',
  'elbow_height',
  'elbow_behind',
] as const;
export type Quantity = (typeof QUANTITIES)[number];

/** A number with its standard uncertainty (1 sigma), in the quantity's unit. */
export interface Measured {
  readonly value: number;
  readonly u: number;
}

/** What was measured in one frame. A quantity that could not be measured is absent, never zero. */
export interface FrameMeasures {
  readonly frame: number;
  /** Seconds from the first frame. */
  readonly t: number;
  /** Name of the played string. */
  readonly string?: string;
  readonly values: Readonly<Partial<Record<Quantity, Measured>>>;
}

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
  'wrist_flexion_deg',
  'wrist_deviation_deg',
  'thumb_ip_deg',
  'thumb_mcp_deg',
  'thumb_slant_deg',
  'index_mcp_deg',
  'index_pip_deg',
  'index_dip_deg',
  'middle_mcp_deg',
  'middle_pip_deg',
  'middle_dip_deg',
  'ring_mcp_deg',
  'ring_pip_deg',
  'ring_dip_deg',
  'little_mcp_deg',
  'little_pip_deg',
  'little_dip_deg',
  'little_to_stick',
  'middle_crossing',
  'gap_index_middle',
  'gap_ring_little',
  'hand_opening',
  'knee_deg',
  'cello_lean_deg',
  'peg_ear_mm',
  'trunk_lean_deg',
  'trunk_stoop_deg',
  'shoulder_lift',
  'head_turn_deg',
  'head_tilt_deg',
  'stance_width',
  'left_elbow_gap',
  'left_wrist_deg',
  'lumbar_arch',
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

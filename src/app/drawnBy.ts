import { faultById } from '../core/findings/faults';
import type { Finding } from '../core/findings/finding';

/** The drawing that shows what a finding is about. */
export type DrawnBy = 'plan' | 'arm' | 'hand' | 'body' | 'crossings' | 'bows';

const ON_PLAN = new Set(['skew_deg', 'contact_fraction', 'contact_range', 'arc_index']);
const ON_STRINGS = new Set(['elbow_lag_ms', 'arm_level_share', 'stray_share', 'two_strings_share']);
const OF_HAND = /^(thumb|index|middle|ring|little|gap|hand|wrist)_/;
const OF_BODY = new Set([
  'trunk_lean_deg',
  'shoulder_lift',
  'head_tilt_deg',
  'head_turn_deg',
  'stance_width',
  'left_elbow_gap',
  'left_wrist_deg',
  'lumbar_arch',
  'knee_deg',
  'cello_lean_deg',
  'peg_ear_mm',
  'instrument_pitch_deg',
  'instrument_roll_deg',
  'instrument_heading_deg',
]);

export function drawnBy({ quantity, fault }: Pick<Finding, 'quantity' | 'fault'>): DrawnBy {
  if (ON_PLAN.has(quantity)) return 'plan';
  if (ON_STRINGS.has(quantity)) return 'crossings';
  if (OF_HAND.test(quantity)) return 'hand';
  if (OF_BODY.has(quantity)) return 'body';
  return faultById(fault)?.kind === 'take' ? 'bows' : 'arm';
}

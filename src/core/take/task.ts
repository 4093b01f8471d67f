/** What was played in a take: exercises off the ordinary path are not judged for what they leave aside on purpose. */
export const TASKS = ['ordinary', 'behind-the-bridge', 'guide', 'silent', 'stops', 'plucked'] as const;
export type Task = (typeof TASKS)[number];

interface TaskFacts {
  readonly name: string;
  /** Quantities of the catalogue that are not judged. */
  readonly leavesOut: readonly string[];
  /** Whether what is heard is of the exercise's own making, and tells nothing. */
  readonly soundLeftOut: boolean;
  /** What is told of it, in the teacher's words. */
  readonly says?: string;
}

const CONTACT = ['contact_fraction', 'contact_range', 'contact_jump', 'lost_share'];
const SOUND = ['stray_share', 'airy_share', 'glassy_share', 'scratchy_share', 'two_strings_share', 'noisy_start_share'];
const STROKES = ['shares_evenness', 'bow_share', 'run_out_share', 'collapse_share', 'stop_share'];
const HOLD = [
  'thumb_ip_deg',
  'little_pip_deg',
  'little_to_stick',
  'middle_crossing',
  'gap_index_middle',
  'hand_opening',
  'hand_mobility_deg',
  'wrist_flexion_deg',
  'wrist_deviation_deg',
];
const BOW = [
  ...STROKES,
  ...HOLD,
  'skew_deg',
  'arc_index',
  'forearm_share',
  'level_range_deg',
  'arm_bow_gap_deg',
  'elbow_rise_deg',
  'elbow_angle_deg',
  'elbow_behind',
  'instrument_swing_deg',
];

export const TASK_FACTS: Record<Task, TaskFacts> = {
  ordinary: { name: 'ordinary playing', leavesOut: [], soundLeftOut: false },
  'behind-the-bridge': {
    name: 'behind the bridge',
    leavesOut: [...CONTACT, ...SOUND],
    soundLeftOut: true,
    says: 'Behind the bridge on purpose: contact point and sound are not judged.',
  },
  guide: {
    name: 'through a bow guide',
    leavesOut: [...CONTACT, 'skew_deg', ...SOUND],
    soundLeftOut: false,
    says: 'Through a bow guide: the guide holds angle and contact, so neither they nor the sound are judged.',
  },
  silent: { name: 'silent bowing', leavesOut: [...CONTACT, ...SOUND], soundLeftOut: true, says: 'Silent bowing: contact point and sound are not judged.' },
  stops: {
    name: 'stopped notes or stops on each level',
    leavesOut: STROKES,
    soundLeftOut: false,
    says: 'Stops on purpose: shares of the bow, its speed and its standing still are not judged.',
  },
  plucked: { name: 'plucked', leavesOut: [...CONTACT, ...BOW, ...SOUND, 'elbow_lag_ms', 'arm_level_share'], soundLeftOut: false, says: 'Plucked: the bow is not judged.' },
};

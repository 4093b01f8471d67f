import { type FrameFault, HELD_UP, type StrokeFault, where } from './fault';

const gap = {
  kind: 'frame',
  quantity: 'arm_bow_gap_deg',
  unit: 'deg',
  families: HELD_UP,
  band: (b) => b.armBowGap,
  scale: { range: [-45, 45], ends: ['elbow low', 'with the bow', 'elbow high'] },
} as const satisfies Partial<FrameFault>;

export const elbowTooLow: FrameFault = {
  ...gap,
  id: 'elbow-too-low',
  title: (third) => `${where(third)}the elbow hangs below the bow's level.`,
  side: 'below',
  exercises: ['Level stops', 'Slow crossings'],
};
export const elbowTooHigh: FrameFault = {
  ...gap,
  id: 'elbow-too-high',
  title: (third) => `${where(third)}the elbow is above the bow's level.`,
  side: 'above',
  exercises: ['Level stops', 'Slow crossings'],
};

/** Neither too low nor too high by habit, and yet off the bow's level: above it here, below it there. */
export const armNotParallel: FrameFault = {
  ...gap,
  id: 'arm-not-parallel',
  title: (third) => `${where(third)}the upper arm does not keep to the bow's level.`,
  side: 'either',
  unless: ['elbow-too-low', 'elbow-too-high'],
  exercises: ['Three stations', 'Level stops'],
};

/** "Elbow level with the wrist" is judged near the middle of the bow only: at the frog a folded forearm falls. */
export const elbowWristApart: FrameFault = {
  id: 'elbow-wrist-apart',
  kind: 'frame',
  quantity: 'elbow_rise_deg',
  unit: 'deg',
  families: HELD_UP,
  title: () => 'In the middle of the bow, elbow and wrist are not level.',
  band: (b) => b.elbowRise,
  side: 'either',
  within: [0.35, 0.65],
  scale: { range: [-45, 45], ends: ['elbow low', 'level', 'elbow high'] },
  exercises: ['Level stops'],
};

export const elbowBehind: FrameFault = {
  id: 'elbow-behind',
  kind: 'frame',
  quantity: 'elbow_behind',
  unit: 'shoulders',
  families: HELD_UP,
  title: (third) => `${where(third)}the elbow goes behind the back line.`,
  band: (b) => b.elbowBehind,
  side: 'above',
  scale: { range: [-0.5, 0.7], ends: ['in front', '', 'behind'] },
  exercises: ['Back to the wall', 'Tube glide'],
};

/** The middle of the bow is where the elbow makes a right angle: off it, the arm is folded or stretched all along. */
export const rightAngleMissed: StrokeFault = {
  id: 'right-angle-missed',
  kind: 'stroke',
  quantity: 'elbow_angle_deg',
  restsOn: 'elbow_angle_deg',
  unit: 'deg',
  families: HELD_UP,
  title: () => 'In the middle of the bow, the elbow is far from a right angle.',
  band: (b) => b.elbowAtMiddle,
  side: 'either',
  scale: { range: [45, 150], ends: ['folded', 'square', 'stretched'] },
  measure: (stroke) => stroke.elbowAtMiddle,
  exercises: ['Two halves', 'Hinge wake-up'],
};

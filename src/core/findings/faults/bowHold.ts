import { HELD_UP, type PostureFault, type StrokeFault } from './fault';

/** Below this the end joint counts as bent back, not merely straight (degrees, ours). */
const BENT_BACK = -20;
/**
 * Thumbs and little fingers are round (30 to 80 degrees) or straight; few lie between. A joint placed by hand is known
 * to some 10 degrees, so a value under the edge by this share of its doubt speaks ten to one for straight (ours, from
 * the spread of marked joints on two renderers).
 */
const ROUND_OR_STRAIGHT = 0.25;
/** Gap of index and middle finger beyond which the index alone is stretched out, not the whole hand spread (finger widths, ours). */
const STRETCHED = 2.8;
/** The hand's home: at the tip the stick rolls out to the fingertips anyway, at the frog the wrist folds. */
const LOWER_HALF = [0, 0.55] as const;
const MIDDLE_THIRD = [1 / 3, 2 / 3] as const;

const thumb = {
  kind: 'posture',
  unit: 'deg',
  families: HELD_UP,
  quantity: 'thumb_ip_deg',
  side: 'below',
  excess: ROUND_OR_STRAIGHT,
  scale: { range: [-40, 70], ends: ['bent back', 'round', ''] },
} as const satisfies Partial<PostureFault>;
const little = {
  kind: 'posture',
  unit: 'deg',
  families: HELD_UP,
  quantity: 'little_pip_deg',
  side: 'below',
  excess: ROUND_OR_STRAIGHT,
  scale: { range: [-40, 100], ends: ['caved in', 'round', ''] },
} as const satisfies Partial<PostureFault>;
const depth = {
  kind: 'posture',
  unit: 'plain',
  families: HELD_UP,
  quantity: 'middle_crossing',
  within: LOWER_HALF,
  band: (b) => b.fingerDepth,
  scale: { range: [-1.2, 1.2], ends: ['on the tips', 'first joint', 'deep'] },
} as const satisfies Partial<PostureFault>;
const spacing = {
  kind: 'posture',
  unit: 'fingers',
  families: HELD_UP,
  quantity: 'gap_index_middle',
  within: [0, 1 / 3],
  scale: { range: [0.5, 3.5], ends: ['bunched', '', 'spread'] },
} as const satisfies Partial<PostureFault>;

export const thumbStraight: PostureFault = {
  ...thumb,
  id: 'thumb-straight',
  title: () => 'The thumb is straight.',
  band: (b) => b.thumbBend,
  spared: (value) => value < BENT_BACK,
  exercises: ['Soft pinch', 'Pencil hold'],
};

export const thumbBentBack: PostureFault = {
  ...thumb,
  id: 'thumb-bent-back',
  title: () => 'The thumb is bent back.',
  band: (b) => ({ ...b.thumbBend, fault: BENT_BACK }),
  exercises: ['Soft pinch', 'Pencil hold'],
};

export const littleStraight: PostureFault = {
  ...little,
  id: 'little-straight',
  title: () => 'The little finger is straight.',
  band: (b) => b.littleBend,
  spared: (value) => value < BENT_BACK,
  exercises: ['Ring touch', 'Tip-up'],
};

export const littleCollapsed: PostureFault = {
  ...little,
  id: 'little-collapsed',
  title: () => 'The little finger caves in.',
  band: (b) => ({ ...b.littleBend, fault: BENT_BACK }),
  exercises: ['Ring touch', 'Tip-up'],
};

export const littleOffStick: PostureFault = {
  id: 'little-off-stick',
  kind: 'posture',
  quantity: 'little_to_stick',
  unit: 'fingers',
  families: HELD_UP,
  title: () => 'The little finger is off the stick.',
  band: (b) => b.littleToStick,
  side: 'above',
  scale: { range: [0, 3], ends: ['on the stick', '', 'in the air'] },
  exercises: ['Ring touch', 'Elastic triangle'],
};

export const fingersPerched: PostureFault = {
  ...depth,
  id: 'fingers-perched',
  title: () => 'The fingers stand on their tips.',
  side: 'below',
  exercises: ['Pencil hold', 'Ten fresh holds'],
};

export const fingersTooDeep: PostureFault = {
  ...depth,
  id: 'fingers-too-deep',
  title: () => 'The fingers reach too far over the stick.',
  side: 'above',
  exercises: ['Pencil hold', 'Ten fresh holds'],
};

export const fingersBunched: PostureFault = {
  ...spacing,
  id: 'fingers-bunched',
  title: () => 'The fingers are bunched together.',
  band: (b) => b.fingerGap,
  side: 'below',
  exercises: ['Ten fresh holds', 'Elastic triangle'],
};

export const fingersSpread: PostureFault = {
  ...spacing,
  id: 'fingers-spread',
  title: () => 'The fingers are spread apart.',
  band: (b) => b.fingerGap,
  side: 'above',
  spared: (value) => value > STRETCHED,
  exercises: ['Ten fresh holds', 'Soft pinch'],
};

export const indexStretched: PostureFault = {
  ...spacing,
  id: 'index-stretched',
  title: () => 'The index finger is stretched out along the stick.',
  band: (b) => ({ ...b.fingerGap, fault: STRETCHED - b.fingerGap.middle }),
  side: 'above',
  exercises: ['Ten fresh holds', 'Elastic triangle'],
};

export const handClosed: PostureFault = {
  id: 'hand-closed',
  kind: 'posture',
  quantity: 'hand_opening',
  unit: 'plain',
  families: HELD_UP,
  within: LOWER_HALF,
  title: () => 'The hand is closed: no hole between thumb and fingers.',
  band: (b) => b.handOpening,
  side: 'below',
  scale: { range: [0, 2.5], ends: ['closed', '', 'open'] },
  exercises: ['Soft pinch', 'Light print'],
};

/** Up, down or sideways at home: along the rest of the bow the wrist bends as it should. */
export const wristBent: PostureFault = {
  id: 'wrist-bent',
  kind: 'posture',
  quantity: 'wrist_flexion_deg',
  unit: 'deg',
  families: HELD_UP,
  within: MIDDLE_THIRD,
  title: () => 'In the middle of the bow, the wrist is bent.',
  band: (b) => b.wristFlexion,
  side: 'either',
  scale: { range: [-60, 60], ends: ['sunk', 'straight', 'raised'] },
  or: { quantity: 'wrist_deviation_deg', band: (b) => b.wristDeviation, scale: { range: [-60, 60], ends: ['to the thumb', 'straight', 'to the little finger'] } },
  exercises: ['Upright lift', 'Stick walk'],
};

/** A hand that gives along the bow opens and curls its fingers; a rigid one keeps them. */
export const handRigid: StrokeFault = {
  id: 'hand-rigid',
  kind: 'stroke',
  quantity: 'hand_mobility_deg',
  unit: 'deg',
  families: HELD_UP,
  title: () => 'The hand is rigid: its fingers do not change along the bow.',
  band: (b) => b.handMobility,
  side: 'below',
  scale: { range: [0, 30], ends: ['rigid', '', 'giving'] },
  measure: (stroke) => stroke.handMobility,
  exercises: ['Elastic triangle', 'Rim circles'],
};

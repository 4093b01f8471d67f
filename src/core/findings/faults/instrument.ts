import { HELD_UP, type PostureFault, type StrokeFault } from './fault';

const posture = { kind: 'posture', unit: 'deg', families: HELD_UP } as const;
const pitch = {
  ...posture,
  quantity: 'instrument_pitch_deg',
  band: (b) => b.pitch,
  scale: { range: [-40, 40], ends: ['scroll down', 'level', 'scroll up'] },
} as const satisfies Partial<PostureFault>;
const heading = {
  ...posture,
  quantity: 'instrument_heading_deg',
  band: (b) => b.heading,
  scale: { range: [0, 90], ends: ['in front', '10 to 11', 'to the left'] },
} as const satisfies Partial<PostureFault>;
const roll = {
  ...posture,
  quantity: 'instrument_roll_deg',
  band: (b) => b.roll,
  scale: { range: [-10, 65], ends: ['flat', '', 'steep'] },
} as const satisfies Partial<PostureFault>;

export const scrollDroops: PostureFault = { ...pitch, id: 'scroll-droops', title: () => 'The scroll droops.', side: 'below', exercises: ['Wide-arm placement', 'Ready sequence'] };
export const scrollTooHigh: PostureFault = {
  ...pitch,
  id: 'scroll-too-high',
  title: () => 'The scroll points up.',
  side: 'above',
  exercises: ['Wide-arm placement', 'Ready sequence'],
};
export const instrumentInFront: PostureFault = {
  ...heading,
  id: 'instrument-in-front',
  title: () => 'The instrument points too far to the front.',
  side: 'below',
  exercises: ['Wide-arm placement', 'Ready sequence'],
};
export const instrumentTooFarLeft: PostureFault = {
  ...heading,
  id: 'instrument-too-far-left',
  title: () => 'The instrument points too far to the left.',
  side: 'above',
  exercises: ['Wide-arm placement', 'Ready sequence'],
};
export const instrumentTooFlat: PostureFault = {
  ...roll,
  id: 'instrument-too-flat',
  title: () => 'The instrument lies too flat.',
  side: 'below',
  exercises: ['Wide-arm placement'],
};
export const instrumentTooSteep: PostureFault = {
  ...roll,
  id: 'instrument-too-steep',
  title: () => 'The instrument is tipped too far.',
  side: 'above',
  exercises: ['Wide-arm placement'],
};

export const instrumentMoves: StrokeFault = {
  id: 'instrument-moves',
  kind: 'stroke',
  quantity: 'instrument_swing_deg',
  unit: 'deg',
  title: () => 'The instrument swings with the bow.',
  band: (b) => b.swing,
  side: 'above',
  scale: { range: [0, 20], ends: ['still', '', 'swings'] },
  measure: (stroke) => stroke.instrumentSwing,
  exercises: ['Long open bows', 'Two halves'],
};

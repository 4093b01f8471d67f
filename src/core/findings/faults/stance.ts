import type { Family } from '../../instrument/family';
import { HELD_UP, type PostureFault } from './fault';

const SEATED: readonly Family[] = ['cello'];

export const leaning: PostureFault = {
  id: 'leaning',
  kind: 'posture',
  quantity: 'trunk_lean_deg',
  unit: 'deg',
  title: () => 'The trunk leans to one side.',
  band: (b) => b.trunkLean,
  side: 'either',
  scale: { range: [-20, 20], ends: ['to the right', 'upright', 'to the left'] },
  exercises: ['Rock and settle'],
};

export const shoulderRaised: PostureFault = {
  id: 'shoulder-raised',
  kind: 'posture',
  quantity: 'shoulder_lift',
  unit: 'shoulders',
  families: HELD_UP,
  title: () => 'The shoulders are drawn up to the ears.',
  band: (b) => b.shoulderLift,
  side: 'above',
  scale: { range: [-0.2, 0.4], ends: ['hanging', 'at ease', 'raised'] },
  exercises: ['Drop the shoulders'],
};

export const headClamped: PostureFault = {
  id: 'head-clamped',
  kind: 'posture',
  quantity: 'head_tilt_deg',
  unit: 'deg',
  families: HELD_UP,
  title: () => 'The head is tilted hard onto the instrument.',
  band: (b) => b.headTilt,
  side: 'above',
  scale: { range: [-15, 40], ends: ['upright', 'laid down', 'tilted hard'] },
  exercises: ['Hands-free hold', 'Drop the shoulders'],
};

export const headOverTurned: PostureFault = {
  id: 'head-over-turned',
  kind: 'posture',
  quantity: 'head_turn_deg',
  unit: 'deg',
  families: HELD_UP,
  title: () => 'The head is turned far to the scroll.',
  band: (b) => b.headTurn,
  side: 'above',
  scale: { range: [-10, 80], ends: ['ahead', 'a little left', 'far left'] },
  exercises: ['Drop the shoulders', 'Ready sequence'],
};

export const leftElbowOnRibs: PostureFault = {
  id: 'left-elbow-on-ribs',
  kind: 'posture',
  quantity: 'left_elbow_gap',
  unit: 'shoulders',
  families: HELD_UP,
  title: () => 'The left elbow rests against the ribs.',
  band: (b) => b.leftElbowGap,
  side: 'below',
  scale: { range: [-0.2, 0.7], ends: ['on the ribs', '', 'hanging free'] },
  exercises: ['Daylight', 'Wide-arm placement'],
};

export const feetNotSet: PostureFault = {
  id: 'feet-not-set',
  kind: 'posture',
  quantity: 'stance_width',
  unit: 'shoulders',
  families: HELD_UP,
  title: () => 'The feet are not set for playing.',
  band: (b) => b.stanceWidth,
  side: 'either',
  scale: { range: [0, 1.8], ends: ['together', 'hip to shoulder wide', 'far apart'] },
  exercises: ['Ready sequence', 'Rock and settle'],
};

export const celloSeatHeight: PostureFault = {
  id: 'cello-seat-height',
  kind: 'posture',
  quantity: 'knee_deg',
  unit: 'deg',
  families: SEATED,
  title: () => 'The seat does not fit: the knees are far from square.',
  band: (b) => b.knee,
  side: 'either',
  scale: { range: [50, 140], ends: ['seat too low', 'square', 'seat too high'] },
  exercises: ['Seat and pin'],
};

export const celloFeetNotSet: PostureFault = {
  id: 'cello-feet-not-set',
  kind: 'posture',
  quantity: 'stance_width',
  unit: 'shoulders',
  families: SEATED,
  title: () => 'The feet do not carry the seat.',
  band: (b) => b.seatWidth,
  side: 'either',
  scale: { range: [0.4, 2.6], ends: ['under the seat', 'a little over shoulder wide', 'far apart'] },
  exercises: ['Seat and pin'],
};

export const celloLeaningOff: PostureFault = {
  id: 'cello-leaning-off',
  kind: 'posture',
  quantity: 'cello_lean_deg',
  unit: 'deg',
  families: SEATED,
  title: () => 'The cello does not lean back as it should.',
  band: (b) => b.celloLean,
  side: 'either',
  scale: { range: [-5, 70], ends: ['upright', 'leaning back', 'lying'] },
  or: {
    quantity: 'peg_ear_mm',
    unit: 'mm',
    side: 'above',
    title: () => 'The pegs are not beside the left ear.',
    band: (b) => b.pegEar,
    scale: { range: [0, 400], ends: ['at the ear', 'beside it', 'far from it'] },
  },
  exercises: ['Seat and pin'],
};

/** The palm lies against the neck, the wrist is bent back under it. */
export const leftWristCollapsed: PostureFault = {
  id: 'left-wrist-collapsed',
  kind: 'posture',
  quantity: 'left_wrist_deg',
  unit: 'deg',
  families: HELD_UP,
  title: () => 'The left wrist is bent back against the neck.',
  band: (b) => b.leftWrist,
  side: 'below',
  scale: { range: [-80, 40], ends: ['bent back', 'straight', 'bent in'] },
  exercises: ['First finger round', 'Ready sequence'],
};

export const backHollow: PostureFault = {
  id: 'back-hollow',
  kind: 'posture',
  quantity: 'lumbar_arch',
  unit: 'share',
  title: () => 'The back is hollow.',
  band: (b) => b.lumbarArch,
  side: 'above',
  scale: { range: [0, 0.3], ends: ['at ease', '', 'hollow'] },
  exercises: ['Hand behind', 'Rock and settle'],
};

import { HELD_UP, type PostureFault } from './fault';

/** Below this the end joint counts as bent back, not merely straight (degrees, ours). */
const BENT_BACK = -20;

const thumb = {
  kind: 'posture',
  unit: 'deg',
  families: HELD_UP,
  quantity: 'thumb_ip_deg',
  side: 'below',
  scale: { range: [-40, 70], ends: ['bent back', 'round', ''] },
} as const satisfies Partial<PostureFault>;
const little = {
  kind: 'posture',
  unit: 'deg',
  families: HELD_UP,
  quantity: 'little_pip_deg',
  side: 'below',
  scale: { range: [-40, 100], ends: ['caved in', 'round', ''] },
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

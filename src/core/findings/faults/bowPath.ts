import { type FrameFault, HELD_UP, type StrokeFault, where } from './fault';

const skew = {
  kind: 'frame',
  quantity: 'skew_deg',
  unit: 'deg',
  band: (bands) => bands.skew,
  scale: { range: [-20, 20], ends: ['to player', 'square', 'to scroll'] },
} as const satisfies Partial<FrameFault>;

/** The lower third has a row of its own. */
const PAST_THE_FROG = [1 / 3, 1] as const;

export const tipToScroll: FrameFault = {
  ...skew,
  id: 'tip-to-scroll',
  title: (third) => `${where(third)}the tip turns to the scroll.`,
  side: 'above',
  within: PAST_THE_FROG,
  exercises: ['Tube glide', 'Tip check'],
};

export const tipToPlayer: FrameFault = {
  ...skew,
  id: 'tip-to-player',
  title: (third) => `${where(third)}the tip turns to the player.`,
  side: 'below',
  within: PAST_THE_FROG,
  exercises: ['Two halves', 'Three stations'],
};

/** Told only where the rest of the bow is square: else it is one fault, not two. */
export const crookedAtFrog: FrameFault = {
  ...skew,
  id: 'crooked-at-frog',
  title: () => 'Near the frog, the bow is not square.',
  side: 'either',
  within: [0, 1 / 3],
  unless: ['tip-to-scroll', 'tip-to-player'],
  exercises: ['Two halves', 'Three stations'],
};

/** The angle grows steadily along the bow, its path curved round a fixed point; told where neither side alone is passed. */
export const bowArcs: StrokeFault = {
  id: 'bow-arcs',
  kind: 'stroke',
  quantity: 'arc_index',
  restsOn: 'skew_deg',
  unit: 'deg',
  title: () => 'The bow travels in a curve.',
  band: (bands) => bands.arc,
  side: 'either',
  scale: { range: [-30, 30], ends: ['tip to player', 'straight', 'tip to scroll'] },
  measure: (stroke) => stroke.arcIndex,
  unless: ['tip-to-scroll', 'tip-to-player', 'crooked-at-frog'],
  exercises: ['Tube glide', 'Three stations'],
};

/** The upper arm swings where the elbow should open: past the middle the forearm makes the way. */
export const strokeFromShoulder: StrokeFault = {
  id: 'stroke-from-shoulder',
  kind: 'stroke',
  quantity: 'forearm_share',
  unit: 'share',
  title: () => 'Past the middle, the upper arm swings where the elbow should open.',
  band: (bands) => bands.forearmShare,
  side: 'below',
  families: HELD_UP,
  scale: { range: [0, 1.5], ends: ['upper arm', '', 'forearm'] },
  measure: (stroke) => stroke.forearmShare,
  exercises: ['Tube glide', 'Back to the wall'],
};

import { type FrameFault, where } from './fault';

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

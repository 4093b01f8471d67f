import { type FrameFault, where } from './fault';

const skew = {
  kind: 'frame',
  quantity: 'skew_deg',
  unit: 'deg',
  band: (bands) => bands.skew,
  scale: { range: [-20, 20], ends: ['to player', 'square', 'to scroll'] },
} as const satisfies Partial<FrameFault>;

export const tipToScroll: FrameFault = {
  ...skew,
  id: 'tip-to-scroll',
  title: (third) => `${where(third)}the tip turns to the scroll.`,
  side: 'above',
  exercises: ['Tube glide', 'Tip check'],
};

export const tipToPlayer: FrameFault = {
  ...skew,
  id: 'tip-to-player',
  title: (third) => `${where(third)}the tip turns to the player.`,
  side: 'below',
  exercises: ['Two halves', 'Three stations'],
};

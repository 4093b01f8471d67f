import { type Fault, where } from './fault';

export const tipToScroll: Fault = {
  id: 'tip-to-scroll',
  kind: 'frame',
  quantity: 'skew_deg',
  unit: 'deg',
  title: (third) => `${where(third)}the tip turns to the scroll.`,
  band: (bands) => [-bands.skew.good, bands.skew.good],
  beyond: (bands) => (value) => value - bands.skew.fault,
  exercises: ['Tube glide', 'Tip check'],
};

export const tipToPlayer: Fault = {
  id: 'tip-to-player',
  kind: 'frame',
  quantity: 'skew_deg',
  unit: 'deg',
  title: (third) => `${where(third)}the tip turns to the player.`,
  band: (bands) => [-bands.skew.good, bands.skew.good],
  beyond: (bands) => (value) => -bands.skew.fault - value,
  exercises: ['Two halves', 'Three stations'],
};

/** Colours of the visual language, for drawings. The same values stand in theme.css. */
export const COLOR = {
  fog: '#E6EAE7',
  sheet: '#FAF9F4',
  spruce: '#F4E7C8',
  lit: '#FFFDF3',
  edge: '#8A6A35',
  ink: '#1F2629',
  soft: '#4E5758',
  rule: '#C6CBC5',
  sea: '#17505F',
  rosin: '#B0650A',
  rosinInk: '#7A4304',
  rosinTint: '#F0C778',
  madder: '#9A2832',
  madderTint: '#E9B9B3',
  ebony: '#26211E',
  stick: '#5B2E1B',
  bridge: '#D9AE66',
  film: '#14181A',
  wire: '#BFE3E0',
} as const;

/** State of a value: within its band, found outside and not judged, confirmed by the teacher, dismissed, or not to be judged. */
export type Sign = 'within' | 'found' | 'confirmed' | 'dismissed' | 'unjudged';

export const signColor = (sign: Sign): string => (sign === 'found' ? COLOR.rosin : sign === 'confirmed' ? COLOR.madder : COLOR.ink);
export const signTint = (sign: Sign): string => (sign === 'confirmed' ? COLOR.madderTint : COLOR.rosinTint);
export const signText = (sign: Sign): string => (sign === 'found' ? COLOR.rosinInk : sign === 'confirmed' ? COLOR.madder : COLOR.ink);

/** Weight of each string in drawings, px, by its letter. */
export const STRING_WEIGHT: Record<string, number> = { C: 3.7, G: 3, D: 2.3, A: 1.7, E: 1.1 };

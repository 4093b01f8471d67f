import type { SupposedCamera } from './camera';

/** Zooms tried where nobody said with which the film was taken, beside the main lens: any between them may have been used. */
const ZOOMED_OUT = [0.7, 0.5] as const;
const ZOOMED_IN = [1.4, 2, 2.8] as const;
const UNSAID_SIGMA = 0.2;

/** The lenses that may have taken a film, wider and wider, and longer and longer than the main one. */
export const otherLenses = (main: SupposedCamera): readonly (readonly SupposedCamera[])[] =>
  [ZOOMED_OUT, ZOOMED_IN].map((zooms) => zooms.map((zoom) => ({ ...main, focal: zoom * main.focal, logFocalSigma: UNSAID_SIGMA })));

/** How far a lens is zoomed against the main one, to two figures. */
export const zoomOfLens = (focal: number, main: number): number => Number((focal / main).toPrecision(2));

import { LEAST_ZOOM, MOST_ZOOM, type SupposedCamera } from './camera';

/** Zooms tried where nobody said with which the film was taken, beside the main lens: any between them may have been used. */
const ZOOMED_OUT = [0.7, 0.5] as const;
const ZOOMED_IN = [1.4, 2, 2.8] as const;
/** Standard uncertainty of the logarithm of such a lens's focal length. */
const UNSAID_SIGMA = 0.2;

/** The lenses that may have taken a film, wider and wider, and longer and longer than the main one. */
export const otherLenses = (main: SupposedCamera): readonly (readonly SupposedCamera[])[] =>
  [ZOOMED_OUT, ZOOMED_IN].map((zooms) => zooms.map((zoom) => ({ ...main, focal: zoom * main.focal, logFocalSigma: UNSAID_SIGMA })));

/** How far a lens is zoomed against the main one, as phones can, to two figures; focal lengths in px. */
export const zoomOfLens = (focal: number, main: number): number => Number(Math.min(MOST_ZOOM, Math.max(LEAST_ZOOM, focal / main)).toPrecision(2));

import type { EndSighting } from './sighting';

/**
 * What a clip's frames have wrong alike about the bow's ends. A frame's own error is small: an end is recognised by
 * its look to a pixel or two, but what is recognised does not lie in the hair's line, the mark was put a little
 * aside, and the hair is not exactly as long as thought.
 */
export interface SharedEnds {
  /** The hair is longer by this share. */
  readonly stretch: number;
  readonly frog: SharedEnd;
  readonly tip: SharedEnd;
}

export interface SharedEnd {
  /** What is recognised lies nearer the tip by so many mm, */
  readonly along: number;
  /** and farther from the camera than the hair by so many mm, as it was first seen. */
  readonly depth: number;
}

export const SHARED_ENDS = 5;

/**
 * Spread of the hair's length (share, 1 sigma, ours): full-size bows differ by one per cent or two, those of small
 * sizes by more, and the camera's distance is not known better.
 */
const STRETCH_SIGMA = 0.03;
/** How far what is seen about an end lies before or behind the hair (mm, 1 sigma; ours: the hand that holds the frog, the head of the tip). */
export const DEPTH_SIGMA = { frog: 30, tip: 6 } as const;
/** An end marked with care (mm, 1 sigma, ours): which place is the end is a matter of taste. */
const ALONG_SIGMA = 2;

/**
 * The hand that holds the frog has depth and turns, so that an end is off by some 5 px at 960 across (the tip by 2) for a
 * second or so. Frames count as one each 0.06 s, sixteen times as often: so they err by four times as much (ours, measured
 * on twenty clips of two renderers: with 0 truth lay within 2 u in 65 % of the frames of whole players, with this in 88).
 */
export const LASTING_END = { frog: 20, tip: 8 } as const;

export const sharedEndsOf = (v: ArrayLike<number>, at = 0): SharedEnds => ({
  stretch: v[at]!,
  frog: { along: v[at + 1]!, depth: v[at + 2]! },
  tip: { along: v[at + 3]!, depth: v[at + 4]! },
});

/** Standard uncertainties before anything is seen, in the order of {@link sharedEndsOf}; `guess` how far the ends may be off along the bow where they were placed by guess, mm. */
export function sharedEndsSigma(guess: { readonly frog: number; readonly tip: number }): Float64Array {
  return Float64Array.of(STRETCH_SIGMA, Math.hypot(ALONG_SIGMA, guess.frog), DEPTH_SIGMA.frog, Math.hypot(ALONG_SIGMA, guess.tip), DEPTH_SIGMA.tip);
}

/**
 * By how much (px) what lies a mm farther off than the hair is seen nearer the tip, where the bow has turned to the line of
 * sight since that was first seen. Slants are cosines of the angle between them, + with the tip farther off than the frog.
 */
export const parallaxOf = (pxPerMm: number, slant: number, firstSlant: number): number => pxPerMm * Math.sin(Math.acos(clampCosine(slant)) - Math.acos(clampCosine(firstSlant)));

const clampCosine = (c: number) => Math.max(-1, Math.min(1, c));

/** How far (px, + toward the tip) an end is seen from where the hair ends; `scale` px a mm along the bow. */
export const sharedShift = ({ along, depth }: SharedEnd, { parallax = 0 }: EndSighting, scale: number): number => along * scale + depth * parallax;

import type { Vec2 } from '../geometry/vec3';
import type { PlacedInstrument } from './placeInstrument';

/** Why an instrument was not found by itself. */
export const REFUSALS = ['no-player', 'too-dark', 'not-found', 'too-small', 'edge-on', 'other-side', 'disagree', 'no-bow'] as const;
export type Refusal = (typeof REFUSALS)[number];

/** Each refusal in the teacher's words, and what would help. */
export const REFUSAL_WORDS: Readonly<Record<Refusal, { readonly why: string; readonly help: string }>> = {
  'no-player': { why: 'No player was found in this film.', help: 'Film the whole upper body from the front, or mark the instrument by hand.' },
  'too-dark': { why: 'The picture is too dark to find the instrument in it.', help: 'Turn the student toward a window or a lamp, or mark by hand.' },
  'not-found': { why: 'No instrument was found that could be trusted.', help: 'Film from the front, a little above the instrument, or mark it by hand.' },
  'too-small': { why: 'The instrument is too small in the picture.', help: 'Step nearer until player and bow fill the picture, or mark by hand.' },
  'edge-on': { why: 'The camera looks along the top of the instrument.', help: 'Raise the phone until the strings are seen from above, or mark by hand.' },
  'other-side': { why: 'The neck lies in the other hand.', help: 'If this student plays left-handed, say so beside the size and mark once; else mark by hand.' },
  disagree: { why: 'Several looks at the instrument do not agree.', help: 'Mark it by hand in a clear frame; a steadier view from the front does better.' },
  'no-bow': { why: 'The instrument was found, the bow was not.', help: 'Mark the tip of the bow in a clear frame.' },
};

/** One frame as it was looked at. */
export interface FrameLook {
  readonly index: number;
  readonly t: number;
  readonly player: boolean;
  /** Mean brightness, 0..255. */
  readonly light: number;
  readonly placed?: PlacedInstrument | undefined;
  /** Left and right wrist, pixels. */
  readonly wrists?: readonly [Vec2, Vec2] | undefined;
  /** The hand nearer to the nut: the left where the film shows what the record says. */
  readonly neckHand?: 'left' | 'right' | undefined;
  readonly bow?: { readonly frog: Vec2; readonly tip: Vec2; readonly frogReckoned: boolean; readonly sure: number } | undefined;
}

/** What a frame must show to be trusted (ours, set by hand on some twenty clips the network did not learn from; not calibrated further). */
export const TRUST = {
  /** Share of the points that speak for the placed instrument. */
  support: 0.55,
  /** Misfit as a share of the instrument's length. */
  misfit: 0.03,
  /** Sine of the angle over the plate. */
  facing: 0.14,
  /** Length in pixels at 960 across. */
  length: 85,
  /** Edges along the contours, once it is laid on them. */
  edges: 0.36,
  /** The same as a share of what the film's clearest frame shows: right placings had 0.82 and more, those off by 9 to 26 px 0.69 to 0.76 (ours, from 24 films). */
  besideClearest: 0.8,
  /** Mean brightness. */
  light: 22,
} as const;

/** Frames that must agree, and within what angle (degrees) and share of the distance they do (ours: a swaying player turns less within a clip's good frames). */
export const AGREEMENT = { frames: 3, degrees: 14, depth: 0.12 } as const;

export const isTrusted = (look: FrameLook, unit: number): boolean =>
  look.placed !== undefined &&
  look.placed.support >= TRUST.support &&
  look.placed.misfit <= TRUST.misfit &&
  look.placed.facing >= TRUST.facing &&
  look.placed.length >= TRUST.length * unit &&
  (look.placed.edges ?? 1) >= TRUST.edges;

/** How good a frame is to start from. */
export const worthOf = (look: FrameLook): number =>
  (look.placed ? look.placed.support - 8 * look.placed.misfit + 0.15 * Math.min(0.6, look.placed.facing) + (look.placed.edges ?? 0) : 0) + (look.bow ? 0.25 * look.bow.sure : 0);

import type { Vec2 } from '../geometry/vec3';

/** What the picture shows of the bow in one frame. Pixels. */
export interface BowSighting {
  /** The image line of the hair, as two places on it, and how far each may be off sideways (1 sigma). */
  readonly line: { readonly a: Vec2; readonly b: Vec2; readonly sigmaA: number; readonly sigmaB: number } | undefined;
  /** Frog end of the hair where it was recognised; only its place along the line is used. */
  readonly frog: { readonly point: Vec2; readonly sigma: number } | undefined;
  readonly tip: { readonly point: Vec2; readonly sigma: number } | undefined;
  /** Mean likeness of the cross sections to the bow's, 0..1. */
  readonly score: number;
}

/** Nothing seen. */
export const NO_BOW: BowSighting = { line: undefined, frog: undefined, tip: undefined, score: 0 };

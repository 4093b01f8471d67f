import { type Camera, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import type { StringLevels, StringLine } from '../instrument/strings';
import { type BowState, hairLine } from './bowState';
import type { BowSighting } from './sighting';

/** What stays the same over a clip. */
export interface BowContext {
  readonly camera: Camera;
  readonly strings: readonly StringLine[];
  readonly levels: StringLevels;
  readonly hair: number;
  readonly side: 1 | -1;
}

/** Players hold a level to about this (degrees, 1 sigma; ours, from measured playing in the reference samples' description). */
export const LEVEL_SIGMA = 4;
/** Bows are mostly near square (degrees; ours). */
export const SKEW_SIGMA = 12;

/** Number of residuals that {@link imageResiduals} writes. */
export const IMAGE_RESIDUALS = 4;

/**
 * Writes four residuals in sigmas: sideways at the two places of the line, frog and tip along it. What was
 * not seen gives 0. `hair` is the free length of hair in mm, `bias` shifts the ends along the line (px).
 */
export function imageResiduals(
  context: BowContext,
  pose: Pose,
  sighting: BowSighting,
  string: number,
  state: BowState,
  out: Float64Array | number[],
  at: number,
  hair = context.hair,
): void {
  out[at] = 0;
  out[at + 1] = 0;
  out[at + 2] = 0;
  out[at + 3] = 0;
  const ends = hairLine(state, context.strings[string]!, hair, context.side);
  const frog = project(context.camera, toOuter(pose, ends.frog));
  const tip = project(context.camera, toOuter(pose, ends.tip));
  if (!frog || !tip) {
    out[at] = 1e3;
    return;
  }
  const dx = tip[0] - frog[0];
  const dy = tip[1] - frog[1];
  const n = Math.hypot(dx, dy) || 1;
  const ux = dx / n;
  const uy = dy / n;
  const line = sighting.line;
  if (line) {
    out[at] = ((line.a[0] - frog[0]) * -uy + (line.a[1] - frog[1]) * ux) / line.sigmaA;
    out[at + 1] = ((line.b[0] - frog[0]) * -uy + (line.b[1] - frog[1]) * ux) / line.sigmaB;
  }
  if (sighting.frog) {
    out[at + 2] = ((frog[0] - sighting.frog.point[0]) * ux + (frog[1] - sighting.frog.point[1]) * uy) / sighting.frog.sigma;
  }
  if (sighting.tip) {
    out[at + 3] = ((tip[0] - sighting.tip.point[0]) * ux + (tip[1] - sighting.tip.point[1]) * uy) / sighting.tip.sigma;
  }
}

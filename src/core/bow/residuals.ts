import { type Camera, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import type { Vec2 } from '../geometry/vec3';
import type { StringLevels, StringLine } from '../instrument/strings';
import { type BowState, hairLine } from './bowState';
import { LASTING_END, type SharedEnds, sharedShift } from './sharedEnds';
import type { BowSighting } from './sighting';

/** What stays the same over a clip. */
export interface BowContext {
  readonly camera: Camera;
  readonly strings: readonly StringLine[];
  readonly levels: StringLevels;
  readonly hair: number;
  readonly side: 1 | -1;
  /** How far the seen length of the bow may differ from the expected one, as a share (1 sigma). */
  readonly lengthSigma: number;
  /** What is wrong about the ends in all frames alike; with it every end counts by its own error alone. */
  readonly shared?: SharedEnds;
}

/** Error of the bow's seen length in one frame: hair length, ends taken a little inward, camera (share, ours). */
export const LENGTH_SIGMA = 0.02;

/** Players hold a level to about this (degrees, 1 sigma; ours, from measured playing in the reference samples' description). */
export const LEVEL_SIGMA = 4;
/** Bows are mostly near square (degrees; ours). */
export const SKEW_SIGMA = 12;

/** Bows play about the middle of the strip between bridge and fingerboard: shares of the string length (ours). */
export const MID_STRIP = 0.09;
export const CONTACT_SIGMA = 0.08;

/** Number of residuals that {@link imageResiduals} writes. */
export const IMAGE_RESIDUALS = 4;

/**
 * Writes four residuals in sigmas: sideways at the two places of the line; along it, where the bow is (both
 * ends weighted); and its length, where both ends were seen and known. Where the context says what is wrong about the
 * ends in all frames alike, the last two are frog and tip instead. What was not seen gives 0.
 */
export function imageResiduals(context: BowContext, pose: Pose, sighting: BowSighting, string: number, state: BowState, out: Float64Array | number[], at: number): void {
  out[at] = 0;
  out[at + 1] = 0;
  out[at + 2] = 0;
  out[at + 3] = 0;
  const shared = context.shared;
  const ends = hairLine(state, context.strings[string]!, context.hair * (1 + (shared?.stretch ?? 0)), context.side);
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
  const along = (model: Vec2, seen: Vec2) => (model[0] - seen[0]) * ux + (model[1] - seen[1]) * uy;
  if (shared) {
    const unit = Math.max(context.camera.width, context.camera.height) / 960;
    const end = (which: 'frog' | 'tip', model: Vec2) => {
      const seen = sighting[which];
      if (!seen) return 0;
      const off = along(model, seen.point);
      // An end that was told otherwise than by its look has nothing of that.
      const alike = seen.own === undefined ? 0 : sharedShift(shared[which], seen, n / context.hair);
      return (off + alike) / Math.hypot(seen.own ?? seen.sigma, LASTING_END[which] * unit);
    };
    out[at + 2] = end('frog', frog);
    out[at + 3] = end('tip', tip);
    return;
  }
  let weight = 0;
  let sum = 0;
  if (sighting.frog) {
    const w = 1 / sighting.frog.sigma ** 2;
    weight += w;
    sum += w * along(frog, sighting.frog.point);
  }
  if (sighting.tip) {
    const w = 1 / sighting.tip.sigma ** 2;
    weight += w;
    sum += w * along(tip, sighting.tip.point);
  }
  if (weight > 0) out[at + 2] = sum / Math.sqrt(weight);
  if (sighting.frog && sighting.tip && sighting.lengthKnown !== false) {
    const difference = along(tip, sighting.tip.point) - along(frog, sighting.frog.point);
    out[at + 3] = difference / Math.hypot(sighting.frog.sigma, sighting.tip.sigma, context.lengthSigma * n);
  }
}

import { neckHandPlace } from '../../core/body/neckHandPlace';
import type { PartSquare } from '../../core/body/partSquare';
import { likelyStature } from '../../core/body/stature';
import type { Vec2 } from '../../core/geometry/vec3';
import { heldAtShoulder } from '../../core/instrument/family';
import { mean } from '../../core/statistics';
import type { TakeMeasures } from '../../core/take/analyse';
import type { Cut } from './cutOrder';

/** Turned and mirrored, fingers on a fingerboard look like those of the open hands the network learnt from (ours: on 12 clips of two renderers these found nine in ten of the hands that any of 64 cuts found). */
export const NECK_CUTS: readonly Cut[] = [
  { share: 1, turn: -0.6, mirror: true },
  { share: 1, turn: -1.2, mirror: false },
  { share: 0.77, turn: 1.2, mirror: true },
  { share: 1.3, turn: 0.6, mirror: true },
  { share: 0.77, turn: 0, mirror: true },
  { share: 0.77, turn: 0, mirror: false },
  { share: 1.3, turn: 1.2, mirror: true },
  { share: 1, turn: 0.6, mirror: false },
  { share: 1, turn: 0, mirror: false },
  { share: 1, turn: 1.2, mirror: true },
  { share: 0.77, turn: -0.6, mirror: false },
];
/** The middle of the points lies this near the hand's, and they spread so far about it, as shares of the square's side (ours). */
const NEAR = 0.3;
const SPREAD = [0.06, 0.3] as const;

/**
 * Whether points found are a hand at the neck. It is only there or not: fingers on a board turned from the camera are
 * often taken for a hand upside down, its joints 40 to 80 mm off (measured on seven clips of two renderers).
 */
export function isAtNeck(points: readonly Vec2[], { centre, side }: PartSquare): boolean {
  const middle: Vec2 = [mean(points.map((p) => p[0])), mean(points.map((p) => p[1]))];
  const apart = (p: Vec2) => Math.hypot(p[0] - middle[0], p[1] - middle[1]) / side;
  const spread = mean(points.map(apart));
  return apart(centre) < NEAR && spread > SPREAD[0] && spread < SPREAD[1];
}

/** Where the hand at the neck must be in each frame in which the instrument is known, by the frame's place in the film. Of instruments held at the shoulder only. */
export function neckHandPlaces({ family, dimensions, solution, tracked }: Pick<TakeMeasures, 'family' | 'dimensions' | 'solution' | 'tracked'>): Map<number, PartSquare> {
  const places = new Map<number, PartSquare>();
  if (!heldAtShoulder(family)) return places;
  const stature = likelyStature(dimensions).value;
  for (const { pose, index } of tracked) {
    const place = pose && neckHandPlace(solution.camera, pose, solution.model, stature);
    if (place) places.set(index, place);
  }
  return places;
}

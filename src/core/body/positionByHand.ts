import { bowInSpace } from '../bow/bowInSpace';
import type { BowOnString } from '../bow/bowState';
import type { BowContext } from '../bow/residuals';
import { project } from '../geometry/camera';
import type { Pose } from '../geometry/pose';
import { addScaled, type Vec2, type Vec3 } from '../geometry/vec3';
import { WRIST_AT_FROG } from './wristAtFrog';

/** Where along the bow the hand is that holds its frog. */
export interface PositionByHand {
  /** Share of the hair from the frog to the string. */
  readonly position: number;
  readonly sigma: number;
  /** How far the wrist is from where a hand on this bow's line would have it, px. */
  readonly aside: number;
}

/** How far the wrist may be from its usual place along the bow, mm of a grown player (ours: 10 to 37 in the median of 22 clips of two renderers). */
const TIE_SIGMA = 35;
/** How well the body network places a wrist in the picture, share of the torso (ours, from renders of two renderers). */
const WRIST_SIGMA = 0.05;
/** A bow seen so short says nothing along it: px for its whole length, in torsos. */
const LEAST_LENGTH = 0.3;

/**
 * Position of the bow from a wrist seen in the picture: the bow's line is known, only where it is along it is asked.
 * `torso` is the seen length of the trunk in px, `scale` the player's height over a grown one's. Undefined where the
 * bow points at the camera.
 */
export function positionByHand(context: BowContext, pose: Pose, bow: BowOnString, wrist: Vec2, torso: number, scale: number): PositionByHand | undefined {
  const seenAt = (position: number): Vec2 | undefined => {
    const { frog, axes } = bowInSpace(context, pose, { ...bow, state: { ...bow.state, position } });
    const [along, ...rest] = WRIST_AT_FROG.at;
    const offset = [along + WRIST_AT_FROG.travel * (position - WRIST_AT_FROG.middle), ...rest];
    const there = axes.reduce<Vec3>((w, axis, i) => addScaled(w, axis, scale * offset[i]!), frog);
    return project(context.camera, there);
  };
  let position = bow.state.position;
  let pixels = 0;
  for (let round = 0; round < 4; round++) {
    const [a, b] = [seenAt(position - 0.02), seenAt(position + 0.02)];
    if (!a || !b) return undefined;
    const way: Vec2 = [(b[0] - a[0]) / 0.04, (b[1] - a[1]) / 0.04];
    pixels = Math.hypot(...way);
    if (pixels < LEAST_LENGTH * torso) return undefined;
    const at: Vec2 = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
    position += Math.max(-0.5, Math.min(0.5, ((wrist[0] - at[0]) * way[0] + (wrist[1] - at[1]) * way[1]) / pixels ** 2));
  }
  const there = seenAt(position);
  if (!there) return undefined;
  return {
    position,
    sigma: Math.hypot((WRIST_SIGMA * torso) / pixels, (TIE_SIGMA * scale) / context.hair),
    aside: Math.hypot(wrist[0] - there[0], wrist[1] - there[1]),
  };
}

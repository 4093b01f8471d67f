import type { Vec2 } from '../geometry/vec3';
import { type Family, heldAtShoulder } from '../instrument/family';

/** A square of the picture, turned by nothing: its middle and side in pixels. */
export interface Region {
  readonly middle: Vec2;
  readonly side: number;
}

const between = (a: Vec2, b: Vec2): Vec2 => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
const distance = (a: Vec2, b: Vec2): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

/**
 * Where the instrument is to be looked for, from the joints of the player: about the middle between the left hand and
 * the chin for instruments at the shoulder, between left hand and lap for those held between the knees. Names as in a
 * marks file; undefined when shoulders, hips, nose or the left wrist are missing. Factors ours.
 */
export function playerRegion(joint: (name: string) => Vec2 | undefined, family: Family): Region | undefined {
  const nose = joint('body.nose');
  const wrist = joint('body.wrist.left');
  const shoulders = [joint('body.shoulder.left'), joint('body.shoulder.right')];
  const hips = [joint('body.hip.left'), joint('body.hip.right')];
  if (!nose || !wrist || !shoulders[0] || !shoulders[1] || !hips[0] || !hips[1]) return undefined;
  const chest = between(shoulders[0], shoulders[1]);
  const lap = between(hips[0], hips[1]);
  const size = Math.max(distance(chest, lap), 1.5 * distance(shoulders[0], shoulders[1]));
  if (!(size > 0)) return undefined;
  return heldAtShoulder(family) ? { middle: between(wrist, between(nose, chest)), side: 1.75 * size } : { middle: between(between(wrist, chest), lap), side: 2.2 * size };
}

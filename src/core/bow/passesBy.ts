import { project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import type { Vec2 } from '../geometry/vec3';
import { onString } from '../instrument/strings';
import type { BowContext } from './residuals';

/** Where a bow can touch a string: shares of the string, from a little behind the bridge (an exercise) to well over the fingerboard (ours). */
export const PLAYABLE = { from: -0.1, to: 0.36 } as const;

/**
 * How far (px) an image line passes by where a bow can touch the strings: 0 where it crosses that part of any of them.
 * @returns undefined where no string can be projected
 */
export function passesBy({ camera, strings }: Pick<BowContext, 'camera' | 'strings'>, pose: Pose, a: Vec2, b: Vec2): number | undefined {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const length = Math.hypot(dx, dy) || 1;
  const beside = strings.flatMap((string) => {
    const [from, to] = [PLAYABLE.from, PLAYABLE.to].map((share) => {
      const p = project(camera, toOuter(pose, onString(string, share * string.nut[0])));
      return p && ((p[0] - a[0]) * dy - (p[1] - a[1]) * dx) / length;
    });
    if (from === undefined || to === undefined) return [];
    return from * to <= 0 ? 0 : Math.min(Math.abs(from), Math.abs(to));
  });
  return beside.length > 0 ? Math.min(...beside) : undefined;
}

import { type BowState, hairLine } from '../../core/bow/bowState';
import { project } from '../../core/geometry/camera';
import { type Pose, toOuter } from '../../core/geometry/pose';
import { fromRotationVector } from '../../core/geometry/rotation';
import type { Vec2 } from '../../core/geometry/vec3';
import { seededRandom } from '../../core/random';
import type { Frame } from '../film/frame';
import { context, H, W } from './testViolin';

const STRING = 2;
/** The violin of the drawn bow, seen from in front and above. */
export const pose: Pose = { rotation: fromRotationVector([2.5, 0.4, 0.5]), translation: [-60, -60, 1500] };

/** A bow on the second highest string, at a place along itself. */
export const stateAt = (position: number): BowState => ({ contact: 28, skew: 2, inclination: context.levels.natural[STRING]!, position });

/** Ends of its hair in the picture, on a violin seen so. */
export function endsAt(position: number, from = pose): { frog: Vec2; tip: Vec2 } {
  const line = hairLine(stateAt(position), context.strings[STRING]!, context.hair, 1);
  return { frog: project(context.camera, toOuter(from, line.frog))!, tip: project(context.camera, toOuter(from, line.tip))! };
}

/** What rests in the room behind the bow's end. */
export type Clutter = (x: number, y: number) => number | undefined;

/** Hair, dark stick, a tip block and a frog with a hand behind it, before a wall. */
export function picture(position: number, behind: Clutter, seed: number, handSeen: boolean, from = pose): Frame {
  const { frog, tip } = endsAt(position, from);
  const random = seededRandom(seed);
  const luma = new Uint8Array(W * H);
  const n = Math.hypot(tip[0] - frog[0], tip[1] - frog[1]);
  const [ux, uy] = [(tip[0] - frog[0]) / n, (tip[1] - frog[1]) / n];
  for (let y = 0; y < H; y++) {
    for (let x = 0; x < W; x++) {
      let v = behind(x, y) ?? 135 + 12 * Math.sin(x / 31) + 12 * Math.sin(y / 23);
      const along = (x + 0.5 - frog[0]) * ux + (y + 0.5 - frog[1]) * uy;
      const across = -(x + 0.5 - frog[0]) * uy + (y + 0.5 - frog[1]) * ux;
      const stick = 6 + 4 * Math.abs(along / n - 0.6);
      if (along > 0 && along < n && Math.abs(across) < 1.8) v = 225;
      else if (along > n - 2 && along < n + 5 && across > -2 && across < stick + 3) v = 240;
      else if (along > -20 && along < n + 4 && Math.abs(across - stick) < 2.6) v = 45;
      else if (handSeen && along > -16 && along < 14 && across > -3 && across < 22) v = along > -2 && across < stick ? 25 : 175;
      luma[y * W + x] = Math.max(0, Math.min(255, v + 8 * (random() - 0.5)));
    }
  }
  return { index: seed, t: seed / 30, width: W, height: H, luma };
}

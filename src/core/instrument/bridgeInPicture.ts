import { type Camera, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import type { Vec2, Vec3 } from '../geometry/vec3';

/** How the bridge of a placed instrument lies in the picture. */
export interface BridgeInPicture {
  /** Its middle, px. */
  readonly at: Vec2;
  /** Unit vector across its line, toward the nut. */
  readonly across: Vec2;
  /** Pixels across its line for a millimetre along the strings. */
  readonly pxPerMm: number;
}

/** Undefined behind the camera, or where its line is seen along itself. */
export function bridgeInPicture(camera: Camera, pose: Pose): BridgeInPicture | undefined {
  const [low, high, at, ahead] = (
    [
      [0, 1, 0],
      [0, -1, 0],
      [0, 0, 0],
      [1, 0, 0],
    ] as readonly Vec3[]
  ).map((p) => project(camera, toOuter(pose, p)));
  if (!low || !high || !at || !ahead) return undefined;
  const line: Vec2 = [high[0] - low[0], high[1] - low[1]];
  const long = Math.hypot(...line);
  const px = ((ahead[0] - at[0]) * line[1] - (ahead[1] - at[1]) * line[0]) / long;
  if (!(Math.abs(px) > 0)) return undefined;
  const side = Math.sign(px);
  return { at, across: [(side * line[1]) / long, (-side * line[0]) / long], pxPerMm: Math.abs(px) };
}

import type { Camera } from '../../core/geometry/camera';
import type { Pose } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import type { BowInPicture } from './keyFrame';

/** Hair and stick cover this much to either side of the hair (mm, ours). */
const COVERS_MM = 16;

/** Whether a place of the picture (px) about an instrument that lies so is covered by the bow; its line is taken to go on beyond its ends. */
export function bowCover(camera: Camera, pose: Pose, { frog, tip }: BowInPicture): (p: Vec2) => boolean {
  const [dx, dy] = [tip[0] - frog[0], tip[1] - frog[1]];
  const band = (COVERS_MM * camera.focal * (Math.hypot(dx, dy) || 1)) / pose.translation[2];
  return (p) => Math.abs((p[0] - frog[0]) * dy - (p[1] - frog[1]) * dx) < band;
}

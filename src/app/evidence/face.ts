import { type BodySighting, type Joints, middleOf, seenTorso } from '../../core/body/sighting';
import type { TakeMeasures } from '../../core/take/analyse';

/** An oval over the face, px of the film. */
export interface Face {
  readonly x: number;
  readonly y: number;
  readonly rx: number;
  readonly ry: number;
}

/** Bystanders are missed in one picture and seen in the next: those of so many seconds about a moment are covered too (ours). */
const ABOUT = 1;

/** Where the faces are in a frame, the player's first, from the pictures looked at about it; undefined where the player's was not seen in any. */
export function facesAt(take: TakeMeasures, index: number): Face[] | undefined {
  const { frame, t } = take.frames[index]!;
  const near = take.bodies
    ?.filter((b) => b.joints)
    .reduce<BodySighting | undefined>((best, b) => (!best || Math.abs(b.frame - frame) < Math.abs(best.frame - frame) ? b : best), undefined);
  if (!near?.joints) return undefined;
  const others = take.bodies!.filter((b) => Math.abs(b.t - t) <= ABOUT).flatMap((b) => b.others ?? []);
  const width = take.mirrored ? take.solution.camera.width : undefined;
  return [near.joints, ...others].map((joints) => faceOf(joints, width));
}

/** The oval over a person's face; joints of a mirrored take are turned back into the film of that width. */
function faceOf(joints: Joints, mirroredWidth: number | undefined): Face {
  const [nose, left, right] = (['nose', 'ear.left', 'ear.right'] as const).map((name) => joints[name].point);
  const ears = middleOf(joints, 'ear.left', 'ear.right');
  // In profile the ears fall together: then the torso tells how large a head is.
  const rx = Math.max(0.72 * Math.hypot(left![0] - right![0], left![1] - right![1]), 0.24 * seenTorso(joints));
  const x = (ears[0] + nose![0]) / 2;
  return { x: mirroredWidth === undefined ? x : mirroredWidth - x, y: (ears[1] + nose![1]) / 2 - 0.1 * rx, rx, ry: 1.32 * rx };
}

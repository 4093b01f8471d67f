import { type Joints, middleOf, seenTorso } from '../../core/body/sighting';
import type { TakeMeasures } from '../../core/take/analyse';

/** An oval over the face, px of the film. */
export interface Face {
  readonly x: number;
  readonly y: number;
  readonly rx: number;
  readonly ry: number;
}

/** A face is where it was seen within so many seconds, no longer; bystanders, missed in one picture and seen in the next, are covered for as long (ours). */
const ABOUT = 1;

/**
 * Where the faces are in a frame, the player's first, from the pictures looked at about it; undefined where the
 * player's was not seen in any. Between two pictures it is on the way from one place to the other: the oval
 * is widened so that it holds the face wherever on the way it is.
 */
export function facesAt(take: TakeMeasures, index: number): Face[] | undefined {
  const { t } = take.frames[index]!;
  const about = take.bodies?.filter((b) => Math.abs(b.t - t) <= ABOUT) ?? [];
  const width = take.mirrored ? take.solution.camera.width : undefined;
  const [before, after] = [about.findLast((b) => b.joints && b.t <= t), about.find((b) => b.joints && b.t >= t)].map((b) => b?.joints && { t: b.t, face: faceOf(b.joints, width) });
  const seen = before ?? after;
  if (!seen) return undefined;
  return [before && after ? onTheWay(before, after, t) : seen.face, ...about.flatMap((b) => b.others ?? []).map((joints) => faceOf(joints, width))];
}

interface SeenFace {
  readonly t: number;
  readonly face: Face;
}

function onTheWay(before: SeenFace, after: SeenFace, t: number): Face {
  const k = after.t > before.t ? (t - before.t) / (after.t - before.t) : 0;
  const [a, b] = [before.face, after.face];
  const wider = k > 0 && k < 1 ? Math.max(k, 1 - k) * Math.hypot(b.x - a.x, b.y - a.y) : 0;
  const between = (key: keyof Face) => a[key] + k * (b[key] - a[key]);
  return { x: between('x'), y: between('y'), rx: between('rx') + wider, ry: between('ry') + wider };
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

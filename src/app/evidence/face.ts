import type { BodySighting } from '../../core/body/sighting';
import type { TakeMeasures } from '../../core/take/analyse';

/** An oval over the face, px of the film. */
export interface Face {
  readonly x: number;
  readonly y: number;
  readonly rx: number;
  readonly ry: number;
}

/** Where the face is in a frame, from the nearest looked-at frame; undefined where nobody was seen. */
export function faceAt(take: TakeMeasures, index: number): Face | undefined {
  const frame = take.frames[index]!.frame;
  const near = take.bodies
    ?.filter((b) => b.joints)
    .reduce<BodySighting | undefined>((best, b) => (!best || Math.abs(b.frame - frame) < Math.abs(best.frame - frame) ? b : best), undefined);
  if (!near?.joints) return undefined;
  const at = (name: 'nose' | 'ear.left' | 'ear.right' | 'shoulder.left' | 'shoulder.right' | 'hip.left' | 'hip.right') => near.joints![name].point;
  const middle = (a: readonly [number, number], b: readonly [number, number]) => [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] as const;
  const ears = middle(at('ear.left'), at('ear.right'));
  const shoulders = middle(at('shoulder.left'), at('shoulder.right'));
  const hips = middle(at('hip.left'), at('hip.right'));
  const torso = Math.hypot(shoulders[0] - hips[0], shoulders[1] - hips[1]);
  const apart = Math.hypot(at('ear.left')[0] - at('ear.right')[0], at('ear.left')[1] - at('ear.right')[1]);
  // In profile the ears fall together: then the torso tells how large a head is.
  const rx = Math.max(0.72 * apart, 0.24 * torso);
  const x = (ears[0] + at('nose')[0]) / 2;
  const mirrored = take.mirrored ? take.solution.camera.width - x : x;
  return { x: mirrored, y: (ears[1] + at('nose')[1]) / 2 - 0.1 * rx, rx, ry: 1.32 * rx };
}

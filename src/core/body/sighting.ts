import type { Vec2, Vec3 } from '../geometry/vec3';

/** Joints of the player that a body network names; left and right are the player's own. */
export const BODY_JOINTS = [
  'nose',
  'ear.left',
  'ear.right',
  'shoulder.left',
  'shoulder.right',
  'elbow.left',
  'elbow.right',
  'wrist.left',
  'wrist.right',
  'hip.left',
  'hip.right',
  'knee.left',
  'knee.right',
  'ankle.left',
  'ankle.right',
  'toe.left',
  'toe.right',
] as const;
export type BodyJoint = (typeof BODY_JOINTS)[number];

export interface JointSighting {
  /** Place in the picture, px. */
  readonly point: Vec2;
  /** The network's own guess in space: mm from between the hips, camera axes. Only a hint. */
  readonly space: Vec3;
  /** How likely it is in sight, 0..1, by the network's own word; no proof. */
  readonly seen: number;
}

/** What body and hand networks saw in one frame. */
export interface BodySighting {
  /** Place of the frame in the film. */
  readonly frame: number;
  readonly t: number;
  /** Absent where nobody was found. */
  readonly joints?: Readonly<Record<BodyJoint, JointSighting>>;
  /** The 21 points of the bow hand, px; absent where no hand was found that could hold the bow. */
  readonly bowHand?: readonly Vec2[];
}

/** The joint of that name in a mirror. */
export function otherSide(joint: BodyJoint): BodyJoint {
  if (joint.endsWith('.left')) return joint.replace('.left', '.right') as BodyJoint;
  return joint.replace('.right', '.left') as BodyJoint;
}

/** The sighting as it stands in the mirrored picture: a left-handed player becomes right-handed. */
export function mirrorBody(body: BodySighting, width: number): BodySighting {
  const flip = ([x, y]: Vec2): Vec2 => [width - x, y];
  const { joints, bowHand, ...rest } = body;
  return {
    ...rest,
    ...(joints
      ? {
          joints: Object.fromEntries(
            BODY_JOINTS.map((name) => {
              const { point, space, seen } = joints[otherSide(name)];
              return [name, { point: flip(point), space: [-space[0], space[1], space[2]] as Vec3, seen }];
            }),
          ) as Record<BodyJoint, JointSighting>,
        }
      : {}),
    ...(bowHand ? { bowHand: bowHand.map(flip) } : {}),
  };
}

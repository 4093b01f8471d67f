import { mix, type Vec2, type Vec3 } from '../geometry/vec3';
import type { HeldJoint } from './handView';

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
  /** How far apart two looks at it, one in the mirrored picture, put it (px); absent where there was one. */
  readonly apart?: number;
  /** How likely it is in sight, 0..1, by the network's own word; no proof. */
  readonly seen: number;
}

/** What is seen of every joint. */
export type Joints = Readonly<Record<BodyJoint, JointSighting>>;

/** Looks in the picture and in its mirror image that differ tell of their error: so much of the distance between them (1 sigma; ours, from 17 clips of two renderers). */
export const LOOKS_APART = 0.65;

/** A joint the network itself calls less likely in sight is not taken (ours). */
export const LEAST_SEEN = 0.5;

/** Points of the player's face that a face network names, in its order; sides are the player's own. */
export const FACE_POINTS = ['eye.right', 'eye.left', 'nose', 'mouth', 'ear.right', 'ear.left'] as const;
export type FacePoint = (typeof FACE_POINTS)[number];

/** What a body network looks at: the picture, or its mirror image. It errs otherwise there. */
export const LOOKS = ['plain', 'mirrored'] as const;
export type Look = (typeof LOOKS)[number];

/** What body, hand and face networks saw in one frame. */
export interface BodySighting {
  /** Place of the frame in the film. */
  readonly frame: number;
  readonly t: number;
  /** The player's; absent where nobody was found. */
  readonly joints?: Joints;
  /** The look that saw them, where it was one alone. */
  readonly look?: Look;
  /** Those of other people in the picture, who are not measured. */
  readonly others?: readonly Joints[];
  /** The 21 points of the bow hand, px; absent where no hand was found that could hold the bow. */
  readonly bowHand?: readonly Vec2[];
  /** Its 21 joints by the hand network of our own, which looks wherever the bow is known. */
  readonly heldBow?: readonly HeldJoint[];
  /** Whether the hand at the neck was looked for here; it is only now and then. */
  readonly neckSought?: boolean;
  /** Its 21 points, px; absent where none was found. */
  readonly neckHand?: readonly Vec2[];
  /** The player's face as in {@link FACE_POINTS}, px; absent where none was found. */
  readonly face?: readonly Vec2[];
}

/** The place half way between two joints as seen, px. */
export function middleOf(joints: Joints, a: BodyJoint, b: BodyJoint): Vec2 {
  const [p, q] = [joints[a].point, joints[b].point];
  return [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2];
}

/** The middle of the shoulders as seen, px. */
export const seenChest = (joints: Joints): Vec2 => middleOf(joints, 'shoulder.left', 'shoulder.right');

/** Length of the trunk as seen, px: the middle of the shoulders to the middle of the hips. */
export function seenTorso(joints: Joints): number {
  const [chest, hips] = [seenChest(joints), middleOf(joints, 'hip.left', 'hip.right')];
  return Math.hypot(chest[0] - hips[0], chest[1] - hips[1]);
}

/** The joint of that name in a mirror. */
export function otherSide(joint: BodyJoint): BodyJoint {
  if (joint.endsWith('.left')) return joint.replace('.left', '.right') as BodyJoint;
  return joint.replace('.right', '.left') as BodyJoint;
}

/** Joints made one by one. */
export const everyJoint = (make: (name: BodyJoint) => JointSighting): Joints => Object.fromEntries(BODY_JOINTS.map((name) => [name, make(name)])) as Joints;

/** Joints as they stand in the mirrored picture: left ones become right. */
export const mirrorJoints = (joints: Joints, width: number): Joints =>
  everyJoint((name) => {
    const { point, space, ...rest } = joints[otherSide(name)];
    return { ...rest, point: [width - point[0], point[1]], space: [-space[0], space[1], space[2]] };
  });

/** Two looks at the same joints taken together: the places half way, and how far the looks lie apart. */
export const joinLooks = (first: Joints, second: Joints): Joints =>
  everyJoint((name) => {
    const [a, b] = [first[name], second[name]];
    return {
      point: [(a.point[0] + b.point[0]) / 2, (a.point[1] + b.point[1]) / 2],
      space: mix(a.space, b.space, 0.5),
      apart: Math.hypot(a.point[0] - b.point[0], a.point[1] - b.point[1]),
      seen: (a.seen + b.seen) / 2,
    };
  });

/** Where each point of a face is found in its mirror image. */
const FACE_IN_MIRROR = [1, 0, 2, 3, 5, 4] as const;

/** The sighting as it stands in the mirrored picture: a left-handed player becomes right-handed. */
export function mirrorBody(body: BodySighting, width: number): BodySighting {
  const flip = ([x, y]: Vec2): Vec2 => [width - x, y];
  const { joints, others, bowHand, heldBow, neckHand, face, ...rest } = body;
  return {
    ...rest,
    ...(joints ? { joints: mirrorJoints(joints, width) } : {}),
    ...(others ? { others: others.map((o) => mirrorJoints(o, width)) } : {}),
    ...(bowHand ? { bowHand: bowHand.map(flip) } : {}),
    ...(heldBow ? { heldBow: heldBow.map((joint) => ({ ...joint, point: flip(joint.point) })) } : {}),
    ...(neckHand ? { neckHand: neckHand.map(flip) } : {}),
    ...(face ? { face: FACE_IN_MIRROR.map((i) => flip(face[i]!)) } : {}),
  };
}

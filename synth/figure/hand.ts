import type { HandPoints } from '../../src/core/body/hand';
import { add, addScaled, cross, distance, dot, length, normalize, RADIANS, scale, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import { chain, ellipsoid, type Field, join, roundCone, union } from '../surface/field';
import type { Bone } from '../surface/skeleton';

/** Where a palm is in the room and which way it faces; unit vectors. */
export interface Palm {
  readonly wrist: Vec3;
  /** Toward the knuckle of the middle finger. */
  readonly along: Vec3;
  /** Toward the thumb's side. */
  readonly radial: Vec3;
  /** Out of the back of the hand. */
  readonly dorsal: Vec3;
}

/** Hand length over stature, and the length (mm) the tables below are for (from memory, anthropometric tables). */
const LENGTH_SHARE = 0.108;
const TABLE_LENGTH = 185;

export const handScale = (stature: number): number => (stature * LENGTH_SHARE) / TABLE_LENGTH;

/** Knuckles in the palm's own frame (along, radial, dorsal) and the lengths of the three bones, mm (from memory). */
const FINGER_BONES = [
  { knuckle: [86, 22, 3], bones: [41, 24, 22], radius: 1, rest: 5 },
  { knuckle: [88, 2, 6], bones: [45, 28, 23], radius: 1.02, rest: 0 },
  { knuckle: [82, -17, 3], bones: [41, 27, 23], radius: 0.97, rest: -5 },
  { knuckle: [73, -34, -2], bones: [33, 19, 20], radius: 0.85, rest: -11 },
] as const satisfies readonly { knuckle: Vec3; bones: Vec3; radius: number; rest: number }[];
const THUMB = { base: [18, 25, -10] as Vec3, bones: [44, 32, 26] as Vec3 };

/** Bends of a finger, degrees: 0 straight, + toward the palm; `spread` + toward the thumb. */
export interface FingerBend {
  readonly mcp: number;
  readonly pip: number;
  readonly dip: number;
  readonly spread: number;
}

const inPalm = (palm: Palm, s: number, p: Vec3): Vec3 => add(palm.wrist, addScaled(addScaled(scale(palm.along, p[0] * s), palm.radial, p[1] * s), palm.dorsal, p[2] * s));

export const knuckleOf = (palm: Palm, finger: number, s: number): Vec3 => inPalm(palm, s, FINGER_BONES[finger]!.knuckle);

/** The four joints of a finger from its bends. */
export function fingerJoints(palm: Palm, finger: number, bend: FingerBend, s: number): Vec3[] {
  const { knuckle, bones } = FINGER_BONES[finger]!;
  const forward = addScaled(scale(palm.along, Math.cos(bend.spread * RADIANS)), palm.radial, Math.sin(bend.spread * RADIANS));
  const out: Vec3[] = [inPalm(palm, s, knuckle)];
  let angle = 0;
  [bend.mcp, bend.pip, bend.dip].forEach((b, i) => {
    angle += b * RADIANS;
    const direction = addScaled(scale(forward, Math.cos(angle)), palm.dorsal, -Math.sin(angle));
    out.push(addScaled(out[i]!, direction, bones[i]! * s));
  });
  return out;
}

/** Usual share of the end joint's bend in the middle one's (from memory, anatomy). */
const DIP_SHARE = 0.62;

export interface ReachLimits {
  /** Least and greatest bend of the middle joint, degrees. */
  readonly pip?: readonly [number, number];
  /** End joint's bend over the middle one's; negative bends the end back. */
  readonly dipShare?: number;
}

/** Bends with which a finger's tip comes to a place, or as near as its length allows. */
export function reach(palm: Palm, finger: number, target: Vec3, s: number, limits: ReachLimits = {}): FingerBend {
  const { bones } = FINGER_BONES[finger]!;
  const to = subtract(target, knuckleOf(palm, finger, s));
  const share = limits.dipShare ?? DIP_SHARE;
  const sideways = dot(to, palm.radial);
  const ahead = dot(to, palm.along);
  const spread = Math.max(-22, Math.min(22, Math.atan2(sideways, Math.max(18 * s, Math.abs(ahead))) / RADIANS));
  const forward = addScaled(scale(palm.along, Math.cos(spread * RADIANS)), palm.radial, Math.sin(spread * RADIANS));
  const x = dot(to, forward);
  const y = -dot(to, palm.dorsal);
  const goal = Math.hypot(x, y);
  const end = (pip: number): [number, number] => {
    const a = pip * RADIANS;
    const b = a * (1 + share);
    return [s * (bones[0] + bones[1] * Math.cos(a) + bones[2] * Math.cos(b)), s * (bones[1] * Math.sin(a) + bones[2] * Math.sin(b))];
  };
  let [low, high] = limits.pip ?? [2, 105];
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    if (Math.hypot(...end(middle)) > goal) low = middle;
    else high = middle;
  }
  const pip = (low + high) / 2;
  const [ex, ey] = end(pip);
  const mcp = (Math.atan2(y, x) - Math.atan2(ey, ex)) / RADIANS;
  return { mcp: Math.max(-35, Math.min(95, mcp)), pip, dip: pip * share, spread };
}

/**
 * Joints of the thumb from its base to a tip, with the end joint bent by `ip` degrees (+ the usual way); the
 * chain bulges toward `bulge`.
 */
export function thumbJoints(palm: Palm, tip: Vec3, bulge: Vec3, ip: number, s: number): Vec3[] {
  const base = inPalm(palm, s, THUMB.base);
  const [first, second, third] = THUMB.bones.map((b) => b * s) as unknown as Vec3;
  // The last two bones with their bend make one rigid piece.
  const a = ip * RADIANS;
  const piece = Math.hypot(second + third * Math.cos(a), third * Math.sin(a));
  const inner = Math.atan2(third * Math.sin(a), second + third * Math.cos(a));
  const line = subtract(tip, base);
  const d = Math.min(Math.max(length(line), Math.abs(first - piece) + 1), (first + piece) * 0.999);
  const u = normalize(line);
  const v = normalize(addScaled(bulge, u, -dot(bulge, u)));
  const along = (first * first - piece * piece + d * d) / (2 * d);
  const off = Math.sqrt(Math.max(0, first * first - along * along));
  const mcp = add(base, addScaled(scale(u, along), v, off));
  const end = addScaled(base, u, d);
  const toward = normalize(subtract(end, mcp));
  const out = normalize(addScaled(v, toward, -dot(v, toward)));
  const ipJoint = addScaled(addScaled(mcp, toward, second * Math.cos(inner)), out, second * Math.sin(inner));
  return [base, mcp, ipJoint, end];
}

/** The open hand in its own frame, in which its skin is made: x along, y to the thumb's side (right hand), z out of the back. */
export const REST_PALM: Palm = { wrist: [0, 0, 0], along: [1, 0, 0], radial: [0, 1, 0], dorsal: [0, 0, 1] };

export function restHand(s: number): HandPoints {
  const fingers = FINGER_BONES.flatMap((f, i) => fingerJoints(REST_PALM, i, { mcp: 22, pip: 26, dip: 14, spread: f.rest }, s));
  const [base, mcp, ip, tip] = [THUMB.base, [50, 50, -26], [72, 66, -38], [90, 78, -47]].map((p) => scale(p as Vec3, s)) as [Vec3, Vec3, Vec3, Vec3];
  return [[0, 0, 0], base, mcp, ip, tip, ...fingers];
}

/** Bones of a hand for its skin: palm first, then thumb and fingers outward. */
export function handBones(j: HandPoints, palm: Palm, s: number): Bone[] {
  const bones: Bone[] = [{ from: j[0]!, to: j[9]!, across: palm.radial, girth: 26 * s }];
  for (let f = 0; f < 5; f++) {
    const chainOf = [0, 1, 2, 3].map((i) => j[1 + 4 * f + i]!);
    // A finger bends about one axis all along; straight fingers take the palm's.
    const hinge = cross(subtract(chainOf[1]!, chainOf[0]!), subtract(chainOf[3]!, chainOf[1]!));
    const usual = f === 0 ? normalize(add(palm.dorsal, scale(palm.radial, 0.3))) : palm.radial;
    const sure = length(hinge) > 40 * s * s;
    const across = sure ? scale(normalize(hinge), Math.sign(dot(hinge, usual)) || 1) : usual;
    for (let i = 0; i < 3; i++) bones.push({ from: chainOf[i]!, to: chainOf[i + 1]!, across, girth: (f === 0 ? [15, 11, 10][i]! : [10, 8.6, 7.6][i]!) * s });
  }
  return bones;
}

/** Skin of the open hand about its joints in the rest frame; the wrist's stump runs back into the forearm. */
export function handField(j: HandPoints, s: number): Field {
  const at = (i: number): Vec3 => j[i]!;
  const back = (p: Vec3, z: number): Vec3 => [p[0], p[1], p[2] + z * s];
  let palm: Field = union(
    [5, 9, 13, 17].map((k, i) => roundCone([12 * s, [9, 3, -4, -10][i]! * s, -1 * s], back(at(k), -4), 15.5 * s, [12.5, 12.5, 11.5, 10.5][i]! * s)),
    14 * s,
  );
  palm = join(palm, roundCone([22 * s, -20 * s, -10 * s], [62 * s, -32 * s, -10 * s], 14 * s, 11 * s), 12 * s);
  // Ball of the thumb.
  palm = join(palm, ellipsoid([40 * s, 28 * s, -16 * s], [26 * s, 15 * s, 14 * s]), 14 * s);
  const wrist = union([roundCone([-34 * s, 9 * s, 0], [10 * s, 8 * s, 0], 17 * s, 16 * s), roundCone([-34 * s, -9 * s, 0], [10 * s, -8 * s, 0], 16.5 * s, 15.5 * s)], 8 * s);
  palm = join(palm, wrist, 16 * s);
  let hand = palm;
  const thumb = chain(
    [at(1), at(2), at(3), at(4)].map((p, i, all) => (i === 3 ? shortened(all[2]!, p, 9 * s) : p)),
    [15 * s, 12 * s, 10.6 * s, 8.6 * s],
    5 * s,
  );
  hand = join(hand, thumb, 12 * s);
  // Web between thumb and palm.
  hand = join(hand, roundCone([58 * s, 34 * s, -16 * s], [70 * s, 26 * s, -8 * s], 9 * s, 8 * s), 16 * s);
  const fingers = FINGER_BONES.map((f, i) => {
    const k = 5 + 4 * i;
    const r = f.radius * s;
    const tip = shortened(at(k + 2), at(k + 3), 7.4 * r);
    return union(
      [
        roundCone(at(k), at(k + 1), 10.6 * r, 9 * r),
        roundCone(at(k + 1), at(k + 2), 9.3 * r, 8 * r),
        roundCone(at(k + 2), tip, 8.1 * r, 7 * r),
        // Pad of the fingertip.
        roundCone(shortened(at(k + 3), at(k + 2), -4 * r), back(tip, -1.4), 6.6 * r, 6.4 * r),
      ],
      3.5 * s,
    );
  });
  for (const finger of fingers) hand = join(hand, finger, 5.5 * s);
  return hand;
}

/** A point on the way from `a` to `b`, `by` mm before `b` (beyond it when negative, seen from `a`). */
const shortened = (a: Vec3, b: Vec3, by: number): Vec3 => {
  const d = distance(a, b) || 1;
  return addScaled(b, subtract(a, b), by / d);
};

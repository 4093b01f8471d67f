import { add, addScaled, cross, normalize, RADIANS, scale, type Vec3 } from '../geometry/vec3';
import { FINGERS, type Finger } from './hand';

/** Knuckles in the palm's frame (along to the middle knuckle, toward the thumb, out of the back) and the lengths of the three bones, mm of a grown right hand (from memory). */
export const FINGER_BONES: Readonly<Record<Finger, { readonly knuckle: Vec3; readonly bones: Vec3 }>> = {
  index: { knuckle: [86, 24, 2], bones: [42, 25, 21] },
  middle: { knuckle: [90, 2, 4], bones: [46, 29, 22] },
  ring: { knuckle: [83, -17, 2], bones: [42, 27, 22] },
  little: { knuckle: [74, -34, -3], bones: [33, 20, 19] },
};
export const THUMB_BONES = { base: [20, 25, -10] as Vec3, bones: [44, 33, 26] as Vec3, rest: normalize([0.62, 0.42, -0.66]) } as const;

/** Numbers that pose a hand: wrist (mm, bow axes), turn (degrees, as a rotation vector), four a finger, four for the thumb. */
export const HAND_NUMBERS = 26;
export const WRIST = 0;
export const TURN = 3;
/** First of a finger's numbers: bend and spread at the knuckle, bend at the middle and end joint, degrees. */
export const fingerAt = (finger: number): number => 6 + 4 * finger;
/** First of the thumb's: two turns at its base, bend at the knuckle and at the end joint. */
export const THUMB_AT = 22;

/** Axes of the palm in a frame: along to the middle knuckle, toward the thumb, out of the back. */
export interface PalmFrame {
  readonly wrist: Vec3;
  readonly along: Vec3;
  readonly radial: Vec3;
  readonly dorsal: Vec3;
}

/** Rodrigues' turn of a vector by a rotation vector in degrees. */
function turned(v: Vec3, turn: Vec3): Vec3 {
  const angle = Math.hypot(...turn) * RADIANS;
  if (angle < 1e-9) return v;
  const k = normalize(turn);
  const c = Math.cos(angle);
  const kv = k[0] * v[0] + k[1] * v[1] + k[2] * v[2];
  return add(add(scale(v, c), scale(cross(k, v), Math.sin(angle))), scale(k, kv * (1 - c)));
}

/** The palm in the bow's axes (along the hair, toward the player, out of the top): fingers point away from the player, the thumb's side to the tip, the back up, before it is turned. */
export function palmOf(wrist: Vec3, turn: Vec3): PalmFrame {
  return { wrist, along: turned([0, -1, 0], turn), radial: turned([1, 0, 0], turn), dorsal: turned([0, 0, 1], turn) };
}

const inPalm = (palm: PalmFrame, p: Vec3, size: number): Vec3 =>
  add(palm.wrist, addScaled(addScaled(scale(palm.along, p[0] * size), palm.radial, p[1] * size), palm.dorsal, p[2] * size));

/** Knuckle, middle joint, end joint and tip of a finger. `bones` multiplies the bones' lengths. */
export function fingerChain(palm: PalmFrame, finger: Finger, bends: readonly number[], size: number, bones: readonly number[] = [1, 1, 1]): Vec3[] {
  const [mcp, spread, pip, dip] = bends as [number, number, number, number];
  const shape = FINGER_BONES[finger];
  const forward = addScaled(scale(palm.along, Math.cos(spread * RADIANS)), palm.radial, Math.sin(spread * RADIANS));
  const out = [inPalm(palm, shape.knuckle, size)];
  let bend = 0;
  [mcp, pip, dip].forEach((b, i) => {
    bend += b * RADIANS;
    out.push(addScaled(out[i]!, addScaled(scale(forward, Math.cos(bend)), palm.dorsal, -Math.sin(bend)), shape.bones[i]! * size * bones[i]!));
  });
  return out;
}

/** How far the thumb's hinge is turned from the palm's normal to the thumb's side, as in the definition of its bends. */
const THUMB_TURN = 0.3;

/** Base, knuckle, end joint and tip of the thumb. */
export function thumbChain(palm: PalmFrame, bends: readonly number[], size: number, bones: readonly number[] = [1, 1, 1]): Vec3[] {
  const [across, outward, mcp, ip] = bends as [number, number, number, number];
  const toRoom = (v: Vec3) => normalize(addScaled(addScaled(scale(palm.along, v[0]), palm.radial, v[1]), palm.dorsal, v[2]));
  const { rest } = THUMB_BONES;
  let direction = toRoom([rest[0], rest[1] + Math.tan(outward * RADIANS), rest[2] - Math.tan(across * RADIANS)]);
  const out = [inPalm(palm, THUMB_BONES.base, size)];
  let hinge = add(scale(palm.dorsal, -1), scale(palm.radial, -THUMB_TURN));
  [0, mcp, ip].forEach((b, i) => {
    const dh = direction[0] * hinge[0] + direction[1] * hinge[1] + direction[2] * hinge[2];
    hinge = normalize(addScaled(hinge, direction, -dh));
    direction = add(scale(direction, Math.cos(b * RADIANS)), scale(cross(hinge, direction), Math.sin(b * RADIANS)));
    out.push(addScaled(out[i]!, direction, THUMB_BONES.bones[i]! * size * bones[i]!));
  });
  return out;
}

/** All 21 points: wrist, thumb, index, middle, ring, little. `bones` as in {@link fingerChain}, thumb first. */
export function handPoints(numbers: readonly number[], size: number, bones?: readonly (readonly number[])[]): Vec3[] {
  const palm = palmOf([numbers[0]!, numbers[1]!, numbers[2]!], [numbers[3]!, numbers[4]!, numbers[5]!]);
  return [
    palm.wrist,
    ...thumbChain(palm, numbers.slice(THUMB_AT, THUMB_AT + 4), size, bones?.[0]),
    ...FINGERS.flatMap((finger, f) => fingerChain(palm, finger, numbers.slice(fingerAt(f), fingerAt(f) + 4), size, bones?.[f + 1])),
  ];
}

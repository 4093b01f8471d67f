import { add, addScaled, cross, distance, dot, mix, normalize, scale, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import { ball, carve, chain, type Field, halfSpace, inflate, join, meet, noise, roundCone, union } from '../surface/field';
import type { Bone } from '../surface/skeleton';
import type { Joints } from './joints';

/** What the player wears. */
export interface Wear {
  readonly sleeves: 'short' | 'long';
  readonly bottom: 'trousers' | 'shorts' | 'skirt';
  /** Room between cloth and body, mm of a grown player. */
  readonly loose: number;
}

/** Half widths and half depths of the trunk by height over the hips' joints, shares of stature (from memory, anthropometric tables, rounded). */
const TRUNK = [
  { h: -0.05, w: 0.098, d: 0.068, y: 0.004 },
  { h: 0.0, w: 0.101, d: 0.071, y: 0.003 },
  { h: 0.05, w: 0.094, d: 0.066, y: 0 },
  { h: 0.1, w: 0.085, d: 0.06, y: -0.004 },
  { h: 0.17, w: 0.089, d: 0.063, y: -0.002 },
  { h: 0.235, w: 0.094, d: 0.066, y: 0.004 },
  { h: 0.28, w: 0.088, d: 0.058, y: 0.008 },
  { h: 0.312, w: 0.062, d: 0.044, y: 0.008 },
  { h: 0.338, w: 0.036, d: 0.036, y: 0.004 },
] as const;

/** Axes of the trunk: origin between the hips, x to the player's left, y behind, z up the back. */
interface TrunkFrame {
  readonly origin: Vec3;
  readonly x: Vec3;
  readonly y: Vec3;
  readonly z: Vec3;
}

function trunkFrame(j: Joints): TrunkFrame {
  const origin = mix(j.hipLeft, j.hipRight, 0.5);
  const z = normalize(subtract(mix(j.shoulderLeft, j.shoulderRight, 0.5), origin));
  const across = normalize(subtract(j.shoulderLeft, j.shoulderRight));
  const x = normalize(addScaled(across, z, -dot(across, z)));
  return { origin, x, y: cross(z, x), z };
}

/** The trunk by its cross-sections, rounded squares. */
function trunkField(f: TrunkFrame, stature: number, childlike: number): Field {
  const slim = 1 - 0.06 * childlike;
  return (px, py, pz) => {
    const p: Vec3 = [px - f.origin[0], py - f.origin[1], pz - f.origin[2]];
    const h = dot(p, f.z) / stature;
    let i = 0;
    while (i < TRUNK.length - 2 && h > TRUNK[i + 1]!.h) i++;
    const a = TRUNK[i]!;
    const b = TRUNK[i + 1]!;
    const t = Math.min(1, Math.max(0, (h - a.h) / (b.h - a.h)));
    const e = t * t * (3 - 2 * t);
    const w = (a.w + (b.w - a.w) * e) * stature * slim;
    const d = (a.d + (b.d - a.d) * e) * stature * slim;
    const x = Math.abs(dot(p, f.x)) / w;
    const y = Math.abs(dot(p, f.y) - (a.y + (b.y - a.y) * e) * stature) / d;
    const side = ((x ** 2.5 + y ** 2.5) ** 0.4 - 1) * Math.min(w, d);
    const over = Math.max((h - TRUNK[TRUNK.length - 1]!.h) * stature, (TRUNK[0]!.h - h) * stature);
    return over > 0 ? Math.hypot(Math.max(0, side), over) : side;
  };
}

/** Radii of the arms, mm of a grown player; children's are rounder for their length. */
const ARM = { shoulder: 52, biceps: 40, elbow: 34, forearm: 35, wrist: 24 } as const;

const girthOf = (stature: number, childlike: number): number => (stature / 1700) * (0.94 + 0.08 * childlike);

/** The jersey: trunk and sleeves in one, with folds, hem and collar. */
export function jerseyField(j: Joints, stature: number, childlike: number, wear: Wear, seed: number): Field {
  const g = girthOf(stature, childlike);
  const k = stature / 1700;
  const f = trunkFrame(j);
  let field = inflate(trunkField(f, stature, childlike), wear.loose * k);
  const neck = addScaled(addScaled(f.origin, f.z, 0.335 * stature), f.y, 0.004 * stature);
  for (const [shoulder, elbow, wrist] of [
    [j.shoulderRight, j.elbowRight, j.wristRight],
    [j.shoulderLeft, j.elbowLeft, j.wristLeft],
  ] as const) {
    // Yoke from neck to shoulder, then the sleeve.
    field = join(field, roundCone(addScaled(neck, f.z, -14 * k), addScaled(shoulder, f.z, 6 * k), 36 * g, 44 * g), 46 * k);
    const room = 0.75 * wear.loose * k + 3 * k;
    const long = wear.sleeves === 'long';
    const end = long ? mix(elbow, wrist, 0.93) : mix(shoulder, elbow, 0.66);
    const sleeve = long
      ? chain(
          [shoulder, mix(shoulder, elbow, 0.5), elbow, mix(elbow, wrist, 0.35), end],
          [ARM.shoulder * g + room * 0.6, ARM.biceps * g + room, ARM.elbow * g + room * 0.9, ARM.forearm * g + room * 0.8, ARM.wrist * g + room * 0.5 + 8 * k],
          7 * k,
        )
      : chain(
          [shoulder, mix(shoulder, elbow, 0.35), addScaled(end, normalize(subtract(elbow, shoulder)), 30 * k)],
          [ARM.shoulder * g + room * 0.6, ARM.biceps * g + room + 5 * k, ARM.biceps * g + room * 0.6 + 11 * k],
          7 * k,
        );
    const axis = normalize(long ? subtract(wrist, elbow) : subtract(elbow, shoulder));
    const cut = meet(sleeve, halfSpace(end, axis), 3 * k);
    // Hollow at its end, so that the arm comes out of cloth.
    const inside = roundCone(addScaled(end, axis, -45 * k), addScaled(end, axis, 40 * k), (long ? ARM.wrist : ARM.biceps + 1) * g, (long ? ARM.wrist + 3 : ARM.biceps + 4) * g);
    field = join(field, carve(cut, inside, 3 * k), 26 * k);
  }
  // Over the hips it lies outside whatever is worn below.
  for (const hip of [j.hipRight, j.hipLeft]) field = join(field, ball(hip, 94 * g + 0.6 * wear.loose * k), 24 * k);
  const hem = addScaled(f.origin, f.z, -0.035 * stature);
  field = meet(field, halfSpace(hem, scale(f.z, -1)), 4 * k);
  // Collar: a ribbed ring about the neck, open above.
  const throat = addScaled(neck, f.z, 10 * k);
  field = join(field, roundCone(addScaled(throat, f.z, -30 * k), throat, 62 * k * (0.9 + 0.06 * childlike), 54 * k * (0.9 + 0.06 * childlike)), 18 * k);
  field = meet(field, halfSpace(addScaled(throat, f.y, -10 * k), normalize(addScaled(f.z, f.y, 0.18))), 4 * k);
  field = carve(field, roundCone(addScaled(throat, f.z, -26 * k), addScaled(throat, f.z, 60 * k), 47 * k, 50 * k), 4 * k);
  // Folds: longest where the arms pull, soft over the belly.
  const from = (p: Vec3, x: number, y: number, z: number) => Math.hypot(x - p[0], y - p[1], z - p[2]);
  return (x, y, z) => {
    const d = field(x, y, z);
    if (d > 20 || d < -24) return d;
    const pull = Math.exp(-Math.min(from(j.shoulderLeft, x, y, z), from(j.shoulderRight, x, y, z)) / (190 * k));
    const bend = Math.exp(-Math.min(from(j.elbowLeft, x, y, z), from(j.elbowRight, x, y, z)) / (80 * k));
    const u = (x + 0.35 * z) / (34 * k);
    const v = (z - 0.5 * x) / (95 * k);
    const fold = noise(u, v, y / (80 * k), seed) * (1.6 + 3.2 * pull + 3 * bend) + 0.7 * noise(u * 2.3, v * 2.1, y / (40 * k), seed + 3);
    return d + fold * k * (0.5 + wear.loose / 16);
  };
}

/** Trousers, shorts or a skirt, with the waist under the jersey. */
export function bottomField(j: Joints, stature: number, childlike: number, wear: Wear, seed: number): Field {
  const g = girthOf(stature, childlike);
  const k = stature / 1700;
  const f = trunkFrame(j);
  const pelvis = meet(inflate(trunkField(f, stature, childlike), 3 * k), halfSpace(addScaled(f.origin, f.z, 0.075 * stature), f.z), 3);
  let field: Field;
  if (wear.bottom === 'skirt') {
    const low = mix(mix(j.kneeLeft, j.kneeRight, 0.5), f.origin, 0.12);
    const top = addScaled(f.origin, f.z, 0.05 * stature);
    const bell: Field = (x, y, z) => {
      const p = subtract([x, y, z], top);
      const axis = normalize(subtract(low, top));
      const h = dot(p, axis) / distance(low, top);
      const side = subtract(p, scale(axis, dot(p, axis)));
      const around = Math.atan2(dot(side, f.x), dot(side, f.y));
      const r = (118 + 160 * Math.max(0, h) ** 1.8 + 9 * Math.max(0, h) * Math.sin(around * 13 + seed)) * g;
      return Math.max((Math.hypot(dot(side, f.x), dot(side, f.y) * 1.25) - r) * 0.9, (h - 1) * distance(low, top), -h * distance(low, top));
    };
    field = join(pelvis, bell, 20 * k);
  } else {
    field = pelvis;
    const shorts = wear.bottom === 'shorts';
    for (const [hip, knee, ankle] of [
      [j.hipRight, j.kneeRight, j.ankleRight],
      [j.hipLeft, j.kneeLeft, j.ankleLeft],
    ] as const) {
      const leg = shorts
        ? meet(chain([hip, mix(hip, knee, 0.5), mix(hip, knee, 1)], [92 * g, 88 * g, 84 * g], 6 * k), halfSpace(mix(hip, knee, 0.86), normalize(subtract(knee, hip))), 3 * k)
        : meet(
            chain([hip, mix(hip, knee, 0.4), knee, mix(knee, ankle, 0.35), mix(knee, ankle, 1)], [91 * g, 84 * g, 67 * g, 63 * g, 57 * g], 6 * k),
            halfSpace(mix(knee, ankle, 0.96), normalize(subtract(ankle, knee))),
            4 * k,
          );
      field = join(field, leg, 24 * k);
    }
  }
  const knees = [j.kneeLeft, j.kneeRight];
  return (x, y, z) => {
    const d = field(x, y, z);
    if (d > 20 || d < -20) return d;
    const near = Math.exp(-Math.min(...knees.map((p) => Math.hypot(x - p[0], y - p[1], z - p[2]))) / (120 * k));
    return d + k * (noise(x / (60 * k), y / (60 * k), z / (34 * k), seed) * (1.2 + 3.4 * near) + 0.8 * noise(x / 26, y / 26, z / 18, seed + 2));
  };
}

/** Bare legs under shorts or a skirt. */
export function legsField(j: Joints, stature: number, childlike: number): Field {
  const g = girthOf(stature, childlike);
  return union(
    [
      [j.hipRight, j.kneeRight, j.ankleRight],
      [j.hipLeft, j.kneeLeft, j.ankleLeft],
    ].map(([hip, knee, ankle]) =>
      chain(
        [mix(hip!, knee!, 0.4), mix(hip!, knee!, 0.85), knee!, mix(knee!, ankle!, 0.3), mix(knee!, ankle!, 0.95), ankle!],
        [72 * g, 58 * g, 51 * g, 54 * g, 34 * g, 35 * g],
        5 * g,
      ),
    ),
    4,
  );
}

/** Shoes with soles, toes pointing where each foot points. */
export function shoesField(j: Joints, stature: number): Field {
  const k = stature / 1700;
  return union(
    [
      [j.ankleRight, j.toeRight],
      [j.ankleLeft, j.toeLeft],
    ].map(([ankle, toe]) => {
      const way = normalize([toe![0] - ankle![0], toe![1] - ankle![1], 0]);
      const flat = (p: Vec3, z: number): Vec3 => [p[0], p[1], z];
      const heel = addScaled(ankle!, way, -34 * k);
      const upper = union(
        [
          roundCone(flat(heel, 44 * k), flat(addScaled(ankle!, way, 40 * k), 40 * k), 34 * k, 38 * k),
          roundCone(flat(addScaled(ankle!, way, 40 * k), 38 * k), flat(toe!, 24 * k), 38 * k, 30 * k),
          roundCone(flat(ankle!, 40 * k), add(ankle!, [0, 0, 16 * k]), 38 * k, 40 * k),
        ],
        18 * k,
      );
      const body = meet(upper, halfSpace([0, 0, 6], [0, 0, -1]), 3);
      const sole = meet(inflate(upper, 4 * k), halfSpace([0, 0, 22 * k], [0, 0, 1]), 3);
      return join(body, meet(sole, halfSpace([0, 0, 2], [0, 0, -1]), 2), 2);
    }),
    0,
  );
}

/** Bare arm from inside the sleeve to the wrist, about its own joints. */
export function armField(shoulder: Vec3, elbow: Vec3, wrist: Vec3, stature: number, childlike: number): Field {
  const g = girthOf(stature, childlike);
  return chain(
    [mix(shoulder, elbow, 0.46), mix(shoulder, elbow, 0.6), elbow, mix(elbow, wrist, 0.28), mix(elbow, wrist, 0.72), mix(elbow, wrist, 1.02)],
    [ARM.biceps * g, ARM.biceps * 0.95 * g, ARM.elbow * 0.95 * g, ARM.forearm * g, 26 * g, 20.5 * g],
    6 * g,
  );
}

/** Rigid pieces of the trunk, arms and legs, in a fixed order, for the skin of clothes and limbs. */
export function bodyBones(j: Joints, stature: number): Bone[] {
  const k = stature / 1700;
  const f = trunkFrame(j);
  const up = (share: number): Vec3 => addScaled(f.origin, f.z, share * stature);
  const limb = (from: Vec3, to: Vec3, girth: number, across: Vec3): Bone => ({ from, to, across, girth: girth * k });
  const arm = (shoulder: Vec3, elbow: Vec3, wrist: Vec3): Bone[] => {
    const hinge = normalize(cross(subtract(elbow, shoulder), subtract(wrist, elbow)));
    return [limb(shoulder, elbow, 46, hinge), limb(elbow, wrist, 36, hinge)];
  };
  const leg = (hip: Vec3, knee: Vec3, ankle: Vec3): Bone[] => [limb(hip, knee, 84, f.x), limb(knee, ankle, 56, f.x)];
  return [
    { from: f.origin, to: j.waist, across: f.x, girth: 150 * k },
    { from: j.waist, to: up(0.3), across: f.x, girth: 140 * k },
    ...arm(j.shoulderRight, j.elbowRight, j.wristRight),
    ...arm(j.shoulderLeft, j.elbowLeft, j.wristLeft),
    ...leg(j.hipRight, j.kneeRight, j.ankleRight),
    ...leg(j.hipLeft, j.kneeLeft, j.ankleLeft),
  ];
}

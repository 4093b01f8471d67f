import { addScaled, cross, dot, normalize, subtract, type Vec3 } from '../../src/core/geometry/vec3';

/** A rigid piece of the body: where it begins and ends, and a direction across it that tells its twist. */
export interface Bone {
  readonly from: Vec3;
  readonly to: Vec3;
  readonly across: Vec3;
  /** About half its thickness, mm; decides how far its hold on the skin reaches. */
  readonly girth: number;
}

/** Axes and origin of a bone, column by column: along, across, their normal, origin (16 numbers as three.js and WebGL want them). */
export function boneMatrix(bone: Bone): number[] {
  const u = normalize(subtract(bone.to, bone.from));
  const v = normalize(addScaled(bone.across, u, -dot(bone.across, u)));
  const w = cross(u, v);
  return [...u, 0, ...v, 0, ...w, 0, ...bone.from, 1];
}

export interface Weights {
  /** Four bones a vertex. */
  readonly bones: Uint16Array;
  readonly shares: Float32Array;
}

/** How sharply a vertex belongs to its nearest bone. */
const SHARPNESS = 5;

/** Skin weights from the distance to each bone over its girth; the four strongest count. */
export function skinWeights(positions: Float32Array, bones: readonly Bone[]): Weights {
  const count = positions.length / 3;
  const out = new Uint16Array(4 * count);
  const shares = new Float32Array(4 * count);
  const hold = new Float64Array(bones.length);
  const order = bones.map((_, i) => i);
  for (let v = 0; v < count; v++) {
    const p: Vec3 = [positions[3 * v]!, positions[3 * v + 1]!, positions[3 * v + 2]!];
    bones.forEach((b, i) => {
      const along = subtract(b.to, b.from);
      const h = Math.min(1, Math.max(0, dot(subtract(p, b.from), along) / Math.max(1e-9, dot(along, along))));
      const d = Math.hypot(...subtract(p, addScaled(b.from, along, h))) / b.girth;
      hold[i] = 1 / (0.05 + d) ** SHARPNESS;
    });
    order.sort((a, b) => hold[b]! - hold[a]!);
    let sum = 0;
    const kept = Math.min(4, bones.length);
    for (let k = 0; k < kept; k++) sum += hold[order[k]!]!;
    for (let k = 0; k < kept; k++) {
      out[4 * v + k] = order[k]!;
      shares[4 * v + k] = hold[order[k]!]! / sum;
    }
  }
  return { bones: out, shares };
}

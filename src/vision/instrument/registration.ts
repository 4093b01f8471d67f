import type { Camera } from '../../core/geometry/camera';
import { type Pose, stepPose } from '../../core/geometry/pose';
import { choleskyFactor, choleskySolve } from '../../core/linalg/cholesky';
import { nthSmallest } from '../../core/linalg/nthSmallest';
import type { GrayPatch } from '../image/gray';
import type { KeyFrame } from './keyFrame';

export interface Registration {
  readonly pose: Pose;
  /** Correlation of seen and expected brightness over the points that are believed, -1..1. */
  readonly correlation: number;
  /** Share of the points in the picture that are believed, 0..1. */
  readonly believed: number;
}

/** How far the pose may be from the prediction: radians and mm (ours, after trials: a violin held by a swaying player at 25 frames/s). */
export const MOTION_SIGMA = { rotation: 0.01, sideways: 4, depth: 8 } as const;

const STEPS = 8;
/** Smaller steps than these (radians, mm; at the finest level) move nothing by a twentieth of a pixel: enough. */
const STILL = { rotation: 1.5e-4, shift: 0.06 } as const;
/** Neighbouring pixels err alike: the share of points that count as independent. */
const EFFECTIVE = 0.05;
const TUKEY = 3;
/** Points of a key frame that are laid over, by level from fine to coarse: far from the goal fewer will do (ours). They come in random order, so any first part is a fair sample. */
const POINTS_BY_LEVEL = [Number.POSITIVE_INFINITY, 1500, 1000] as const;

/** Working memory for the points of all key frames, one after the other. */
interface Points {
  /** Seen less expected brightness; NaN outside the picture. */
  readonly residual: Float32Array;
  /** Slopes of the seen brightness along the pose's six numbers. */
  readonly jacobian: Float32Array;
  readonly seen: Float32Array;
  readonly weight: Float32Array;
  /** Sizes of some of the residuals, to find their median. */
  readonly sizes: Float32Array;
}

/** Gain and offset of brightness, one of each a key frame. */
interface Light {
  readonly gain: number[];
  readonly offset: number[];
}

/**
 * Lays key frames over a frame: Gauss-Newton over the six numbers of the pose and a gain and offset of
 * brightness per key frame, from coarse to fine, with weights that ignore what is covered.
 * `levels` are the frame's normalised pyramid; `predicted` the pose expected from the motion so far.
 */
export function register(
  levels: readonly GrayPatch[],
  keyFrames: readonly KeyFrame[],
  camera: Camera,
  predicted: Pose,
  options: { looseness?: number; fromLevel?: number } = {},
): Registration {
  const loose = options.looseness ?? 1;
  const most = keyFrames.reduce((n, k) => n + k.count, 0);
  const points: Points = {
    residual: new Float32Array(most),
    jacobian: new Float32Array(6 * most),
    seen: new Float32Array(most),
    weight: new Float32Array(most),
    sizes: new Float32Array(Math.ceil(most / 3)),
  };
  const unknowns = 6 + 2 * keyFrames.length;
  const light: Light = { gain: keyFrames.map(() => 1), offset: keyFrames.map(() => 0) };
  const priorWeight = [MOTION_SIGMA.rotation, MOTION_SIGMA.rotation, MOTION_SIGMA.rotation, MOTION_SIGMA.sideways, MOTION_SIGMA.sideways, MOTION_SIGMA.depth].map(
    (s) => 1 / (s * loose) ** 2,
  );
  const nothing: Registration = { pose: predicted, correlation: -1, believed: 0 };
  let pose = predicted;
  const moved = new Float64Array(6);
  let believed = 0;

  for (let level = Math.min(options.fromLevel ?? levels.length - 1, levels.length - 1); level >= 0; level--) {
    const counts = keyFrames.map((key) => Math.min(key.count, POINTS_BY_LEVEL[level] ?? POINTS_BY_LEVEL[2]));
    let floor = level === levels.length - 1 ? 14 : 9;
    for (let step = 0; step < STEPS; step++) {
      layOver(levels[level]!, level, keyFrames, counts, camera, pose, light, points);
      const belief = weigh(keyFrames, counts, floor, points);
      if (!belief) return nothing;
      floor *= 0.8;
      believed = belief.believed;
      const { normal, rhs } = normalEquations(level, keyFrames, counts, EFFECTIVE / (belief.scale / TUKEY) ** 2, light, points);
      for (let q = 0; q < 6; q++) {
        normal[q * unknowns + q]! += priorWeight[q]!;
        rhs[q]! -= priorWeight[q]! * moved[q]!;
      }
      let delta: Float64Array;
      try {
        delta = choleskySolve(choleskyFactor(normal, unknowns), unknowns, rhs);
      } catch {
        return nothing;
      }
      pose = stepPose(pose, delta);
      for (let q = 0; q < 6; q++) moved[q]! += delta[q]!;
      for (let k = 0; k < keyFrames.length; k++) {
        light.gain[k]! += delta[6 + 2 * k]!;
        light.offset[k]! += delta[7 + 2 * k]!;
      }
      const still = Math.hypot(delta[0]!, delta[1]!, delta[2]!) < STILL.rotation * 2 ** level && Math.hypot(delta[3]!, delta[4]!, delta[5]!) < STILL.shift * 2 ** level;
      if (still && step > 1) break;
    }
  }
  return { pose, correlation: likeness(keyFrames, points), believed };
}

/** Reads the frame where the key frames' points lie under a pose: brightness, its difference from what is expected, and its slopes. */
function layOver(patch: GrayPatch, level: number, keyFrames: readonly KeyFrame[], counts: readonly number[], camera: Camera, pose: Pose, light: Light, points: Points): void {
  const { residual, jacobian, seen } = points;
  const data = patch.data;
  const shrink = 1 / 2 ** level;
  const f = camera.focal * shrink;
  const cx = (camera.width / 2) * shrink - 0.5 - patch.x0;
  const cy = (camera.height / 2) * shrink - 0.5 - patch.y0;
  const maxX = patch.width - 2;
  const maxY = patch.height - 2;
  const [r0, r1, r2, r3, r4, r5, r6, r7, r8] = pose.rotation;
  const [t0, t1, t2] = pose.translation;
  let at = 0;
  // Hot loop: rotation, projection, bilinear value and gradient written out.
  for (let k = 0; k < keyFrames.length; k++) {
    const key = keyFrames[k]!;
    const places = key.points;
    const values = key.values[level]!;
    const g = light.gain[k]!;
    const o = light.offset[k]!;
    for (let i = 0; i < counts[k]!; i++, at++) {
      const X = places[3 * i]!;
      const Y = places[3 * i + 1]!;
      const Z = places[3 * i + 2]!;
      const qx = r0 * X + r1 * Y + r2 * Z;
      const qy = r3 * X + r4 * Y + r5 * Z;
      const qz = r6 * X + r7 * Y + r8 * Z;
      const z = 1 / (qz + t2);
      const x = (qx + t0) * z;
      const y = (qy + t1) * z;
      const u = cx + f * x;
      const v = cy + f * y;
      const iu = Math.floor(u);
      const iv = Math.floor(v);
      if (!(iu >= 1 && iv >= 1 && iu < maxX && iv < maxY)) {
        residual[at] = Number.NaN;
        continue;
      }
      const fu = u - iu;
      const fv = v - iv;
      const p = iv * patch.width + iu;
      const a = data[p]!;
      const b = data[p + 1]!;
      const c = data[p + patch.width]!;
      const d = data[p + patch.width + 1]!;
      const top = a + (b - a) * fu;
      const low = c + (d - c) * fu;
      const value = top + (low - top) * fv;
      const gu = (b - a) * (1 - fv) + (d - c) * fv;
      const gv = low - top;
      seen[at] = value;
      residual[at] = value - g * values[i]! - o;
      const fx = f * z * gu;
      const fy = f * z * gv;
      const fz = -(fx * x + fy * y);
      const j = 6 * at;
      jacobian[j] = fz * qy - fy * qz;
      jacobian[j + 1] = fx * qz - fz * qx;
      jacobian[j + 2] = fy * qx - fx * qy;
      jacobian[j + 3] = fx;
      jacobian[j + 4] = fy;
      jacobian[j + 5] = fz;
    }
  }
}

/** Robust weights: Tukey on a scale from the median, times the mean weight of the point's block. Undefined where too little lies in the picture. */
function weigh(keyFrames: readonly KeyFrame[], counts: readonly number[], floor: number, { residual, weight, sizes }: Points): { scale: number; believed: number } | undefined {
  const total = counts.reduce((n, c) => n + c, 0);
  let counted = 0;
  for (let i = 0; i < total; i += 3) if (!Number.isNaN(residual[i]!)) sizes[counted++] = Math.abs(residual[i]!);
  if (counted < 30) return undefined;
  const scale = TUKEY * Math.max(floor, 1.48 * nthSmallest(sizes, counted, counted >> 1) + 1.5);
  let at = 0;
  let inside = 0;
  let trusted = 0;
  for (const [k, key] of keyFrames.entries()) {
    const count = counts[k]!;
    const sum = new Float32Array(key.blockCount);
    const n = new Float32Array(key.blockCount);
    for (let i = 0; i < count; i++) {
      const e = residual[at + i]!;
      let w = 0;
      if (!Number.isNaN(e)) {
        const q = e / scale;
        if (q < 1 && q > -1) w = (1 - q * q) * (1 - q * q);
        sum[key.blocks[i]!]! += w;
        n[key.blocks[i]!]! += 1;
        inside += key.trust[i]!;
      }
      weight[at + i] = w;
    }
    for (let i = 0; i < count; i++) {
      const w = weight[at + i]!;
      if (w > 0) {
        const believedHere = (w * key.trust[i]! * sum[key.blocks[i]!]!) / n[key.blocks[i]!]!;
        weight[at + i] = believedHere;
        trusted += believedHere;
      }
    }
    at += count;
  }
  return { scale, believed: trusted / Math.max(1e-6, inside) };
}

/** Normal equations of the weighted residuals in the pose's six numbers, then a gain and an offset a key frame. */
function normalEquations(level: number, keyFrames: readonly KeyFrame[], counts: readonly number[], perSigma: number, { gain, offset }: Light, points: Points) {
  const { residual, jacobian, weight } = points;
  const unknowns = 6 + 2 * keyFrames.length;
  const normal = new Float64Array(unknowns * unknowns);
  const rhs = new Float64Array(unknowns);
  let at = 0;
  for (let k = 0; k < keyFrames.length; k++) {
    const key = keyFrames[k]!;
    const values = key.values[level]!;
    const G = 6 + 2 * k;
    // Sums kept in plain numbers: an array per point would cost as much as the rest of the loop.
    let [g0, g1, g2, g3, g4, g5] = [0, 0, 0, 0, 0, 0];
    let [o0, o1, o2, o3, o4, o5] = [0, 0, 0, 0, 0, 0];
    let [r0w, r1w, r2w, r3w, r4w, r5w] = [0, 0, 0, 0, 0, 0];
    let [mm, m1, w1, mr, r1] = [0, 0, 0, 0, 0];
    let s00 = 0,
      s01 = 0,
      s02 = 0,
      s03 = 0,
      s04 = 0,
      s05 = 0,
      s11 = 0,
      s12 = 0,
      s13 = 0,
      s14 = 0,
      s15 = 0;
    let s22 = 0,
      s23 = 0,
      s24 = 0,
      s25 = 0,
      s33 = 0,
      s34 = 0,
      s35 = 0,
      s44 = 0,
      s45 = 0,
      s55 = 0;
    for (let i = 0; i < counts[k]!; i++, at++) {
      const w = weight[at]! * perSigma;
      if (w === 0) continue;
      const j = 6 * at;
      const a = jacobian[j]!,
        b = jacobian[j + 1]!,
        c = jacobian[j + 2]!,
        d = jacobian[j + 3]!,
        e = jacobian[j + 4]!,
        h = jacobian[j + 5]!;
      const r = residual[at]!;
      const m = values[i]!;
      const wm = w * m;
      const wr = w * r;
      const wa = w * a;
      s00 += wa * a;
      s01 += wa * b;
      s02 += wa * c;
      s03 += wa * d;
      s04 += wa * e;
      s05 += wa * h;
      o0 += wa;
      g0 += wa * m;
      r0w += wa * r;
      const wb = w * b;
      s11 += wb * b;
      s12 += wb * c;
      s13 += wb * d;
      s14 += wb * e;
      s15 += wb * h;
      o1 += wb;
      g1 += wb * m;
      r1w += wb * r;
      const wc = w * c;
      s22 += wc * c;
      s23 += wc * d;
      s24 += wc * e;
      s25 += wc * h;
      o2 += wc;
      g2 += wc * m;
      r2w += wc * r;
      const wd = w * d;
      s33 += wd * d;
      s34 += wd * e;
      s35 += wd * h;
      o3 += wd;
      g3 += wd * m;
      r3w += wd * r;
      const we = w * e;
      s44 += we * e;
      s45 += we * h;
      o4 += we;
      g4 += we * m;
      r4w += we * r;
      const wh = w * h;
      s55 += wh * h;
      o5 += wh;
      g5 += wh * m;
      r5w += wh * r;
      mm += wm * m;
      m1 += wm;
      w1 += w;
      mr += wm * r;
      r1 += wr;
    }
    const block = [
      [s00, s01, s02, s03, s04, s05],
      [s01, s11, s12, s13, s14, s15],
      [s02, s12, s22, s23, s24, s25],
      [s03, s13, s23, s33, s34, s35],
      [s04, s14, s24, s34, s44, s45],
      [s05, s15, s25, s35, s45, s55],
    ];
    const byGain = [g0, g1, g2, g3, g4, g5];
    const byOffset = [o0, o1, o2, o3, o4, o5];
    const byResidual = [r0w, r1w, r2w, r3w, r4w, r5w];
    for (let q = 0; q < 6; q++) {
      normal[q * unknowns + G]! -= byGain[q]!;
      normal[q * unknowns + G + 1]! -= byOffset[q]!;
      rhs[q]! -= byResidual[q]!;
      for (let s = 0; s < 6; s++) normal[q * unknowns + s]! += block[q]![s]!;
    }
    normal[G * unknowns + G] = mm;
    normal[G * unknowns + G + 1] = m1;
    normal[(G + 1) * unknowns + G + 1] = w1;
    rhs[G] = mr;
    rhs[G + 1] = r1;
    // A gain near 1 and a small offset are likelier than not.
    normal[G * unknowns + G]! += 1 / 0.3 ** 2;
    rhs[G]! += (1 - gain[k]!) / 0.3 ** 2;
    normal[(G + 1) * unknowns + G + 1]! += 1 / 6 ** 2;
    rhs[G + 1]! -= offset[k]! / 6 ** 2;
  }
  for (let q = 0; q < unknowns; q++) for (let s = 0; s < q; s++) normal[q * unknowns + s] = normal[s * unknowns + q]!;
  return { normal, rhs };
}

/** Correlation of seen and expected brightness over the points that are believed, at the finest level. */
function likeness(keyFrames: readonly KeyFrame[], { seen, weight }: Points): number {
  let n = 0,
    sa = 0,
    sb = 0,
    saa = 0,
    sbb = 0,
    sab = 0;
  let at = 0;
  for (const key of keyFrames) {
    const values = key.values[0]!;
    for (let i = 0; i < key.count; i++, at++) {
      const w = weight[at]!;
      if (w <= 0.05) continue;
      const a = seen[at]!;
      const b = values[i]!;
      n += w;
      sa += w * a;
      sb += w * b;
      saa += w * a * a;
      sbb += w * b * b;
      sab += w * a * b;
    }
  }
  return (sab - (sa * sb) / n) / Math.sqrt(Math.max(1e-9, (saa - (sa * sa) / n) * (sbb - (sb * sb) / n)));
}

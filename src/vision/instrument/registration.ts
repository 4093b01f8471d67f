import type { Camera } from '../../core/geometry/camera';
import { type Pose, stepPose } from '../../core/geometry/pose';
import { choleskyFactor, choleskySolve } from '../../core/linalg/cholesky';
import type { PoseEvidence } from '../../core/measures/smoothPoses';
import type { GrayPatch } from '../image/gray';
import { type Address, doubles, kernels, Region } from '../kernels/kernels';
import type { KeyFrame } from './keyFrame';

export interface Registration {
  readonly pose: Pose;
  /** Correlation of seen and expected brightness over the points that are believed, -1..1. */
  readonly correlation: number;
  /** Share of the points in the picture that are believed, 0..1. */
  readonly believed: number;
  /** What the picture alone says about the pose, without the prediction; absent where nothing could be laid over. */
  readonly evidence?: PoseEvidence | undefined;
}

/** How far the pose may be from the prediction: radians and mm (ours, after trials: a violin held by a swaying player at 25 frames/s). */
export const MOTION_SIGMA = { rotation: 0.01, sideways: 4, depth: 8 } as const;

const STEPS = 8;
/** Smaller steps than these (radians, mm; at the finest level) move nothing by a twentieth of a pixel: enough. */
const STILL = { rotation: 1.5e-4, shift: 0.06 } as const;
/** Neighbouring pixels err alike: the share of points that count as independent. */
const EFFECTIVE = 0.05;
const TUKEY = 3;
/** Differences of brightness up to this are taken to be alike at first, at the coarsest level (ours). */
const COARSE_FLOOR = 14;
/** Points of a key frame that are laid over, by level from fine to coarse: far from the goal fewer will do (ours). They come in random order, so any first part is a fair sample. */
const POINTS_BY_LEVEL = [Number.POSITIVE_INFINITY, 1500, 1000] as const;

/** The kernels' memory for what is laid over what; what the last registration left in it is overwritten. */
const memory = { patch: new Region(), pose: new Region(), table: new Region(), sizes: new Region(), blocks: new Region(), sums: new Region() };
/** and for each key frame. */
const keyMemory: { readonly places: Region; readonly trust: Region; readonly blocks: Region; readonly values: Region }[] = [];

/** A key frame in the kernels' memory. */
interface HeldKey {
  readonly key: KeyFrame;
  readonly count: number;
  readonly places: Address;
  readonly values: Address;
  readonly trust: Address;
  readonly blocks: Address;
}

/** Columns of products that the kernels add up: slopes along the pose's six numbers, one, expected brightness, residual. */
const COLUMNS = 9;
const [ONE, EXPECTED, RESIDUAL] = [6, 7, 8] as const;
/** Fewer points in the picture tell nothing (every third is counted). */
const LEAST_POINTS = 30;

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
  // Vectors reach up to three points further.
  const room = (most + 7) & ~3;
  const table = memory.table.take(4 * room * kernels.columns());
  const unknowns = 6 + 2 * keyFrames.length;
  const light: Light = { gain: keyFrames.map(() => 1), offset: keyFrames.map(() => 0) };
  const priorWeight = [MOTION_SIGMA.rotation, MOTION_SIGMA.rotation, MOTION_SIGMA.rotation, MOTION_SIGMA.sideways, MOTION_SIGMA.sideways, MOTION_SIGMA.depth].map(
    (s) => 1 / (s * loose) ** 2,
  );
  const nothing: Registration = { pose: predicted, correlation: -1, believed: 0 };
  let pose = predicted;
  const moved = new Float64Array(6);
  let believed = 0;
  let told: Float64Array | undefined;

  for (let level = Math.min(options.fromLevel ?? levels.length - 1, levels.length - 1); level >= 0; level--) {
    const held = keyFrames.map((key, k) => holdKey(key, k, level));
    const points = pointsFor(levels[level]!, level, room, table, held);
    let floor = level === levels.length - 1 ? COARSE_FLOOR : 9;
    for (let step = 0; step < STEPS; step++) {
      layOver(points, camera, pose, light);
      const belief = weigh(points, floor);
      if (!belief) return nothing;
      floor *= 0.8;
      believed = belief.believed;
      const { normal, rhs } = normalEquations(points, EFFECTIVE / (belief.scale / TUKEY) ** 2, light);
      told = level === 0 ? withoutLight(normal, unknowns) : undefined;
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
  return {
    pose,
    correlation: kernels.likeness(table, room, most),
    believed,
    // At the optimum the picture pulls as hard as the prediction holds.
    evidence: told && { information: told, pull: moved.map((m, q) => priorWeight[q]! * m) },
  };
}

/**
 * The prediction, moved across the picture to where the key frames fit best in the coarsest of the frame's `levels`: of all shifts
 * within `reach` pixels of the picture each way. For motions too large and sudden to be foreseen, as when the hand that holds the phone jerks.
 */
export function nearestShift(levels: readonly GrayPatch[], keyFrames: readonly KeyFrame[], camera: Camera, predicted: Pose, reach: number): Pose {
  const level = levels.length - 1;
  const most = keyFrames.reduce((n, k) => n + k.count, 0);
  const room = (most + 7) & ~3;
  const table = memory.table.take(4 * room * kernels.columns());
  const held = keyFrames.map((key, k) => holdKey(key, k, level));
  const points = pointsFor(levels[level]!, level, room, table, held);
  const laid = held.reduce((n, { count }) => n + count, 0);
  const light: Light = { gain: keyFrames.map(() => 1), offset: keyFrames.map(() => 0) };
  const [x, y, z] = predicted.translation;
  // Pixel by pixel of the level: what fits two pixels off may not show one off.
  const steps = Math.round(reach / 2 ** level);
  const perStep = (2 ** level * z) / camera.focal;
  let best = { score: Number.NEGATIVE_INFINITY, pose: predicted };
  for (let i = -steps; i <= steps; i++) {
    for (let j = -steps; j <= steps; j++) {
      const pose: Pose = { rotation: predicted.rotation, translation: [x + i * perStep, y + j * perStep, z] };
      layOver(points, camera, pose, light);
      const belief = weigh(points, COARSE_FLOOR);
      if (!belief) continue;
      const score = kernels.likeness(table, room, laid) * Math.sqrt(Math.max(0, belief.believed));
      if (score > best.score) best = { score, pose };
    }
  }
  return best.pose;
}

/** Information on the pose's six numbers alone, row by row: gain and offset are whatever suits them best. */
function withoutLight(normal: Float64Array, unknowns: number): Float64Array {
  const lights = unknowns - 6;
  const factor = choleskyFactor(
    Float64Array.from({ length: lights * lights }, (_, k) => normal[(6 + Math.floor(k / lights)) * unknowns + 6 + (k % lights)]!),
    lights,
  );
  const out = new Float64Array(36);
  for (let q = 0; q < 6; q++) {
    const goes = choleskySolve(factor, lights, normal.subarray(q * unknowns + 6, (q + 1) * unknowns));
    for (let p = 0; p < 6; p++) {
      let taken = 0;
      for (let l = 0; l < lights; l++) taken += normal[p * unknowns + 6 + l]! * goes[l]!;
      out[p * 6 + q] = normal[p * unknowns + q]! - taken;
    }
  }
  return out;
}

/** A level of a frame with the points that are laid over it, all in the kernels' memory. */
interface Points {
  readonly patch: GrayPatch;
  readonly level: number;
  readonly patchAt: Address;
  /** Numbers in a column of the table of points. */
  readonly room: number;
  readonly table: Address;
  readonly sizes: Address;
  readonly blocks: Address;
  readonly sums: Address;
  readonly pose: Address;
  readonly held: readonly HeldKey[];
}

function holdKey(key: KeyFrame, k: number, level: number): HeldKey {
  keyMemory[k] ??= { places: new Region(), trust: new Region(), blocks: new Region(), values: new Region() };
  const { places, trust, blocks, values } = keyMemory[k];
  const count = Math.min(key.count, POINTS_BY_LEVEL[level] ?? POINTS_BY_LEVEL[2]);
  return {
    key,
    count,
    places: places.hold(key.points),
    values: values.hold(key.values[level]!),
    trust: trust.hold(key.trust),
    blocks: blocks.hold(key.blocks),
  };
}

function pointsFor(patch: GrayPatch, level: number, room: number, table: Address, held: readonly HeldKey[]): Points {
  return {
    patch,
    level,
    room,
    held,
    patchAt: memory.patch.hold(patch.data),
    table,
    sizes: memory.sizes.take(4 * room),
    blocks: memory.blocks.take(8 * held.reduce((n, { key }) => Math.max(n, key.blockCount), 0)),
    sums: memory.sums.take(8 * COLUMNS * COLUMNS),
    pose: memory.pose.take(8 * 12),
  };
}

/** Reads the frame where the key frames' points lie under a pose: brightness, its difference from what is expected, and its slopes. */
function layOver({ patch, level, patchAt, held, table, room, pose: at }: Points, camera: Camera, pose: Pose, { gain, offset }: Light): void {
  doubles(at, 12).set([...pose.rotation, ...pose.translation]);
  const shrink = 1 / 2 ** level;
  const cx = (camera.width / 2) * shrink - 0.5 - patch.x0;
  const cy = (camera.height / 2) * shrink - 0.5 - patch.y0;
  let first = 0;
  for (const [k, { count, places, values }] of held.entries()) {
    kernels.layOver(patchAt, patch.width, patch.height, camera.focal * shrink, cx, cy, at, places, values, count, gain[k]!, offset[k]!, table, room, first);
    first += count;
  }
}

/** Robust weights: Tukey on a scale from the median, times the mean weight of the point's block. Undefined where too little lies in the picture. */
function weigh({ held, table, room, sizes, blocks, sums }: Points, floor: number): { scale: number; believed: number } | undefined {
  const total = held.reduce((n, { count }) => n + count, 0);
  const median = kernels.medianResidual(table, room, total, LEAST_POINTS, sizes);
  if (Number.isNaN(median)) return undefined;
  const scale = TUKEY * Math.max(floor, 1.48 * median + 1.5);
  doubles(sums, 2).fill(0);
  let first = 0;
  for (const { key, count, ...at } of held) {
    kernels.weigh(table, room, first, count, at.trust, at.blocks, key.blockCount, scale, blocks, sums);
    first += count;
  }
  const [inside, trusted] = doubles(sums, 2);
  return { scale, believed: trusted! / Math.max(1e-6, inside!) };
}

/** Normal equations of the weighted residuals in the pose's six numbers, then a gain and an offset a key frame. */
function normalEquations({ held, table, room, sums }: Points, perSigma: number, { gain, offset }: Light) {
  const unknowns = 6 + 2 * held.length;
  const normal = new Float64Array(unknowns * unknowns);
  const rhs = new Float64Array(unknowns);
  let first = 0;
  for (const [k, { count }] of held.entries()) {
    kernels.products(table, room, first, count, sums);
    first += count;
    const found = doubles(sums, COLUMNS * COLUMNS);
    const product = (p: number, q: number) => perSigma * found[p * COLUMNS + q]!;
    const G = 6 + 2 * k;
    const O = G + 1;
    for (let p = 0; p < 6; p++) {
      for (let q = p; q < 6; q++) normal[p * unknowns + q]! += product(p, q);
      normal[p * unknowns + G] = -product(p, EXPECTED);
      normal[p * unknowns + O] = -product(p, ONE);
      rhs[p]! -= product(p, RESIDUAL);
    }
    // A gain near 1 and a small offset are likelier than not.
    normal[G * unknowns + G] = product(EXPECTED, EXPECTED) + 1 / 0.3 ** 2;
    normal[G * unknowns + O] = product(ONE, EXPECTED);
    normal[O * unknowns + O] = product(ONE, ONE) + 1 / 6 ** 2;
    rhs[G] = product(EXPECTED, RESIDUAL) + (1 - gain[k]!) / 0.3 ** 2;
    rhs[O] = product(ONE, RESIDUAL) - offset[k]! / 6 ** 2;
  }
  for (let q = 0; q < unknowns; q++) for (let s = 0; s < q; s++) normal[q * unknowns + s] = normal[s * unknowns + q]!;
  return { normal, rhs };
}

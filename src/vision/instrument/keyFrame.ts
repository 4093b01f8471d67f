import type { Camera } from '../../core/geometry/camera';
import { project, ray } from '../../core/geometry/camera';
import { type Pose, toInner, toOuter } from '../../core/geometry/pose';
import { transpose } from '../../core/geometry/rotation';
import { scale, type Vec2 } from '../../core/geometry/vec3';
import type { InstrumentModel } from '../../core/instrument/landmarks';
import { type Relief, renderDepth } from '../../core/instrument/relief';
import { nthSmallest } from '../../core/linalg/nthSmallest';
import { seededRandom } from '../../core/random';
import type { GrayPatch, Rectangle } from '../image/gray';

/** A frame with known pose, as points of the instrument with the brightness seen there: what other frames are laid against. */
export interface KeyFrame {
  readonly index: number;
  readonly pose: Pose;
  readonly count: number;
  /** Instrument-frame places, x y z in turn. */
  readonly points: Float32Array;
  /** Normalised brightness of each point, one array a pyramid level. */
  readonly values: readonly Float32Array[];
  /** How much each point is believed to show the instrument before anything is compared, 0..1. */
  readonly trust: Float32Array;
  /** Block of 8 px of each point; a block that is covered is judged together. */
  readonly blocks: Uint16Array;
  readonly blockCount: number;
}

export interface BowInPicture {
  readonly frog: Vec2;
  readonly tip: Vec2;
}

const POINTS = 2200;
/** Fret hand: from here to there along the strings (mm of a full-size violin) nothing is trusted. */
const HAND_FROM = 150;
const HAND_TO = 312;
const HAND_HALF_WIDTH = 40;
const BOW_BAND_MM = 26;
const FROG_MM = 50;
const FROG_CIRCLE_MM = 85;

/** Rectangle of the picture that holds the whole instrument, with a margin in pixels. */
export function instrumentRegion(relief: Relief, pose: Pose, camera: Camera, margin: number): Rectangle {
  let x0 = Number.POSITIVE_INFINITY;
  let y0 = x0;
  let x1 = -x0;
  let y1 = -x0;
  for (let i = 0; i < relief.vertices.length; i += 2) {
    const p = project(camera, toOuter(pose, relief.vertices[i]!));
    if (!p) continue;
    x0 = Math.min(x0, p[0]);
    y0 = Math.min(y0, p[1]);
    x1 = Math.max(x1, p[0]);
    y1 = Math.max(y1, p[1]);
  }
  return { x0: x0 - margin, y0: y0 - margin, x1: x1 + margin, y1: y1 + margin };
}

function samplePatch(patch: GrayPatch, x: number, y: number): number {
  const u = x - 0.5 - patch.x0;
  const v = y - 0.5 - patch.y0;
  const i = Math.min(Math.max(Math.floor(u), 0), patch.width - 2);
  const j = Math.min(Math.max(Math.floor(v), 0), patch.height - 2);
  const fx = Math.min(Math.max(u - i, 0), 1);
  const fy = Math.min(Math.max(v - j, 0), 1);
  const at = j * patch.width + i;
  const d = patch.data;
  const top = d[at]! + (d[at + 1]! - d[at]!) * fx;
  const low = d[at + patch.width]! + (d[at + patch.width + 1]! - d[at + patch.width]!) * fx;
  return top + (low - top) * fy;
}

/** The fist about the neck, mm of a full-size violin in the instrument frame (ours): wide enough for thumb, knuckles and wrist. */
const FIST = { x: [180, 305], y: [-38, 42], z: [-70, 30] } as const;

/** Trust in a point that a hand may hide (ours, after trials: where little else is seen it must do, else it hardly counts). */
const HIDDEN = 0.1;

/**
 * Outline (convex) of what the fret hand may hide, where the view is so much along the neck that the hand stands
 * before the body, and the distance (mm) from which on it can.
 */
function handInPicture(pose: Pose, camera: Camera, k: number): { hull: Vec2[]; depth: number } | undefined {
  const corners: Vec2[] = [];
  let depth = Number.POSITIVE_INFINITY;
  for (const x of FIST.x) {
    for (const y of FIST.y) {
      for (const z of FIST.z) {
        const outer = toOuter(pose, [x * k, y * k, z * k]);
        const p = project(camera, outer);
        if (!p) return undefined;
        corners.push(p);
        depth = Math.min(depth, outer[2]);
      }
    }
  }
  return { hull: convexHull(corners), depth };
}

/** Andrew's monotone chain. */
function convexHull(points: readonly Vec2[]): Vec2[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (list: readonly Vec2[]) => {
    const out: Vec2[] = [];
    for (const p of list) {
      while (out.length >= 2 && turn(out[out.length - 2]!, out[out.length - 1]!, p) <= 0) out.pop();
      out.push(p);
    }
    return out.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

const turn = (a: Vec2, b: Vec2, c: Vec2) => (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);

const insideHull = (hull: readonly Vec2[], x: number, y: number): boolean => hull.every((a, i) => turn(a, hull[(i + 1) % hull.length]!, [x, y]) >= 0);

/**
 * Chooses points of the instrument in a frame of known pose, more where brightness changes, none where the
 * left hand, the bow or the bow hand would be taken for wood.
 */
export function makeKeyFrame(
  index: number,
  levels: readonly GrayPatch[],
  pose: Pose,
  camera: Camera,
  model: InstrumentModel,
  relief: Relief,
  bow: BowInPicture | undefined,
): KeyFrame {
  const base = levels[0]!;
  const map = renderDepth(relief, pose, camera);
  const k = model.frame.scale;
  const pxPerMm = camera.focal / pose.translation[2];
  const hand = handInPicture(pose, camera, k);
  let direction: Vec2 = [0, 0];
  if (bow) {
    const n = Math.hypot(bow.tip[0] - bow.frog[0], bow.tip[1] - bow.frog[1]) || 1;
    direction = [(bow.tip[0] - bow.frog[0]) / n, (bow.tip[1] - bow.frog[1]) / n];
  }
  const random = seededRandom(index + 1);
  const toPlate = transpose(pose.rotation);
  // Weighted choice without repeats: the largest of u^(1/w). Every pixel of the instrument is asked: no memory for each.
  const places = new Int32Array(map.width * map.height);
  const keys = new Float64Array(places.length);
  const trusts = new Float32Array(places.length);
  let candidates = 0;
  for (let j = 1; j < map.height - 1; j++) {
    for (let i = 1; i < map.width - 1; i++) {
      const depth = map.depth[j * map.width + i]!;
      if (depth <= 0) continue;
      const x = map.x0 + i + 0.5;
      const y = map.y0 + j + 0.5;
      const px = x - 0.5 - base.x0;
      const py = y - 0.5 - base.y0;
      if (px < 2 || py < 2 || px > base.width - 3 || py > base.height - 3) continue;
      let trust = 1;
      if (bow) {
        const dx = x - bow.frog[0];
        const dy = y - bow.frog[1];
        const fromFrog = Math.hypot(dx, dy) / (k * pxPerMm);
        if (fromFrog < FROG_MM) continue;
        if (fromFrog < FROG_CIRCLE_MM) trust = HIDDEN;
        if (Math.abs(dx * direction[1] - dy * direction[0]) < BOW_BAND_MM * k * pxPerMm) continue;
      }
      if (hand && depth > hand.depth && insideHull(hand.hull, x, y)) trust = HIDDEN;
      // Along the strings and aside of them, as toInner of the ray gives it, written out: every pixel is asked.
      const ox = ((x - camera.width / 2) / camera.focal) * depth - pose.translation[0];
      const oy = ((y - camera.height / 2) / camera.focal) * depth - pose.translation[1];
      const oz = depth - pose.translation[2];
      const along = toPlate[0] * ox + toPlate[1] * oy + toPlate[2] * oz;
      if (along > HAND_FROM * k && along < HAND_TO * k) {
        const aside = toPlate[3] * ox + toPlate[4] * oy + toPlate[5] * oz;
        if (Math.abs(aside) < HAND_HALF_WIDTH * k || along > 200 * k) continue;
      }
      const at = Math.round(py) * base.width + Math.round(px);
      const gradient = Math.hypot(base.data[at + 1]! - base.data[at - 1]!, base.data[at + base.width]! - base.data[at - base.width]!) / 2;
      const weight = gradient ** 0.7 * Math.sqrt(trust);
      places[candidates] = j * map.width + i;
      trusts[candidates] = trust;
      keys[candidates++] = weight > 0 ? Math.log(random() + 1e-12) / weight : Number.NEGATIVE_INFINITY;
    }
  }
  const least = candidates > POINTS ? nthSmallest(keys.slice(0, candidates), candidates, candidates - POINTS) : Number.NEGATIVE_INFINITY;
  const chosen: number[] = [];
  for (let n = 0; n < candidates; n++) if (keys[n]! >= least) chosen.push(n);
  chosen.sort((a, b) => keys[b]! - keys[a]!).splice(POINTS);
  const count = chosen.length;
  const points = new Float32Array(3 * count);
  const trust = new Float32Array(count);
  const blocks = new Uint16Array(count);
  const ids = new Map<number, number>();
  const values = levels.map(() => new Float32Array(count));
  chosen.forEach((c, n) => {
    const place = places[c]!;
    const x = map.x0 + (place % map.width) + 0.5;
    const y = map.y0 + Math.floor(place / map.width) + 0.5;
    points.set(toInner(pose, scale(ray(camera, [x, y]), map.depth[place]!)), 3 * n);
    trust[n] = trusts[c]!;
    levels.forEach((level, l) => {
      values[l]![n] = samplePatch(level, x / 2 ** l, y / 2 ** l);
    });
    const block = (Math.floor(y / 8) << 12) + Math.floor(x / 8);
    if (!ids.has(block)) ids.set(block, ids.size);
    blocks[n] = ids.get(block)!;
  });
  return { index, pose, count, points, values, trust, blocks, blockCount: ids.size };
}

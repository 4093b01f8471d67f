import { type Camera, insidePicture, project } from '../../core/geometry/camera';
import { type Pose, toInner, toOuter } from '../../core/geometry/pose';
import { addScaled, cross, dot, length, subtract, type Vec2, type Vec3 } from '../../core/geometry/vec3';
import { bodyPoint } from '../../core/instrument/body';
import { type ContourStation, contourDirection, contourInside, contourPlace, contourStations } from '../../core/instrument/contours';
import type { InstrumentModel } from '../../core/instrument/landmarks';
import { archAt, halfWidthAt } from '../../core/instrument/outline';
import { buildRelief, type DepthMap, type Relief, renderDepth } from '../../core/instrument/relief';
import { addColour, type ColourPicture } from '../image/colourPicture';
import { bowCover } from './bowCover';
import type { BowInPicture } from './keyFrame';

/** How strongly the picture changes across a contour, at offsets to both sides of where a pose puts it. */
export interface ContourProfile {
  readonly station: ContourStation;
  readonly point: Vec2;
  /** Unit vector across; positive offsets lie along it. */
  readonly across: Vec2;
  /** Pixels between neighbouring offsets; the middle of the array is offset 0. */
  readonly pitch: number;
  /** 0 no edge .. 1 a strong one that stands out. */
  readonly strength: Float32Array;
}

/** Offsets are so far apart (px at 960 across). */
const PITCH = 0.5;
/** Colours are compared at this distance to either side (px at 960 across). */
const ARM = 1;
/** Averaged along the contour over this much to either side (px at 960 across). */
const ALONG = [-2, -0.7, 0.7, 2];
/** A change of colour that stands for a fair edge (grey levels, all three channels together; ours: above compression noise). */
const FAIR = 14;
/** The rim of the back must lie so far from that of the plate (px at 960 across). */
const LEAST_RIB = 3.5;
/** Wood so much nearer to the camera hides what lies behind it (mm of a full-size violin; the relief is good to a few). */
const HIDES = 9;
/** So far along and into a contour (mm) its directions in the picture are read. */
const AHEAD_MM = 2;

/**
 * Looks across every contour that faces the camera.
 * @param search reach to both sides, pixels at 960 across
 */
export function contourProfiles(picture: ColourPicture, camera: Camera, model: InstrumentModel, pose: Pose, search: number, bow?: BowInPicture): ContourProfile[] {
  const unit = Math.max(picture.width, picture.height) / 960;
  const pitch = PITCH * unit;
  const reach = Math.round(search / PITCH);
  const eye = toInner(pose, [0, 0, 0]);
  const up = subtract(bodyPoint(model.frame, 0, 0, 1), bodyPoint(model.frame, 0, 0, 0));
  const covered = bow && bowCover(camera, pose, bow);
  const wood = renderDepth(reliefOf(model), pose, camera);
  const belly = bellyColour(picture, camera, model, pose, wood);
  const unlikePlate = belly && unlikeBelly(belly);
  const out: ContourProfile[] = [];
  for (const station of contourStations()) {
    const place = contourPlace(model, station);
    const direction = contourDirection(model, station);
    if (!facesCamera(station, place, direction, eye, up)) continue;
    const [point, ahead] = [place, addScaled(place, direction, AHEAD_MM / length(direction))].map((p) => project(camera, toOuter(pose, p)));
    if (!point || !ahead || !insidePicture(camera, point, (search + 3) * unit)) continue;
    const run = Math.hypot(ahead[0] - point[0], ahead[1] - point[1]);
    // Seen along itself a contour has no side.
    if (run < 0.12 * unit) continue;
    if (isHidden(wood, point, toOuter(pose, place)[2] - HIDES * model.frame.scale)) continue;
    if (covered?.(point)) continue;
    if (station.contour.startsWith('back') && ribInPicture(station, model, pose, camera, point) < LEAST_RIB * unit) continue;
    const along: Vec2 = [(ahead[0] - point[0]) / run, (ahead[1] - point[1]) / run];
    const across: Vec2 = [-along[1], along[0]];
    const inside = project(camera, toOuter(pose, contourInside(model, station, AHEAD_MM)));
    if (!inside) continue;
    const inward = Math.sign((inside[0] - point[0]) * across[0] + (inside[1] - point[1]) * across[1]) || 1;
    const unlike = station.contour.startsWith('plate') ? unlikePlate : station.contour.startsWith('fingerboard') ? unlikeBlack : undefined;
    const strength = changes(picture, point, along, across, reach, pitch, unit, inward, unlike);
    if (strength) out.push({ station, point, across, pitch, strength });
  }
  return out;
}

const reliefs = new WeakMap<InstrumentModel, Relief>();

/** A model is looked for many times before it changes. */
function reliefOf(model: InstrumentModel): Relief {
  const relief = reliefs.get(model) ?? buildRelief(model);
  reliefs.set(model, relief);
  return relief;
}

/** The plate is seen from above; ribs, and the far side of the fingerboard, where they face the eye. */
function facesCamera({ contour }: ContourStation, place: Vec3, direction: Vec3, eye: Vec3, up: Vec3): boolean {
  const toEye = subtract(eye, place);
  if (dot(toEye, up) <= 0) return contour.startsWith('back');
  if (contour === 'fingerboard.end' || contour.startsWith('plate')) return true;
  const outward = contour.endsWith('low') ? 1 : -1;
  // Below the near side of the fingerboard its dark wall goes on; the rim of the back shows only on the near side.
  if (contour.startsWith('fingerboard')) return outward * (eye[1] - place[1]) < 0;
  return outward * dot(toEye, cross(direction, up)) > 0;
}

function isHidden(wood: DepthMap, [x, y]: Vec2, from: number): boolean {
  const [i, j] = [Math.floor(x) - wood.x0, Math.floor(y) - wood.y0];
  if (i < 0 || j < 0 || i >= wood.width || j >= wood.height) return false;
  const nearest = wood.depth[j * wood.width + i]!;
  return nearest > 0 && nearest < from;
}

function ribInPicture({ at, contour }: ContourStation, model: InstrumentModel, pose: Pose, camera: Camera, back: Vec2): number {
  const plate = project(camera, toOuter(pose, contourPlace(model, { at, contour: contour === 'back.low' ? 'plate.low' : 'plate.high' })));
  return plate ? Math.hypot(plate[0] - back[0], plate[1] - back[1]) : 0;
}

/** Red, green, blue, 0..255 each. */
type Colour = Vec3;
/** How unlike a colour (red, green, blue) is to what lies within a contour. */
type Unlike = (red: number, green: number, blue: number) => number;

/** A fingerboard is black or nearly so, and what borders on it is not. */
const unlikeBlack: Unlike = (red, green, blue) => red + green + blue;

/** The inner side of the plate's rim looks like the rest of the plate, the outer does not. */
const unlikeBelly =
  (belly: Colour): Unlike =>
  (red, green, blue) =>
    Math.sqrt((red - belly[0]) ** 2 + (green - belly[1]) ** 2 + (blue - belly[2]) ** 2);

/** Places spread over the plate beside fingerboard and tailpiece, in body coordinates. */
const PLATE_SPOTS: readonly Vec3[] = Array.from({ length: 19 }, (_, i) => -120 + 15 * i).flatMap((u) =>
  [-0.85, -0.7, -0.55, 0.55, 0.7, 0.85].map((side): Vec3 => {
    const y = side * halfWidthAt(u);
    return [u, y, archAt(u, y)];
  }),
);

/** The middle colour of the plate where nothing lies over it; undefined when little of it is seen. */
function bellyColour(picture: ColourPicture, camera: Camera, model: InstrumentModel, pose: Pose, wood: DepthMap): Colour | undefined {
  const seen: [number[], number[], number[]] = [[], [], []];
  for (const [u, y, w] of PLATE_SPOTS) {
    const outer = toOuter(pose, bodyPoint(model.frame, u, y, w));
    const at = project(camera, outer);
    if (!at || isHidden(wood, at, outer[2] - HIDES * model.frame.scale)) continue;
    const c = [0, 0, 0];
    if (addColour(picture, at[0], at[1], 1, c)) c.forEach((v, k) => seen[k]!.push(v));
  }
  if (seen[0].length < 20) return undefined;
  const middle = (values: number[]) => values.sort((a, b) => a - b)[values.length >> 1]!;
  return [middle(seen[0]), middle(seen[1]), middle(seen[2])];
}

/** Strengths across a place of a contour; undefined where they would be read beyond the picture. A hot loop: no colour is an array of its own. */
function changes(
  picture: ColourPicture,
  point: Vec2,
  along: Vec2,
  across: Vec2,
  reach: number,
  pitch: number,
  unit: number,
  inward: number,
  unlike?: Unlike,
): Float32Array | undefined {
  const arm = Math.round((ARM * unit) / pitch);
  const line = colourLine(picture, point, along, across, reach + arm, pitch, unit);
  if (!line) return undefined;
  const strength = new Float32Array(2 * reach + 1);
  let mean = 0;
  for (let j = 0; j < strength.length; j++) {
    const [a, b] = [3 * j, 3 * (j + 2 * arm)];
    const size = Math.sqrt((line[a]! - line[b]!) ** 2 + (line[a + 1]! - line[b + 1]!) ** 2 + (line[a + 2]! - line[b + 2]!) ** 2);
    mean += size / strength.length;
    strength[j] = unlike ? size * fit(unlike, line, inward > 0 ? b : a, inward > 0 ? a : b) : size;
  }
  for (let j = 0; j < strength.length; j++) strength[j]! /= strength[j]! + FAIR + mean;
  return strength;
}

/** How well the colours to both sides of an edge suit a contour, 0..1: what lies without is to be far more unlike it than what lies within. */
function fit(unlike: Unlike, line: Float32Array, inner: number, outer: number): number {
  const within = unlike(line[inner]!, line[inner + 1]!, line[inner + 2]!);
  const without = unlike(line[outer]!, line[outer + 1]!, line[outer + 2]!);
  return Math.max(0, Math.min(1, (2.6 * without) / (without + within + 1e-6) - 1));
}

/** Colours (three numbers each) at places across a contour, `steps` to either side, each averaged along it; undefined where the picture ends. */
function colourLine(picture: ColourPicture, point: Vec2, along: Vec2, across: Vec2, steps: number, pitch: number, unit: number): Float32Array | undefined {
  const line = new Float32Array(3 * (2 * steps + 1));
  const sums = [0, 0, 0];
  for (let j = 0; j <= 2 * steps; j++) {
    const o = (j - steps) * pitch;
    sums.fill(0);
    for (const a of ALONG) {
      if (!addColour(picture, point[0] + across[0] * o + along[0] * a * unit, point[1] + across[1] * o + along[1] * a * unit, 0.25, sums)) return undefined;
    }
    line.set(sums, 3 * j);
  }
  return line;
}

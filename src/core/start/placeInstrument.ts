import { type Camera, project } from '../geometry/camera';
import { facingOf, type Pose, toOuter } from '../geometry/pose';
import type { Vec2 } from '../geometry/vec3';
import { INSTRUMENT_LANDMARKS, type InstrumentLandmark, type InstrumentModel, isInstrumentLandmark } from '../instrument/landmarks';
import { type LandmarkSighting, solvePose } from '../instrument/solveMarks';
import type { FusedPoint } from './fuse';
import type { Region } from './playerRegion';

/** An instrument placed from what the network saw in one frame. */
export interface PlacedInstrument {
  readonly pose: Pose;
  /** Points that belong to it. */
  readonly sightings: readonly LandmarkSighting[];
  /** Sum of the confidences of those points over the number of all points, 0..1. */
  readonly support: number;
  /** Root mean square distance of those points from the placed instrument, in shares of its length in the picture. */
  readonly misfit: number;
  /** Length from end button to scroll in the picture, pixels. */
  readonly length: number;
  /** Sine of the angle at which the camera sees the top plate: 1 from straight above, 0 along it. */
  readonly facing: number;
  /** How clearly the picture shows edges where its contours are expected, 0..1; absent before it was laid on them. */
  readonly edges?: number;
}

/** A point the network is less sure of does not vote. */
const LEAST_CONFIDENCE = 0.12;
/** Points further off than this (sigmas) do not belong. */
const OUTLIER = 3.5;
const LEAST_POINTS = 6;
const CLEAR_SHARE = 0.85;

/** Groups left out in turn, so that one wrong end of the instrument cannot pull all (names' beginnings). */
const LEFT_OUT: readonly (readonly string[])[] = [
  [],
  ['scroll', 'nut'],
  ['endButton', 'tailpieceEnd', 'lowerCorner'],
  ['bridgeFoot', 'bridge'],
  ['upperCorner', 'lowerCorner'],
  ['fingerboardEnd'],
];

/** The seen points that are the instrument's, and sure enough to have a say. */
export const instrumentSightings = (points: readonly FusedPoint[]): (LandmarkSighting & { readonly confidence: number })[] =>
  points.flatMap((p) => (isInstrumentLandmark(p.name) && p.confidence >= LEAST_CONFIDENCE ? [{ landmark: p.name, point: p.point, sigma: p.sigma, confidence: p.confidence }] : []));

/** Pose of the instrument that most of the seen points agree on; undefined when too few do. */
export function placeInstrument(camera: Camera, model: InstrumentModel, points: readonly FusedPoint[], near?: Pose): PlacedInstrument | undefined {
  const all = instrumentSightings(points);
  if (all.length < LEAST_POINTS) return undefined;
  let best: { placed: PlacedInstrument; score: number } | undefined;
  const starts = near ? [undefined] : LEFT_OUT;
  for (const out of starts) {
    const used = out ? all.filter((s) => !out.some((part) => s.landmark.startsWith(`instrument.${part}`))) : all;
    if (used.length < LEAST_POINTS) continue;
    const first = solvePose(camera, model, used, near);
    const inside = first && all.filter((s) => distance(camera, model, first.pose, s) < OUTLIER * 1.5 * s.sigma);
    if (!first || !inside || inside.length < LEAST_POINTS) continue;
    const second = solvePose(camera, model, inside, first.pose);
    const kept = second && all.filter((s) => distance(camera, model, second.pose, s) < OUTLIER * s.sigma);
    if (!second || !kept || kept.length < LEAST_POINTS) continue;
    const placed = placedFrom(camera, model, second.pose, kept);
    if (!placed) continue;
    const score = placed.support - 4 * placed.misfit;
    if (!best || score > best.score) best = { placed, score };
    // Nearly all agree: leaving some out cannot do better.
    if (kept.length >= CLEAR_SHARE * all.length) break;
  }
  return best?.placed;
}

const distance = (camera: Camera, model: InstrumentModel, pose: Pose, s: LandmarkSighting): number => {
  const image = project(camera, toOuter(pose, model.landmarks[s.landmark]));
  return image ? Math.hypot(image[0] - s.point[0], image[1] - s.point[1]) : Number.POSITIVE_INFINITY;
};

function placedFrom(camera: Camera, model: InstrumentModel, pose: Pose, kept: readonly (LandmarkSighting & { readonly confidence: number })[]): PlacedInstrument | undefined {
  const scroll = project(camera, toOuter(pose, model.landmarks['instrument.scroll']));
  const button = project(camera, toOuter(pose, model.landmarks['instrument.endButton']));
  if (!scroll || !button) return undefined;
  const box = instrumentBox(camera, model, pose);
  const length = Math.max(Math.hypot(scroll[0] - button[0], scroll[1] - button[1]), box?.side ?? 0);
  const sum = kept.reduce((total, s) => total + distance(camera, model, pose, s) ** 2, 0);
  return {
    pose,
    sightings: kept.map(({ landmark, point, sigma }) => ({ landmark, point, sigma })),
    support: kept.reduce((total, s) => total + s.confidence, 0) / INSTRUMENT_LANDMARKS.length,
    misfit: Math.sqrt(sum / kept.length) / length,
    length,
    facing: facingOf(pose),
  };
}

/** The square the network is shown about an instrument, as a share of the box about it. */
export const BOX = 1.4;

/** Square about a placed instrument, or about some of its points, in the picture; undefined when it lies behind the camera. */
export function instrumentBox(camera: Camera, model: InstrumentModel, pose: Pose, points: readonly InstrumentLandmark[] = INSTRUMENT_LANDMARKS): Region | undefined {
  const places: Vec2[] = [];
  for (const name of points) {
    const at = project(camera, toOuter(pose, model.landmarks[name]));
    if (!at) return undefined;
    places.push(at);
  }
  const xs = places.map((p) => p[0]);
  const ys = places.map((p) => p[1]);
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  return { middle: [(left + right) / 2, (top + bottom) / 2], side: Math.max(right - left, bottom - top) };
}

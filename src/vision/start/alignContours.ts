import { type Camera, project, type SupposedCamera } from '../../core/geometry/camera';
import { deepenPose, POSE_INCREMENTS, type Pose, stepPose, toOuter } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import { type ContourSighting, contourPlace } from '../../core/instrument/contours';
import type { Dimensions } from '../../core/instrument/dimensions';
import { type InstrumentModel, instrumentModel, SHAPE } from '../../core/instrument/landmarks';
import type { LandmarkSighting } from '../../core/instrument/solveMarks';
import { solveLeastSquares } from '../../core/linalg/leastSquares';
import { COMMON_SIGMA, fitPlacings, networkPixel, type Placings, POINT_SIGMA } from '../../core/start/fitPlacings';
import { voteStep } from '../../core/start/voteStep';
import type { ColourPicture } from '../image/colourPicture';
import { contourEdges } from '../instrument/contourEdges';
import { type ContourProfile, contourProfiles } from '../instrument/contourSearch';
import type { BowInPicture } from '../instrument/keyFrame';

/** Reach to both sides of the looks that vote, then of those that follow single edges (px at 960 across). */
const VOTES = [9, 6, 4];
const FOLLOWED = [
  { search: 3, robust: 3 },
  { search: 2.2, robust: 2.5 },
  { search: 1.8, robust: 2 },
];
/** Fewer stations than this say nothing. */
const LEAST_STATIONS = 30;
/** Neighbouring stations say the same: a strength counts as so much of a squared sigma (ours). */
const WORTH = 0.5;

/**
 * The network is believed as it usually errs; where its instrument then does not lie on edges as clear as this, once more
 * as it errs at worst. The looser placing must show so much clearer edges (ours).
 */
const LOOSER = 2;
const CLEAR = 0.36;
const CLEARER = 0.03;

/** Lays an instrument placed by the network on the edges of its picture: all contours vote for a step together, then each edge is followed. */
export function alignContours(picture: ColourPicture, camera: SupposedCamera, dimensions: Dimensions, placed: Pose, points: readonly LandmarkSighting[]): LaidInstrument {
  const usual = layDown(picture, camera, dimensions, placed, points, 1);
  if (usual.edges >= CLEAR) return usual;
  const looser = layDown(picture, camera, dimensions, placed, points, LOOSER);
  return looser.edges > usual.edges + CLEARER ? looser : usual;
}

/** An instrument laid on its edges, and how clear they are, see {@link contourStrength}. */
export interface LaidInstrument {
  readonly fit: Placings;
  readonly edges: number;
  /** The network's points, as surely as they were believed. */
  readonly points: readonly LandmarkSighting[];
}

function layDown(picture: ColourPicture, camera: SupposedCamera, dimensions: Dimensions, placed: Pose, points: readonly LandmarkSighting[], loose: number): LaidInstrument {
  const generic = instrumentModel(dimensions);
  let pose = placed;
  for (const search of VOTES) {
    const profiles = contourProfiles(picture, camera, generic, pose, search);
    const known = covarianceOf(camera, generic, pose, points, loose);
    if (!known || profiles.length < LEAST_STATIONS) break;
    const ballots = profiles.map((profile) => ({ strength: softened(profile.strength, search), pitch: profile.pitch, moves: movesOf(camera, generic, pose, profile) }));
    pose = stepPose(pose, voteStep(ballots, known, 6, WORTH).step);
  }
  const start = { poses: [pose], shape: new Float64Array(SHAPE.length), logFocal: 0, camera, model: generic };
  const believed = points.map((p) => ({ ...p, sigma: loose * p.sigma }));
  const fit = alignTogether(camera, dimensions, [{ picture, points: believed, placed: start }]);
  return { fit, edges: contourStrength(picture, fit), points: believed };
}

/** An edge this near (px at 960 across) to where a contour is expected is taken for it. */
const BESIDE = 1;

/**
 * How clearly the picture shows edges where the contours of a placed instrument are expected, 0..1. A right placing has
 * 0.4 to 0.6, a wrong one under 0.3, what passes for an instrument and is none 0.1 to 0.25 (ours, measured on seeded clips).
 */
function contourStrength(picture: ColourPicture, { camera, model, poses }: Placings): number {
  const profiles = contourProfiles(picture, camera, model, poses[0]!, BESIDE);
  return profiles.reduce((sum, p) => sum + Math.max(...p.strength), 0) / Math.max(1, profiles.length);
}

/** A frame about to be laid on its edges. */
export interface FrameToAlign {
  readonly picture: ColourPicture;
  readonly placed: Placings;
  readonly points: readonly LandmarkSighting[];
  readonly bow?: BowInPicture | undefined;
}

/** Follows the edges near placings that are nearly right, for one instrument and camera in all frames. */
export function alignTogether(camera: SupposedCamera, dimensions: Dimensions, frames: readonly FrameToAlign[]): Placings {
  let fit = meanOf(
    camera,
    dimensions,
    frames.map((f) => f.placed),
  );
  for (const { search, robust } of FOLLOWED) {
    const evidence = frames.map(({ picture, points, bow }, f) => ({ pose: fit.poses[f]!, points, edges: edgesAbout(picture, fit, f, search, bow) }));
    if (evidence.every((e) => e.edges.length < LEAST_STATIONS)) break;
    fit = fitPlacings(camera, dimensions, evidence, fit, robust);
  }
  return fit;
}

/** One instrument and camera half way between those of several placings, each moved in depth so that it keeps its size in the picture. */
function meanOf(camera: Camera, dimensions: Dimensions, placings: readonly Placings[]): Placings {
  const mean = (of: (p: Placings) => number) => placings.reduce((sum, p) => sum + of(p), 0) / placings.length;
  const shape = Float64Array.from(SHAPE, (_, i) => mean((p) => p.shape[i]!));
  const logFocal = mean((p) => p.logFocal);
  const poses = placings.map(({ poses: [pose], logFocal: own }) => deepenPose(pose!, Math.exp(logFocal - own)));
  return { poses, shape, logFocal, camera: { ...camera, focal: camera.focal * Math.exp(logFocal) }, model: instrumentModel(dimensions, shape) };
}

function edgesAbout(picture: ColourPicture, fit: Placings, frame: number, search: number, bow?: BowInPicture): ContourSighting[] {
  const pose = fit.poses[frame]!;
  return contourEdges(contourProfiles(picture, fit.camera, fit.model, pose, search, bow), fit.camera, pose, Math.max(picture.width, picture.height) / 960, fit.poses.length);
}

/** Wide looks are blurred, so that a step that comes near an edge gains by it. */
function softened(strength: Float32Array, search: number): Float32Array {
  const half = Math.max(1, Math.round(search / 3));
  return strength.map((_, i) => {
    let sum = 0;
    let weights = 0;
    for (let d = -half; d <= half; d++) {
      const s = strength[i + d];
      if (s === undefined) continue;
      const w = half + 1 - Math.abs(d);
      sum += w * s;
      weights += w;
    }
    return sum / weights;
  });
}

function movesOf(camera: Camera, model: InstrumentModel, pose: Pose, profile: ContourProfile): Float64Array {
  const place = contourPlace(model, profile.station);
  const step = new Float64Array(6);
  return Float64Array.from(POSE_INCREMENTS, (h, k) => {
    step.fill(0);
    step[k] = h;
    const moved = project(camera, toOuter(stepPose(pose, step), place));
    return moved ? ((moved[0] - profile.point[0]) * profile.across[0] + (moved[1] - profile.point[1]) * profile.across[1]) / h : 0;
  });
}

/** Covariance (6 x 6) of the pose as the network's points alone tell it, if they err `loose` times as much as they usually do. */
function covarianceOf(camera: Camera, model: InstrumentModel, pose: Pose, points: readonly LandmarkSighting[], loose: number): Float64Array | undefined {
  const pixel = loose * networkPixel(camera, model, pose);
  const { covariance } = solveLeastSquares<{ pose: Pose; common: Vec2 }>({
    start: { pose, common: [0, 0] },
    unknowns: 8,
    increments: [...POSE_INCREMENTS, 1e-2, 1e-2],
    iterations: 1,
    residuals: ({ pose: p, common }) => [
      ...points.flatMap((s) => {
        const sigma = Math.max(s.sigma, POINT_SIGMA * pixel);
        const image = project(camera, toOuter(p, model.landmarks[s.landmark]));
        return image ? [(image[0] + common[0] - s.point[0]) / sigma, (image[1] + common[1] - s.point[1]) / sigma] : [1e4, 1e4];
      }),
      common[0] / (COMMON_SIGMA * pixel),
      common[1] / (COMMON_SIGMA * pixel),
    ],
    step: ({ pose: p, common }, d) => ({ pose: stepPose(p, d), common: [common[0] + d[6]!, common[1] + d[7]!] }),
  });
  return covariance && Float64Array.from({ length: 36 }, (_, i) => covariance[Math.floor(i / 6) * 8 + (i % 6)]!);
}

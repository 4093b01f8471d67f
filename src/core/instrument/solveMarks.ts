import { type Camera, LOG_FOCAL_SIGMA, project, type SupposedCamera } from '../geometry/camera';
import { facingOf, POSE_INCREMENTS, type Pose, stepPose, toOuter } from '../geometry/pose';
import { fromRotationVector, type Mat3, multiply, rotate } from '../geometry/rotation';
import type { Vec2 } from '../geometry/vec3';
import { solveLeastSquares } from '../linalg/leastSquares';
import type { Dimensions } from './dimensions';
import { type EdgeSighting, edgePoint } from './edges';
import { DEFAULT_SHAPE, type InstrumentLandmark, type InstrumentModel, instrumentModel, SHAPE } from './landmarks';

/** One landmark seen at a place of the picture. */
export interface LandmarkSighting {
  readonly landmark: InstrumentLandmark;
  readonly point: Vec2;
  /** Standard uncertainty in pixels, both ways. */
  readonly sigma: number;
}

/** Poses, focal length and shape that explain marks in one or more frames of a clip. */
export interface MarksSolution {
  readonly camera: Camera;
  readonly model: InstrumentModel;
  readonly shape: Float64Array;
  readonly poses: readonly Pose[];
  /** Root mean square distance of marks from the solved landmarks, in sigmas of a mark. */
  readonly misfit: number;
  /** The landmark that fits worst and its distance in pixels. */
  readonly worst: { readonly frame: number; readonly landmark: InstrumentLandmark; readonly distance: number };
  /** What marks, lines and suppositions differ by in all, squared sigmas; outliers count little. */
  readonly cost: number;
  /** Covariance of (rotation, translation) of each pose in turn, log focal length, shape; row-major. */
  readonly covariance: Float64Array;
  readonly unknowns: number;
}

/** Standard uncertainty of the logarithm of the focal length. */
export function logFocalSigma({ poses, covariance, unknowns }: MarksSolution): number {
  const at = 6 * poses.length;
  return Math.sqrt(covariance[at * unknowns + at]!);
}

/** Marks that cannot be turned into an instrument; the message is for the teacher. */
export class MarksError extends Error {
  override readonly name = 'MarksError';
}

/** Marks placed by hand on a clear picture, at 960 pixels across (ours: measured on repeated marking). */
export const MARK_SIGMA_AT_960 = 0.8;
export const markSigma = (camera: Camera): number => (MARK_SIGMA_AT_960 * Math.max(camera.width, camera.height)) / 960;

const CAUCHY = 3;

function spread(points: readonly Vec2[]): { longest: number; thinnest: number } {
  const n = points.length;
  const mx = points.reduce((s, p) => s + p[0], 0) / n;
  const my = points.reduce((s, p) => s + p[1], 0) / n;
  let xx = 0;
  let xy = 0;
  let yy = 0;
  for (const [x, y] of points) {
    xx += (x - mx) ** 2;
    xy += (x - mx) * (y - my);
    yy += (y - my) ** 2;
  }
  const mean = (xx + yy) / 2;
  const gap = Math.hypot((xx - yy) / 2, xy);
  return { longest: Math.sqrt((mean + gap) / n), thinnest: Math.sqrt(Math.max(0, mean - gap) / n) };
}

/** From beside or a little below the edge the plate is seen, if at all, at such an angle (sine, ours): close-ups of the bow hand are taken so. */
const LOWEST_VIEW = 0.4;
/** and must explain the marks so much better (squared sigmas) than one from above. */
const FROM_BELOW_COST = 9;

/** Rotations that turn the top plate toward the camera or its edge, spread over the half sphere and about the line of sight. */
function rotationSeeds(): Mat3[] {
  const facing = fromRotationVector([Math.PI, 0, 0]);
  const seeds: Mat3[] = [];
  for (const tilt of [0, 0.6, 1.1, 1.5, 1.8]) {
    const turns = tilt === 0 ? 1 : 6;
    for (let i = 0; i < turns; i++) {
      const a = (2 * Math.PI * i) / turns;
      const lean = fromRotationVector([tilt * Math.cos(a), tilt * Math.sin(a), 0]);
      for (let j = 0; j < 12; j++) {
        seeds.push(multiply(lean, multiply(fromRotationVector([0, 0, (2 * Math.PI * j) / 12]), facing)));
      }
    }
  }
  return seeds;
}

/** Translation under which a rotated instrument covers the sighted points best (weak perspective). */
function seedPose(camera: Camera, model: InstrumentModel, sightings: readonly LandmarkSighting[], rotation: Mat3) {
  const turned = sightings.map((s) => rotate(rotation, model.landmarks[s.landmark]));
  const n = sightings.length;
  const mean = (values: number[]) => values.reduce((a, b) => a + b, 0) / n;
  const mu = mean(sightings.map((s) => s.point[0]));
  const mv = mean(sightings.map((s) => s.point[1]));
  const mx = mean(turned.map((p) => p[0]));
  const my = mean(turned.map((p) => p[1]));
  const mz = mean(turned.map((p) => p[2]));
  let overlap = 0;
  let size = 0;
  turned.forEach((p, i) => {
    overlap += (p[0] - mx) * (sightings[i]!.point[0] - mu) + (p[1] - my) * (sightings[i]!.point[1] - mv);
    size += (p[0] - mx) ** 2 + (p[1] - my) ** 2;
  });
  const pxPerMm = overlap / size;
  if (!(pxPerMm > 0)) return undefined;
  const depth = camera.focal / pxPerMm;
  const pose: Pose = {
    rotation,
    translation: [((mu - camera.width / 2) / camera.focal) * depth - mx, ((mv - camera.height / 2) / camera.focal) * depth - my, depth - mz],
  };
  let cost = 0;
  turned.forEach((p, i) => {
    cost += (mu + pxPerMm * (p[0] - mx) - sightings[i]!.point[0]) ** 2;
    cost += (mv + pxPerMm * (p[1] - my) - sightings[i]!.point[1]) ** 2;
  });
  return { pose, cost };
}

function reprojection(camera: Camera, model: InstrumentModel, pose: Pose, sightings: readonly LandmarkSighting[], out: number[]) {
  for (const s of sightings) {
    const image = project(camera, toOuter(pose, model.landmarks[s.landmark]));
    // Behind the camera: far off, so that the step is refused.
    out.push(image ? (image[0] - s.point[0]) / s.sigma : 1e4, image ? (image[1] - s.point[1]) / s.sigma : 1e4);
  }
}

/**
 * Pose of a known instrument from sightings, from scratch or from a near pose.
 * @returns the pose and its cost (sum of squared sigmas), undefined when nothing fits.
 */
export function solvePose(camera: Camera, model: InstrumentModel, sightings: readonly LandmarkSighting[], near?: Pose): { pose: Pose; cost: number } | undefined {
  const starts = near
    ? [near]
    : rotationSeeds()
        .map((rotation) => seedPose(camera, model, sightings, rotation))
        .filter((seed) => seed !== undefined)
        .sort((a, b) => a.cost - b.cost)
        .slice(0, 16)
        .map((seed) => seed.pose);
  let best: { pose: Pose; cost: number; asked: number } | undefined;
  for (const start of starts) {
    const { state, cost } = solveLeastSquares<Pose>({
      start,
      unknowns: 6,
      increments: POSE_INCREMENTS,
      residuals: (pose) => {
        const out: number[] = [];
        reprojection(camera, model, pose, sightings, out);
        return out;
      },
      step: (pose, delta) => stepPose(pose, delta),
      weight: (r) => 1 / (1 + (r / CAUCHY / 2) ** 2),
    });
    const fromAbove = facingOf(state);
    const asked = cost + (fromAbove < 0 ? FROM_BELOW_COST : 0);
    if (fromAbove > -LOWEST_VIEW && (!best || asked < best.asked)) best = { pose: state, cost, asked };
  }
  return best;
}

/** Lines of the instrument seen beside the marks, and the solution they were looked for with. */
export interface Refinement {
  readonly from: MarksSolution;
  /** One list a marked frame. */
  readonly edges: readonly (readonly EdgeSighting[])[];
}

/** Sideways distance (sigmas) of each seen edge from the model's, at both of its ends. */
function edgeResiduals(camera: Camera, model: InstrumentModel, pose: Pose, edges: readonly EdgeSighting[], out: number[]) {
  for (const e of edges) {
    const n = Math.hypot(e.b[0] - e.a[0], e.b[1] - e.a[1]) || 1;
    const nx = -(e.b[1] - e.a[1]) / n;
    const ny = (e.b[0] - e.a[0]) / n;
    for (const [x, place, sigma] of [
      [e.from, e.a, e.sigmaA],
      [e.to, e.b, e.sigmaB],
    ] as const) {
      const image = project(camera, toOuter(pose, edgePoint(model, e.edge, x)));
      out.push(image ? ((image[0] - place[0]) * nx + (image[1] - place[1]) * ny) / sigma : 1e4);
    }
  }
}

interface State {
  readonly poses: readonly Pose[];
  readonly logFocal: number;
  readonly shape: Float64Array;
}

/** Residuals of priors come after those of the marks: log focal length, then the shape's standardised numbers. */
export function solveMarks(camera: SupposedCamera, dimensions: Dimensions, frames: readonly (readonly LandmarkSighting[])[], refine?: Refinement): MarksSolution {
  const generic = instrumentModel(dimensions);
  frames.forEach((sightings) => {
    if (sightings.length < 4) {
      throw new MarksError(`Only ${sightings.length} points of the instrument are marked in a frame; at least four are needed to place it.`);
    }
    const { longest, thinnest } = spread(sightings.map((s) => s.point));
    if (longest < 6) throw new MarksError('The marked points lie on one spot. Mark each named point at its own place.');
    if (thinnest < 0.02 * longest) {
      throw new MarksError('The marked points lie on one line, so the instrument could turn about it. Mark both sides: low-string and high-string points.');
    }
  });
  const poses = frames.map((sightings, i) => {
    if (refine) return refine.from.poses[i]!;
    const solved = solvePose(camera, generic, sightings);
    if (!solved) throw new MarksError('No position of the instrument explains these marks. Check that low and high side are not swapped.');
    return solved.pose;
  });
  const unknowns = 6 * frames.length + 1 + SHAPE.length;
  const increments = [...frames.flatMap(() => POSE_INCREMENTS), 1e-4, ...SHAPE.map(() => 1e-2)];
  const marks = 2 * frames.reduce((n, f) => n + f.length, 0);
  const priors = marks + 1 + SHAPE.length;
  const cameraOf = (state: State): Camera => ({ width: camera.width, height: camera.height, focal: camera.focal * Math.exp(state.logFocal) });
  const solved = solveLeastSquares<State>({
    start: refine
      ? { poses, logFocal: Math.log(refine.from.camera.focal / camera.focal), shape: refine.from.shape }
      : { poses, logFocal: 0, shape: Float64Array.from(DEFAULT_SHAPE as Float64Array) },
    unknowns,
    increments,
    iterations: 20,
    residuals: (state) => {
      const model = instrumentModel(dimensions, state.shape);
      const out: number[] = [];
      frames.forEach((sightings, i) => reprojection(cameraOf(state), model, state.poses[i]!, sightings, out));
      out.push(state.logFocal / (camera.logFocalSigma ?? LOG_FOCAL_SIGMA), ...state.shape);
      refine?.edges.forEach((edges, i) => edgeResiduals(cameraOf(state), model, state.poses[i]!, edges, out));
      return out;
    },
    step: (state, delta) => ({
      poses: state.poses.map((pose, i) => stepPose(pose, delta, 6 * i)),
      logFocal: state.logFocal + delta[6 * frames.length]!,
      shape: state.shape.map((x, i) => x + delta[6 * frames.length + 1 + i]!),
    }),
    // The first prior is the focal length's: a film taken with the lens zoomed in is far from it, as a mark may be from its place.
    weight: (r, i) => (i <= marks || i >= priors ? 1 / (1 + (r / CAUCHY) ** 2) : 1),
  });
  if (!solved.covariance) throw new MarksError('These marks leave the instrument free to move. Mark one or two more points.');
  const distances = frames.flatMap((sightings, frame) => sightings.map((s) => ({ frame, landmark: s.landmark, sigma: s.sigma, distance: 0 })));
  distances.forEach((d, i) => {
    d.distance = Math.hypot(solved.residuals[2 * i]!, solved.residuals[2 * i + 1]!) * d.sigma;
  });
  const worst = distances.reduce((a, b) => (b.distance > a.distance ? b : a));
  const misfit = Math.sqrt(solved.residuals.slice(0, marks).reduce((s, r) => s + r * r, 0) / marks);
  return {
    camera: cameraOf(solved.state),
    model: instrumentModel(dimensions, solved.state.shape),
    shape: solved.state.shape,
    poses: solved.state.poses,
    misfit,
    worst: { frame: worst.frame, landmark: worst.landmark, distance: worst.distance },
    cost: solved.cost,
    covariance: solved.covariance,
    unknowns,
  };
}

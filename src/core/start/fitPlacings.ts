import { type Camera, LOG_FOCAL_SIGMA, project, type SupposedCamera } from '../geometry/camera';
import { POSE_INCREMENTS, type Pose, stepPose, toOuter } from '../geometry/pose';
import type { Vec2 } from '../geometry/vec3';
import { type ContourSighting, contourPlace, contourShape } from '../instrument/contours';
import type { Dimensions } from '../instrument/dimensions';
import { type InstrumentModel, instrumentModel, SHAPE, type Shape } from '../instrument/landmarks';
import type { LandmarkSighting } from '../instrument/solveMarks';
import { solveTerms, type Term } from '../linalg/termLeastSquares';
import { INPUT } from './landmarkMaps';
import { BOX, instrumentBox } from './placeInstrument';

/** What one frame shows of the instrument: points a network saw, and edges followed about a pose. */
export interface PlacingEvidence {
  readonly pose: Pose;
  readonly points: readonly LandmarkSighting[];
  readonly edges: readonly ContourSighting[];
}

/** One instrument and camera that explain several frames. */
export interface Placings {
  readonly poses: readonly Pose[];
  readonly shape: Float64Array;
  readonly logFocal: number;
  readonly camera: Camera;
  readonly model: InstrumentModel;
}

/** What was laid on points and edges, and by how much it misses them and what is usual (squared sigmas; outliers count little). */
export interface FittedPlacings extends Placings {
  readonly cost: number;
}

/**
 * Network points err together, in all pictures of a film alike and in each a little otherwise, which says nothing about
 * the instrument; and each point by so much more. Pixels of the network's picture (ours: measured in pictures of a
 * renderer it had not learnt from).
 */
const FILM_SIGMA = 1.4;
const FRAME_SIGMA = 0.5;
export const COMMON_SIGMA = Math.hypot(FILM_SIGMA, FRAME_SIGMA);
export const POINT_SIGMA = 1.4;

/** No picture shows more than its own pixels (px at 960 across). */
const LEAST_PIXEL = 1;

/** Film pixels of one pixel in which the network saw an instrument so placed. */
export function networkPixel(camera: Camera, model: InstrumentModel, pose: Pose): number {
  const unit = Math.max(camera.width, camera.height) / 960;
  return Math.max(LEAST_PIXEL * unit, ((instrumentBox(camera, model, pose)?.side ?? 0) * BOX) / INPUT);
}

/** Neighbouring stations of a contour err together: of so many one counts. */
export const ALIKE = 4;
/** Points of the network are often off by several of their sigmas, in pictures of another renderer most of all: beyond one they lose their say (Cauchy's scale; ours, from four films of another renderer and fifteen of our own). */
const POINT_ROBUST = 1;
/** The edges are looked for anew after these, so nothing is gained by settling fully. */
const ROUNDS = 6;

/** Unknowns of a frame: its pose, then the points' common shift. */
const POSE = 6;
const LOCAL = POSE + 2;

/**
 * Poses, focal length and shape from points and edges of one or more frames, with the shape's and the camera's priors.
 * @param robust edges further off than this (sigmas) lose their say
 */
export function fitPlacings(
  camera: SupposedCamera,
  dimensions: Dimensions,
  frames: readonly PlacingEvidence[],
  from: { readonly shape: Shape; readonly logFocal: number },
  robust: number,
): FittedPlacings {
  const generic = instrumentModel(dimensions);
  const local = LOCAL * frames.length;
  const globals = 1 + SHAPE.length + 2;
  const shift = local + 1 + SHAPE.length;
  const start = new Float64Array(local + globals);
  start[local] = from.logFocal;
  for (let i = 0; i < SHAPE.length; i++) start[local + 1 + i] = from.shape[i] ?? 0;
  const focal = (logFocal: number): Camera => ({ width: camera.width, height: camera.height, focal: camera.focal * Math.exp(logFocal) });
  const shaping = contourShape();
  const terms: Term[] = frames.flatMap((frame, f): Term[] => {
    const pixel = networkPixel(camera, generic, frame.pose);
    const ofFrame = Array.from({ length: LOCAL }, (_, k) => LOCAL * f + k);
    return [
      {
        at: [...ofFrame, ...Array.from({ length: globals }, (_, k) => local + k)],
        robust: POINT_ROBUST,
        residuals: (values) => {
          const pose = stepPose(frame.pose, values);
          const c = focal(values[LOCAL]!);
          const model = instrumentModel(dimensions, values.slice(LOCAL + 1, LOCAL + 1 + SHAPE.length));
          return frame.points.flatMap((s) => {
            const sigma = Math.max(s.sigma, POINT_SIGMA * pixel);
            const image = project(c, toOuter(pose, model.landmarks[s.landmark]));
            return image ? [(image[0] + pixel * values[6]! - s.point[0]) / sigma, (image[1] + pixel * values[7]! - s.point[1]) / sigma] : [1e4, 1e4];
          });
        },
      },
      {
        at: [...ofFrame.slice(0, POSE), local, ...shaping.map((i) => local + 1 + i)],
        robust: robust / Math.sqrt(ALIKE),
        residuals: (values) => {
          const pose = stepPose(frame.pose, values);
          const c = focal(values[POSE]!);
          const shape = new Float64Array(SHAPE.length);
          shaping.forEach((i, k) => {
            shape[i] = values[POSE + 1 + k]!;
          });
          const model = instrumentModel(dimensions, shape);
          return frame.edges.map((e) => {
            const image = project(c, toOuter(pose, contourPlace(model, e.station)));
            return image ? acrossOf(image, e) / (e.sigma * Math.sqrt(ALIKE)) : 1e3;
          });
        },
      },
      {
        at: [LOCAL * f + 6, LOCAL * f + 7, shift, shift + 1],
        residuals: ([x, y, filmX, filmY]) => [(x! - filmX!) / FRAME_SIGMA, (y! - filmY!) / FRAME_SIGMA],
      },
    ];
  });
  terms.push({ at: [shift, shift + 1], residuals: (values) => values.map((v) => v / FILM_SIGMA) });
  terms.push({ at: [local], residuals: ([v]) => [v! / (camera.logFocalSigma ?? LOG_FOCAL_SIGMA)] });
  for (let i = 0; i < SHAPE.length; i++) terms.push({ at: [local + 1 + i], residuals: ([v]) => [v!] });
  const { values, cost } = solveTerms({
    start,
    local,
    half: LOCAL - 1,
    step: (i) => (i >= local ? (i === local ? 1e-4 : 1e-2) : (POSE_INCREMENTS[i % LOCAL] ?? 1e-2)),
    terms,
    rounds: ROUNDS,
  });
  const shape = values.slice(local + 1, shift);
  const logFocal = values[local]!;
  return { poses: frames.map((frame, f) => stepPose(frame.pose, values, LOCAL * f)), shape, logFocal, camera: focal(logFocal), model: instrumentModel(dimensions, shape), cost };
}

const acrossOf = (image: Vec2, { place, across }: ContourSighting): number => (image[0] - place[0]) * across[0] + (image[1] - place[1]) * across[1];

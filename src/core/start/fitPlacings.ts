import { type Camera, LOG_FOCAL_SIGMA, project, type SupposedCamera } from '../geometry/camera';
import { POSE_INCREMENTS, type Pose, stepPose, toOuter } from '../geometry/pose';
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

/** What lies behind the camera misses by so many sigmas: the step is refused. */
const BEHIND = 1e3;

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
        residuals: edgesMissed(frame, dimensions, shaping, focal),
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

/**
 * How far edges lie from an instrument's contours, in sigmas, for a step of the frame's pose, the logarithm of the focal length and
 * the numbers of the shape that move contours. A hot loop: places on the contours are worked out again only where the shape has changed.
 */
function edgesMissed({ pose, edges }: PlacingEvidence, dimensions: Dimensions, shaping: readonly number[], focal: (logFocal: number) => Camera): Term['residuals'] {
  const places = new Float64Array(3 * edges.length);
  let placed: readonly number[] = [];
  const place = (values: readonly number[]) => {
    if (placed.length > 0 && placed.every((v, k) => v === values[POSE + 1 + k])) return;
    placed = values.slice(POSE + 1);
    const shape = new Float64Array(SHAPE.length);
    shaping.forEach((i, k) => {
      shape[i] = placed[k]!;
    });
    const model = instrumentModel(dimensions, shape);
    edges.forEach((e, i) => {
      places.set(contourPlace(model, e.station), 3 * i);
    });
  };
  const seen = Float64Array.from(edges.flatMap(({ place: at, across, sigma }) => [...at, ...across.map((x) => x / (sigma * Math.sqrt(ALIKE)))]));
  return (values) => {
    place(values);
    const { rotation: r, translation: t } = stepPose(pose, values);
    const camera = focal(values[POSE]!);
    const out = new Array<number>(edges.length);
    for (let i = 0; i < edges.length; i++) {
      const a = places[3 * i]!;
      const b = places[3 * i + 1]!;
      const c = places[3 * i + 2]!;
      const depth = r[6] * a + r[7] * b + r[8] * c + t[2];
      const k = camera.focal / depth;
      const right = camera.width / 2 + k * (r[0] * a + r[1] * b + r[2] * c + t[0]) - seen[4 * i]!;
      const down = camera.height / 2 + k * (r[3] * a + r[4] * b + r[5] * c + t[1]) - seen[4 * i + 1]!;
      out[i] = depth > 1 ? right * seen[4 * i + 2]! + down * seen[4 * i + 3]! : BEHIND;
    }
    return out;
  };
}

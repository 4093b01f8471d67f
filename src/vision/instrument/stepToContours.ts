import { type Camera, project } from '../../core/geometry/camera';
import { POSE_INCREMENTS, type Pose, stepPose, toOuter } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import { type ContourSighting, contourPlace } from '../../core/instrument/contours';
import type { InstrumentLandmark, InstrumentModel } from '../../core/instrument/landmarks';
import type { LandmarkSighting } from '../../core/instrument/solveMarks';
import { solveLeastSquares } from '../../core/linalg/leastSquares';
import { ALIKE } from '../../core/start/fitPlacings';
import type { ColourPicture } from '../image/colourPicture';
import { contourEdges } from './contourEdges';
import { contourProfiles } from './contourSearch';
import type { BowInPicture } from './keyFrame';

/** Reach to both sides of the looks (px at 960 across; ours). */
const SEARCH = [4, 3, 2];
/** How far the followed pose may be off in the picture, px at 960 across (ours: tracked outlines were off by up to 3, where the instrument is small). */
const FOLLOWED = 1.5;
/** And where points tell, for they are asked for an instrument that slides (ours). */
const SLIDING = 4;
/** Edges further off than this (sigmas) lose their say (ours). */
const ROBUST = 2;
const LEAST_EDGES = 40;
const ITERATIONS = 6;
const HELD: readonly InstrumentLandmark[] = ['instrument.scroll', 'instrument.endButton', 'instrument.lowerCorner.low', 'instrument.lowerCorner.high'];

/** What else shows in the picture: a bow that covers contours, and points of the instrument where they were found. */
interface Beside {
  readonly bow?: BowInPicture | undefined;
  readonly points?: readonly LandmarkSighting[];
}

/** The step that lays a followed instrument on the edges of its picture, and on its points (see stepPose); undefined where too few edges show. */
export function stepToContours(picture: ColourPicture, camera: Camera, model: InstrumentModel, followed: Pose, { bow, points = [] }: Beside = {}): Float64Array | undefined {
  const unit = Math.max(picture.width, picture.height) / 960;
  const held = HELD.map((name) => model.landmarks[name]);
  const places = held.map((p) => project(camera, toOuter(followed, p)));
  const followedSigma = (points.length > 0 ? SLIDING : FOLLOWED) * unit;
  let step = new Float64Array(6);
  for (const search of SEARCH) {
    const pose = stepPose(followed, step);
    const edges = contourEdges(contourProfiles(picture, camera, model, pose, search, bow), camera, pose, unit);
    if (edges.length < LEAST_EDGES) return undefined;
    const across = (image: Vec2, { place, across: a }: ContourSighting) => (image[0] - place[0]) * a[0] + (image[1] - place[1]) * a[1];
    const solved = solveLeastSquares<Float64Array>({
      start: step,
      unknowns: 6,
      increments: POSE_INCREMENTS,
      iterations: ITERATIONS,
      weight: (r, i) => (i < edges.length ? 1 / (1 + (r / ROBUST) ** 2 * ALIKE) : 1),
      residuals: (s) => {
        const here = stepPose(followed, s);
        return [
          ...edges.map((e) => {
            const image = project(camera, toOuter(here, contourPlace(model, e.station)));
            return image ? across(image, e) / (e.sigma * Math.sqrt(ALIKE)) : 1e3;
          }),
          ...points.flatMap(({ landmark, point, sigma }) => {
            const image = project(camera, toOuter(here, model.landmarks[landmark]));
            return image ? [(image[0] - point[0]) / sigma, (image[1] - point[1]) / sigma] : [0, 0];
          }),
          ...held.flatMap((p, k) => {
            const [image, was] = [project(camera, toOuter(here, p)), places[k]];
            return image && was ? [(image[0] - was[0]) / followedSigma, (image[1] - was[1]) / followedSigma] : [0, 0];
          }),
        ];
      },
      step: (s, d) => s.map((v, i) => v + d[i]!),
    });
    step = Float64Array.from(solved.state);
  }
  return step;
}

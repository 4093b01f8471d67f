import { type Camera, project } from '../geometry/camera';
import { POSE_INCREMENTS, type Pose, stepInside, toOuter } from '../geometry/pose';
import { INSTRUMENT_LANDMARKS, type InstrumentModel } from '../instrument/landmarks';
import { solveLeastSquares } from '../linalg/leastSquares';

/** Found placings of one film lie about so far from each other (px at 960 across, ours); what lies much further off counts little. */
const APART = 2;
/** More than this (radians, mm, ours) no found placing is off: what the picture hardly tells, as depth, stays. */
const MOST = { turn: 0.05, shift: 30 } as const;

/** A frame of a film twice: as an instrument placed in another frame is known again in it, and as it was found there by itself. */
export interface PlacedTwice {
  readonly followed: Pose;
  readonly found: Pose;
}

/**
 * The one step in the instrument's own axes (see stepInside) that lays the followed poses nearest to the found ones in
 * the picture, in all frames together: by so much the instrument was placed wrongly in the frame it is followed from, as
 * far as the others tell. That frame itself counts with a pose that is followed where it was found.
 */
export function commonStep(camera: Camera, model: InstrumentModel, frames: readonly PlacedTwice[]): Float64Array {
  const sigma = (APART * Math.max(camera.width, camera.height)) / 960;
  const places = INSTRUMENT_LANDMARKS.map((l) => model.landmarks[l]);
  const seen = (pose: Pose) => places.map((p) => project(camera, toOuter(pose, p)));
  const found = frames.map((f) => seen(f.found));
  const alike = Math.sqrt(places.length);
  return solveLeastSquares<Float64Array>({
    start: new Float64Array(6),
    unknowns: 6,
    increments: POSE_INCREMENTS,
    residuals: (step) => [
      ...frames.flatMap(({ followed }, f) =>
        seen(stepInside(followed, step)).flatMap((p, i) => {
          const q = found[f]![i];
          return p && q ? [(p[0] - q[0]) / (sigma * alike), (p[1] - q[1]) / (sigma * alike)] : [0, 0];
        }),
      ),
      ...Array.from(step, (v, i) => v / (i < 3 ? MOST.turn : MOST.shift)),
    ],
    // Cauchy's, at two of what is usual; the priors keep theirs.
    weight: (r, i) => (i < 2 * places.length * frames.length ? 1 / (1 + (r * alike) ** 2 / 4) : 1),
    step: (step, delta) => step.map((v, i) => v + delta[i]!),
  }).state;
}

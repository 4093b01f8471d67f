import { type Camera, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { mix, type Vec2 } from '../geometry/vec3';
import type { InstrumentModel } from '../instrument/landmarks';
import { usualLeftHand } from './leftHand';

/** A square of the picture that holds a hand, px. */
export interface HandSquare {
  readonly centre: Vec2;
  readonly side: number;
}

/** Side of a square that holds a hand, as a share of the player's height (ours). */
const SIDE = 0.153;

/** Where a hand at the neck of a violin or viola must be in the picture. `stature`: the player's height, mm. Undefined behind the camera. */
export function neckHandPlace(camera: Camera, pose: Pose, model: InstrumentModel, stature: number): HandSquare | undefined {
  const { knuckle, wrist } = usualLeftHand(model.stringLength, model.landmarks['instrument.nut.high'], stature);
  // The fingers lie over the board, beyond the knuckles.
  const middle = toOuter(pose, mix(knuckle, wrist, 0.35));
  const centre = project(camera, middle);
  return centre && { centre: [centre[0], centre[1]], side: (SIDE * stature * camera.focal) / middle[2] };
}

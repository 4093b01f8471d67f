import { type Camera, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { mix } from '../geometry/vec3';
import type { InstrumentModel } from '../instrument/landmarks';
import { usualLeftHand } from './leftHand';
import type { PartSquare } from './partSquare';

/** Side of a square that holds a hand, as a share of the player's height (ours). */
const SIDE = 0.153;

/** Where a hand at the neck of a violin or viola must be in the picture. `stature`: the player's height, mm. Undefined behind the camera. */
export function neckHandPlace(camera: Camera, pose: Pose, model: InstrumentModel, stature: number): PartSquare | undefined {
  const { knuckle, wrist } = usualLeftHand(model.stringLength, model.landmarks['instrument.nut.high'], stature);
  // The fingers lie over the board, beyond the knuckles.
  const middle = toOuter(pose, mix(knuckle, wrist, 0.35));
  const centre = project(camera, middle);
  return centre && { centre: [centre[0], centre[1]], side: (SIDE * stature * camera.focal) / middle[2] };
}

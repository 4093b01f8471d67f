import type { HairEnds } from '../../core/bow/sighting';
import type { Camera } from '../../core/geometry/camera';
import type { Pose } from '../../core/geometry/pose';
import type { InstrumentModel } from '../../core/instrument/landmarks';
import { colourPicture } from '../image/colourPicture';
import { stepToContours } from '../instrument/stepToContours';
import { type FrameEyes, seenPictures } from './frameEyes';
import { lookAtPoints } from './lookClosely';

/** What the steps of a film are taken from: contours alone, or contours and points found in the picture too, for a film seen from low over the plate. */
export type Witness = 'contours' | 'points';

/** A frame in which the instrument was followed, and where the bow covers it. */
export interface ContourAsk {
  readonly index: number;
  readonly pose: Pose;
  readonly bow: HairEnds | undefined;
}

/** By which step (see stepPose) what a witness sees in a frame lies elsewhere than the followed instrument has it; frames that do not show enough of the contours are left out. */
export type LookAtContours = (camera: Camera, model: InstrumentModel, asks: readonly ContourAsk[], witness: Witness) => Promise<ReadonlyMap<number, Float64Array>>;

export async function lookAtContours(eyes: FrameEyes, camera: Camera, model: InstrumentModel, asks: readonly ContourAsk[], witness: Witness): Promise<Map<number, Float64Array>> {
  const out = new Map<number, Float64Array>();
  const byIndex = new Map(asks.map((a) => [a.index, a]));
  for await (const { index, picture } of seenPictures(eyes, [...byIndex.keys()])) {
    const { pose, bow } = byIndex.get(index)!;
    const points = witness === 'points' ? await lookAtPoints((squares) => eyes.look(picture, squares), camera, model, pose) : [];
    const step = stepToContours(colourPicture(picture), camera, model, pose, { bow, points });
    if (step) out.set(index, step);
  }
  return out;
}

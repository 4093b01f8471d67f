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

/** Looks at the film's pictures, but for those in which the step is `known` (a picture may show too little to tell it). */
export async function lookAtContours(
  eyes: FrameEyes,
  camera: Camera,
  model: InstrumentModel,
  asks: readonly ContourAsk[],
  witness: Witness,
  known: (ask: ContourAsk) => { readonly step: Float64Array | undefined } | undefined,
): Promise<Map<number, Float64Array>> {
  const out = new Map<number, Float64Array>();
  const tell = (index: number, step: Float64Array | undefined) => {
    if (step) out.set(index, step);
  };
  const open = new Map<number, ContourAsk>();
  for (const ask of asks) {
    const seen = known(ask);
    if (seen) tell(ask.index, seen.step);
    else open.set(ask.index, ask);
  }
  for await (const { index, picture } of seenPictures(eyes, [...open.keys()])) {
    const { pose, bow } = open.get(index)!;
    const points = witness === 'points' ? await lookAtPoints((squares) => eyes.look(picture, squares), camera, model, pose) : [];
    tell(index, stepToContours(colourPicture(picture), camera, model, pose, { bow, points }));
  }
  return out;
}

import type { HairEnds } from '../../core/bow/sighting';
import type { Camera } from '../../core/geometry/camera';
import type { Pose } from '../../core/geometry/pose';
import type { InstrumentModel } from '../../core/instrument/landmarks';
import { colourPicture } from '../image/colourPicture';
import { stepToContours } from '../instrument/stepToContours';
import { type FrameEyes, seenPictures } from './frameEyes';

/** A frame in which the instrument was followed, and where the bow covers it. */
export interface ContourAsk {
  readonly index: number;
  readonly pose: Pose;
  readonly bow: HairEnds | undefined;
}

/** By which step (see stepPose) the contours in a frame lie elsewhere than the followed instrument has them; frames that do not show enough of them are left out. */
export type LookAtContours = (camera: Camera, model: InstrumentModel, asks: readonly ContourAsk[]) => Promise<ReadonlyMap<number, Float64Array>>;

export async function lookAtContours(
  eyes: Pick<FrameEyes, 'pictures' | 'mirror'>,
  camera: Camera,
  model: InstrumentModel,
  asks: readonly ContourAsk[],
): Promise<Map<number, Float64Array>> {
  const out = new Map<number, Float64Array>();
  const byIndex = new Map(asks.map((a) => [a.index, a]));
  for await (const { index, picture } of seenPictures(eyes, [...byIndex.keys()])) {
    const { pose, bow } = byIndex.get(index)!;
    const step = stepToContours(colourPicture(picture), camera, model, pose, bow);
    if (step) out.set(index, step);
  }
  return out;
}

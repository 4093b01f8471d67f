import type { Camera } from '../../core/geometry/camera';
import type { Pose } from '../../core/geometry/pose';
import type { InstrumentModel } from '../../core/instrument/landmarks';
import { fuseLooks } from '../../core/start/fuse';
import { instrumentBox, placeInstrument } from '../../core/start/placeInstrument';
import type { Square } from '../../core/start/square';
import { type FrameEyes, seenPictures } from './frameEyes';
import { lookClosely, squaresAbout, TURNS, withinPicture } from './lookClosely';

/** A frame in which the instrument was lost, and where it was last known. */
export interface InstrumentAsk {
  readonly index: number;
  readonly near: Pose;
}

/** Looks for the instrument afresh; frames in which it does not show clearly are left out. */
export type LookForInstrument = (camera: Camera, model: InstrumentModel, asks: readonly InstrumentAsk[]) => Promise<ReadonlyMap<number, Pose>>;

/** The box about where it was last known, at these factors: it may have moved. */
const WIDE = [1.5, 2.2];
/** A placing must rest on so much, and miss its points by no more than this share of its length (ours). */
const LEAST_SUPPORT = 0.45;
const MOST_MISFIT = 0.02;

/** The landmark network looks for an instrument that was lost, wide first, then closer. Poses are only starts: whoever follows from them must know the instrument again. */
export async function lookForInstrument(eyes: FrameEyes, camera: Camera, model: InstrumentModel, asks: readonly InstrumentAsk[]): Promise<Map<number, Pose>> {
  const out = new Map<number, Pose>();
  const byIndex = new Map(asks.map((a) => [a.index, a]));
  for await (const { index, picture } of seenPictures(eyes, [...byIndex.keys()])) {
    const look = (squares: readonly Square[]) => eyes.look(picture, squares);
    const box = instrumentBox(camera, model, byIndex.get(index)!.near);
    const wide = box && placeInstrument(camera, model, withinPicture(camera, fuseLooks(await look(squaresAbout(box, WIDE, TURNS)))));
    const placed = wide && (await lookClosely(look, camera, model, wide.pose));
    if (!placed) continue;
    if (placed.support > LEAST_SUPPORT && placed.misfit < MOST_MISFIT) out.set(index, placed.pose);
  }
  return out;
}

import type { Camera } from '../../core/geometry/camera';
import type { Pose } from '../../core/geometry/pose';
import { INSTRUMENT_LANDMARKS, type InstrumentModel } from '../../core/instrument/landmarks';
import { fuseLooks } from '../../core/start/fuse';
import { instrumentBox, type PlacedInstrument, placeInstrument } from '../../core/start/placeInstrument';
import { type FrameEyes, seenPictures } from './frameEyes';

/** A frame in which the instrument was lost, and where it was last known. */
export interface InstrumentAsk {
  readonly index: number;
  readonly near: Pose;
}

/** Looks for the instrument afresh; frames in which it does not show clearly are left out. */
export type LookForInstrument = (camera: Camera, model: InstrumentModel, asks: readonly InstrumentAsk[]) => Promise<ReadonlyMap<number, Pose>>;

/** The box about where it was last known, at these factors and turns (radians): it may have moved. Then its own box, then its body from close by. */
const WIDE = [1.5, 2.2];
const BOX = [1.4];
const CLOSE = [1.5];
const TURNS = [0, 0.175, -0.175];
const CLOSE_TURNS = [0.1, -0.1];
const BODY_POINTS = INSTRUMENT_LANDMARKS.filter((name) => !/scroll|nut/.test(name));
/** A placing must rest on so much, and miss its points by no more than this share of its length (ours). */
const LEAST_SUPPORT = 0.45;
const MOST_MISFIT = 0.02;

/** The landmark network looks for an instrument that was lost, wide first, then closer. Poses are only starts: whoever follows from them must know the instrument again. */
export async function lookForInstrument(eyes: FrameEyes, camera: Camera, model: InstrumentModel, asks: readonly InstrumentAsk[]): Promise<Map<number, Pose>> {
  const out = new Map<number, Pose>();
  const byIndex = new Map(asks.map((a) => [a.index, a]));
  for await (const { index, picture } of seenPictures(eyes, [...byIndex.keys()])) {
    const looksAt = async (pose: Pose, factors: readonly number[], turns: readonly number[], points?: typeof BODY_POINTS) => {
      const box = instrumentBox(camera, model, pose, points);
      return box
        ? eyes.look(
            picture,
            factors.flatMap((k) => turns.map((turn) => ({ middle: box.middle, side: k * box.side, turn }))),
          )
        : [];
    };
    const place = (looks: Awaited<ReturnType<typeof looksAt>>, near?: Pose): PlacedInstrument | undefined =>
      looks.length > 0 ? placeInstrument(camera, model, fuseLooks(looks), near) : undefined;
    const first = place(await looksAt(byIndex.get(index)!.near, WIDE, TURNS));
    if (!first) continue;
    const whole = await looksAt(first.pose, BOX, TURNS);
    const again = place(whole);
    if (!again) continue;
    const placed = place([...whole, ...(await looksAt(again.pose, CLOSE, CLOSE_TURNS, BODY_POINTS))], again.pose) ?? again;
    if (placed.support > LEAST_SUPPORT && placed.misfit < MOST_MISFIT) out.set(index, placed.pose);
  }
  return out;
}

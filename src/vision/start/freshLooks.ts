import type { BowContext } from '../../core/bow/residuals';
import { endsApart, type HairEnds } from '../../core/bow/sighting';
import type { Camera } from '../../core/geometry/camera';
import type { Pose } from '../../core/geometry/pose';
import type { InstrumentModel } from '../../core/instrument/landmarks';
import { colourPicture } from '../image/colourPicture';
import { stepToContours } from '../instrument/stepToContours';
import { type FrameEyes, seenPicture } from './frameEyes';
import { type ContourAsk, type LookAtContours, lookAtContours } from './lookAtContours';
import { type BowAsk, type BowEnds, bowEndsIn, type LookForBow, lookForBow } from './lookForBow';
import { type LookForInstrument, lookForInstrument } from './lookForInstrument';

/** A bow that covers contours may lie otherwise by so much (px at 960) before they must be looked at again (ours: it is covered by more). */
const SAME_BOW = 3;

/** A frame as it was followed, and what is to be seen in its picture. */
export interface Glance {
  readonly index: number;
  readonly pose: Pose;
  /** Where the bow is looked for: the network's ends of it are kept. */
  readonly bow?: BowContext | undefined;
  /** Where the contours are looked at, and the bow that covers them. */
  readonly contours?: { readonly camera: Camera; readonly model: InstrumentModel; readonly covered: HairEnds | undefined } | undefined;
}

/**
 * Looks at bow and instrument afresh in some frames of a film. What was seen at a glance, while the picture was at hand,
 * is remembered: the film is read again only for the rest.
 */
export class FreshLooks {
  private readonly ends = new Map<number, { readonly pose: Pose; readonly ends: BowEnds }>();
  private readonly steps = new Map<number, ContourAsk & { readonly step: Float64Array | undefined }>();

  constructor(private readonly eyes: FrameEyes) {}

  /** Takes a picture as it was filmed, and closes it. */
  async glance(filmed: ImageBitmap, { index, pose, bow, contours }: Glance): Promise<void> {
    const picture = seenPicture(this.eyes, filmed);
    try {
      const ends = bow && (await bowEndsIn(picture, this.eyes.look, bow, pose));
      if (ends) this.ends.set(index, { pose, ends });
      if (!contours) return;
      const { camera, model, covered } = contours;
      this.steps.set(index, { index, pose, bow: covered, step: stepToContours(colourPicture(picture), camera, model, pose, { bow: covered }) });
    } finally {
      picture.close();
    }
  }

  readonly bow: LookForBow = (context, asks) => {
    const known = ({ index, pose }: BowAsk) => {
      const seen = this.ends.get(index);
      return seen?.pose === pose ? seen.ends : undefined;
    };
    return lookForBow(this.eyes, context, asks, known);
  };

  readonly instrument: LookForInstrument = (camera, model, asks) => lookForInstrument(this.eyes, camera, model, asks);

  readonly contours: LookAtContours = (camera, model, asks, witness) => {
    const unit = Math.max(camera.width, camera.height) / 960;
    const known = ({ index, pose, bow }: ContourAsk) => {
      const seen = witness === 'contours' ? this.steps.get(index) : undefined;
      const same = seen?.bow && bow ? endsApart(seen.bow, bow) < SAME_BOW * unit : seen?.bow === bow;
      return seen?.pose === pose && same ? seen : undefined;
    };
    return lookAtContours(this.eyes, camera, model, asks, witness, known);
  };
}

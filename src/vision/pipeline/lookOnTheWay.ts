import type { BowContext } from '../../core/bow/residuals';
import { hairEndsOf } from '../../core/bow/sighting';
import type { Pose } from '../../core/geometry/pose';
import type { MarksSolution } from '../../core/instrument/solveMarks';
import type { TrackedFrame } from '../../core/measures/measureFrames';
import type { InColour } from '../film/frame';
import { spaced } from '../film/spaced';
import type { FreshLooks } from '../start/freshLooks';
import { LOOK_AT_BOW_EVERY } from './mendBow';
import { LOOK_AT_CONTOURS_EVERY, tellsByContours, witnessFor } from './settleInstrument';

/** Where the instrument is followed little more surely than where contours are asked about, pictures are taken to be at hand when it is not (ours). */
const NEARLY = 0.03;

/**
 * Glances at the frames about which bow and contours will be asked, while the film is followed: reading it once more for
 * them took a third of the measuring (60 s of 720p). Without a `context` the film shows no bow to look at.
 */
export class LookOnTheWay {
  private readonly bows: ReadonlySet<number>;
  private readonly contours: ReadonlySet<number>;
  private readonly marks: readonly number[];
  /** How surely the last frame was followed. */
  private quality = 1;

  constructor(
    private readonly glance: FreshLooks['glance'],
    private readonly solution: Pick<MarksSolution, 'camera' | 'model'>,
    private readonly context: BowContext | undefined,
    private readonly times: Float64Array,
    marked: readonly { readonly index: number; readonly pose: Pose }[],
  ) {
    const every = (seconds: number) => new Set(spaced([...times.keys()], (i) => times[i]!, seconds));
    const { camera, model } = solution;
    const byContours =
      witnessFor(
        marked.map((m) => m.pose),
        camera,
        model,
      ) === 'contours';
    this.bows = context ? every(LOOK_AT_BOW_EVERY) : new Set();
    this.contours = byContours ? every(LOOK_AT_CONTOURS_EVERY) : new Set();
    this.marks = marked.map((m) => times[m.index]!);
  }

  /** Frames whose pictures are asked for; what turns out to be wanted besides must be read again. */
  readonly wants: InColour = (index) =>
    this.bows.has(index) || (this.contours.has(index) && tellsByContours({ t: this.times[index]!, quality: this.quality - NEARLY }, this.marks));

  /** Takes a frame that was followed, and its picture, which it closes, where that was asked for. */
  async see(frame: TrackedFrame, picture: ImageBitmap | undefined): Promise<void> {
    const { index, pose, quality, sighting } = frame;
    this.quality = quality;
    if (!picture) return;
    const bow = this.bows.has(index) ? this.context : undefined;
    const contours = this.contours.has(index) && tellsByContours(frame, this.marks) ? { ...this.solution, covered: hairEndsOf(sighting) } : undefined;
    if (pose && (bow || contours)) await this.glance(picture, { index, pose, bow, contours });
    else picture.close();
  }
}

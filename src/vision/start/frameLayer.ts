import type { BowContext } from '../../core/bow/residuals';
import { type FilmedPicture, project, type SupposedCamera, supposedCamera } from '../../core/geometry/camera';
import { zoomOfLens } from '../../core/geometry/otherLenses';
import { toOuter } from '../../core/geometry/pose';
import { type Dimensions, dimensionsOf } from '../../core/instrument/dimensions';
import { INSTRUMENT_LANDMARKS, instrumentModel } from '../../core/instrument/landmarks';
import { bowContextFor } from '../../core/measures/measureFrames';
import { lensByPoints } from '../../core/start/lensByPoints';
import { type FrameLook, isTrusted } from '../../core/start/outcome';
import type { PlacedInstrument } from '../../core/start/placeInstrument';
import type { KnownOfClip } from '../../core/start/startMarks';
import { colourPicture } from '../image/colourPicture';
import { lumaOf } from '../image/gray';
import { alignContours, alignTogether, type FrameToAlign } from './alignContours';
import { type BowFound, bowAnywhere, bowBetween } from './bowBetween';
import type { BowEnds } from './lookForBow';

/** A frame in which the network placed the instrument, and where it saw the bow's ends. */
export type PlacedLook = FrameLook & { readonly placed: PlacedInstrument };

/** Frames that agree, solved for one instrument and one camera. */
export interface SolvedStarts {
  /** Says another lens where nobody did and the points do. */
  readonly filmed: FilmedPicture;
  readonly starts: readonly FrameLook[];
}

/** Lays what the network saw on what the pictures show: instruments on their contours, bows on hair and stick. It remembers the frames of one film. */
export interface FrameLayer {
  /** The instrument laid on its contours and, where it then can be trusted, the bow. */
  lay(picture: ImageBitmap, look: PlacedLook, ends: BowEnds): Promise<FrameLook>;
  /** The slow search for the bow all over a frame laid before, should no other show it. */
  bowAnywhere(index: number): Promise<BowFound | undefined>;
  /** Frames laid before, solved together; their points are then those of the solution. */
  together(starts: readonly FrameLook[]): Promise<SolvedStarts>;
}

/** Opens a layer for a film. `filmed`: with the zoom to go by, absent where nobody and nothing said it. */
export type OpenFrameLayer = (filmed: FilmedPicture, known: KnownOfClip) => FrameLayer;

interface LaidFrame extends FrameToAlign {
  readonly ends: BowEnds;
}

/** Lays frames on the thread it is called on. */
export class FrameLayerHere implements FrameLayer {
  private readonly camera: SupposedCamera;
  private readonly unit: number;
  private readonly dimensions: Dimensions;
  private readonly context: BowContext;
  private readonly laid = new Map<number, LaidFrame>();

  constructor(
    private readonly filmed: FilmedPicture,
    { family, size }: KnownOfClip,
  ) {
    this.camera = supposedCamera(filmed);
    this.unit = Math.max(filmed.width, filmed.height) / 960;
    this.dimensions = dimensionsOf(family, size);
    this.context = bowContextFor(this.camera, instrumentModel(this.dimensions), family, this.dimensions);
  }

  async lay(picture: ImageBitmap, look: PlacedLook, ends: BowEnds): Promise<FrameLook> {
    const colours = colourPicture(picture);
    const { fit, edges, points } = alignContours(colours, this.camera, this.dimensions, look.placed.pose, look.placed.sightings);
    this.laid.set(look.index, { picture: colours, placed: fit, points, ends });
    const laid = { ...look, placed: { ...look.placed, pose: fit.poses[0]!, edges } };
    return isTrusted(laid, this.unit) ? { ...laid, bow: this.bow(look.index, bowBetween) } : laid;
  }

  async bowAnywhere(index: number): Promise<BowFound | undefined> {
    return this.bow(index, bowAnywhere);
  }

  async together(starts: readonly FrameLook[]): Promise<SolvedStarts> {
    const frames = starts.map(({ index, bow }) => ({ ...this.laid.get(index)!, bow }));
    const lens = this.filmed.zoom === undefined ? this.lensByPoints(frames) : undefined;
    const fit = lens ? alignTogether(lens.supposed, this.dimensions, lens.frames) : alignTogether(this.camera, this.dimensions, frames);
    const solved = starts.map((look, i) => ({
      ...look,
      placed: {
        ...look.placed!,
        pose: fit.poses[i]!,
        sightings: INSTRUMENT_LANDMARKS.flatMap((landmark) => {
          const point = project(fit.camera, toOuter(fit.poses[i]!, fit.model.landmarks[landmark]));
          return point ? [{ landmark, point, sigma: this.unit }] : [];
        }),
      },
    }));
    return { filmed: lens ? { ...this.filmed, zoom: zoomOfLens(fit.camera.focal, this.camera.focal) } : this.filmed, starts: solved };
  }

  private bow(index: number, find: typeof bowBetween): BowFound | undefined {
    const frame = this.laid.get(index);
    if (!frame) return undefined;
    const { width, height, data } = frame.picture;
    return find({ index, t: 0, width, height, luma: lumaOf(data) }, frame.placed.poses[0]!, this.context, frame.ends.frog, frame.ends.tip);
  }

  /** The lens the network's points speak for where it is not the main one, and the frames as placed through it. */
  private lensByPoints(frames: readonly FrameToAlign[]): { readonly supposed: SupposedCamera; readonly frames: readonly FrameToAlign[] } | undefined {
    const seen = frames.map(({ placed, points }) => ({ pose: placed.poses[0]!, points }));
    const found = lensByPoints(this.camera, this.dimensions, seen);
    return found && { supposed: found.supposed, frames: frames.map((frame, f) => ({ ...frame, placed: { ...found, poses: [found.poses[f]!] } })) };
  }
}

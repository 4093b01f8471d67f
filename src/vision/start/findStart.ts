import type { BodyJoint, Joints } from '../../core/body/sighting';
import type { BowContext } from '../../core/bow/residuals';
import type { Marks } from '../../core/formats/marks';
import { type FilmedPicture, project, type SupposedCamera, supposedCamera } from '../../core/geometry/camera';
import { zoomOfLens } from '../../core/geometry/otherLenses';
import { toOuter } from '../../core/geometry/pose';
import { type Dimensions, dimensionsOf } from '../../core/instrument/dimensions';
import { INSTRUMENT_LANDMARKS, instrumentModel } from '../../core/instrument/landmarks';
import { bowContextFor } from '../../core/measures/measureFrames';
import { chooseStart } from '../../core/start/chooseStart';
import { type FusedPoint, fuseLooks, type Look } from '../../core/start/fuse';
import { lensByPoints } from '../../core/start/lensByPoints';
import { type FrameLook, isTrusted, type Refusal, worthOf } from '../../core/start/outcome';
import { instrumentBox, type PlacedInstrument, placeInstrument } from '../../core/start/placeInstrument';
import { playerRegion, type Region } from '../../core/start/playerRegion';
import type { Square } from '../../core/start/square';
import { type KnownOfClip, startMarks } from '../../core/start/startMarks';
import { type Clearing, clearPictures } from '../film/clearPictures';
import type { FilmPicture } from '../film/frame';
import { lumaFrame } from '../film/lumaFrame';
import { mirroredPicture } from '../film/mirror';
import { colourPicture } from '../image/colourPicture';
import { alignContours, alignTogether, type FrameToAlign } from './alignContours';
import { type BowFound, bowAnywhere, bowBetween } from './bowBetween';
import { lookClosely, squaresAbout, withinPicture } from './lookClosely';

/** A frame to start from, its points as marks. */
export interface StartCandidate {
  readonly frame: number;
  readonly marks: Marks;
}

/** Frames to start from, the best first; or why there is none. */
export type Start = { readonly candidates: readonly StartCandidate[]; readonly looks: readonly FrameLook[] } | { readonly refused: Refusal; readonly looks: readonly FrameLook[] };

export interface StartEyes {
  /** The people in a picture, the plainest to see first; may go on beside what else is looked at. */
  findPeople(picture: ImageBitmap): Promise<Joints[]>;
  look(picture: ImageBitmap, squares: readonly Square[]): Promise<Look[]>;
}

export interface StartFilm extends FilmedPicture {
  readonly times: Float64Array;
  pictures(frames: readonly number[]): AsyncIterable<FilmPicture>;
}

/** Frames spread over the film: every other one is looked at first, the rest only where those are not enough. */
const FRAMES = 10;
/** So many of them are looked at closely at most, after the first round and in all. */
const CLOSELY = [5, 8] as const;
/** So many that agree, with the bow seen so surely in the best of them, are enough (the tips of less sure bows lay off by 7 to 60 per cent of their length in 14 of 29 pictures, of surer ones in none of 72; ours, 31 films of two renderers). */
const ENOUGH = { frames: 4, bow: 0.65 } as const;
/** Frames searched all over for a bow when none shows it clearly. */
const SEARCHED = 3;
/** The region's side is shown to the network at these factors: at first, then for the instrument and for the bow. */
const FIRST = 1.1;
const WIDE = [0.85, 1.4];
const FOR_BOW = [1.15, 1.5, 1.9];

/** What a sharper picture may still show: blur makes points uncertain and edges weak. */
const BLURRED: readonly Refusal[] = ['not-found', 'disagree', 'edge-on', 'no-bow'];

/** How far a search is; `again` where sharpened pictures are looked at, after the first search was in vain. */
export type OnLook = (done: number, total: number, again: boolean) => void;

/** Looks for the instrument and the bow in a film nobody has marked; where nothing can be trusted, once more in sharpened pictures. */
export async function findStart(film: StartFilm, known: KnownOfClip, eyes: StartEyes, onLook?: OnLook): Promise<Start> {
  const total = FRAMES + CLOSELY.at(-1)!;
  const first = await seek(new StartSeeker(film, known, eyes, 'lifted'), (done) => onLook?.(done, total, false));
  if (!('refused' in first) || !BLURRED.includes(first.refused)) return first;
  const again = await seek(new StartSeeker(film, known, eyes, 'sharpened'), (done) => onLook?.(done, total, true));
  return 'refused' in again ? first : again;
}

async function seek(seeker: StartSeeker, onProgress: (done: number) => void): Promise<Start> {
  const { film, known } = seeker;
  const frames = spread(film.times.length, FRAMES);
  const inRound = (round: number) => frames.filter((_, i) => i % CLOSELY.length === round);
  const firsts: (FirstLook & { readonly picture: ImageBitmap })[] = [];
  const close = new Map<FirstLook, FrameLook>();
  const pictures: ImageBitmap[] = [];
  try {
    for (const [round, most] of CLOSELY.entries()) {
      for (const read of await seeker.readRound(inRound(round), pictures)) {
        firsts.push({ ...(await seeker.first(read)), picture: read.picture });
        onProgress(firsts.length + close.size);
      }
      const best = firsts.filter((f) => f.look.placed && !close.has(f)).sort((a, b) => worthOf(b.look) - worthOf(a.look));
      for (const f of best) {
        if (close.size >= most || isEnough([...close.values()], seeker.unit)) break;
        close.set(f, await seeker.closely(f, f.picture));
        onProgress(firsts.length + close.size);
      }
      if (isEnough([...close.values()], seeker.unit)) break;
    }
    // What only a wide look found has no say.
    const looks = firsts.map((f) => close.get(f) ?? { ...f.look, placed: undefined });
    const choice = chooseStart(seeker.withBow(looks), seeker.unit);
    if ('refused' in choice) return { refused: choice.refused, looks };
    const { filmed, starts } = seeker.together(choice.starts);
    return {
      candidates: starts.map((look, _, all) => ({
        frame: look.index,
        marks: startMarks(
          filmed,
          known,
          look,
          all.filter((l) => l !== look),
        ),
      })),
      looks,
    };
  } finally {
    for (const picture of pictures) picture.close();
  }
}

const spread = (frames: number, count: number): number[] => [...new Set(Array.from({ length: count }, (_, i) => Math.min(frames - 1, Math.floor(((i + 0.5) * frames) / count))))];

function isEnough(looks: readonly FrameLook[], unit: number): boolean {
  if (looks.length < ENOUGH.frames) return false;
  const choice = chooseStart(looks, unit);
  return 'starts' in choice && choice.starts.length >= ENOUGH.frames && (choice.starts[0]!.bow?.sure ?? 0) >= ENOUGH.bow;
}

/** A frame's picture, the brightness it was filmed with, and the people in it as soon as they are found. */
interface ReadPicture {
  readonly index: number;
  readonly picture: ImageBitmap;
  readonly light: number;
  readonly people: Promise<Joints[]>;
}

/** What one wide look at a frame gave. */
interface FirstLook {
  readonly look: FrameLook;
  readonly region: Region | undefined;
  /** As the network saw it. */
  readonly seen: readonly Look[];
}

class StartSeeker {
  /** What the teacher said of the lens goes before what the file notes. */
  readonly filmed: FilmedPicture;
  readonly camera: SupposedCamera;
  readonly unit: number;
  private readonly mirror: boolean;
  private readonly dimensions: Dimensions;
  private readonly context: BowContext;
  private readonly model;
  /** Frames laid on their contours: picture and placing. */
  private readonly laid = new Map<number, FrameToAlign>();

  /** The slow search for the bow in a frame, should no other show it. */
  private readonly anywhere = new Map<number, () => BowFound | undefined>();

  constructor(
    readonly film: StartFilm,
    readonly known: KnownOfClip,
    private readonly eyes: StartEyes,
    private readonly clearing: Clearing,
  ) {
    this.filmed = { width: film.width, height: film.height, zoom: known.zoom ?? film.zoom };
    this.camera = supposedCamera(this.filmed);
    this.unit = Math.max(film.width, film.height) / 960;
    this.mirror = known.side === 'left';
    this.dimensions = dimensionsOf(known.family, known.size);
    this.model = instrumentModel(this.dimensions);
    this.context = bowContextFor(this.camera, this.model, known.family, this.dimensions);
  }

  /** Pictures of the frames asked for, mirrored for a left-handed player, each told to `opened`, to be closed in the end; people are looked for in each from then on. */
  async readRound(frames: readonly number[], opened: ImageBitmap[]): Promise<ReadPicture[]> {
    const out: ReadPicture[] = [];
    for await (const { index, picture: filmed, light } of clearPictures(this.film.pictures(frames), this.clearing)) {
      const picture = this.mirror ? mirroredPicture(filmed) : filmed;
      opened.push(picture);
      const people = this.eyes.findPeople(picture);
      // Told where they are asked for.
      people.catch(() => undefined);
      out.push({ index, picture, light: light.mean, people });
    }
    return out;
  }

  /** One wide look: is there a player, and about where the instrument? */
  async first({ index, picture, light, people }: ReadPicture): Promise<FirstLook> {
    const look: FrameLook = { index, t: this.film.times[index]!, player: false, light };
    const found: FirstLook[] = [];
    for (const joints of await people) {
      const region = playerRegion((name) => joints[name.replace('body.', '') as BodyJoint]?.point, this.known.family);
      if (!region) continue;
      const seen = await this.eyes.look(picture, [{ ...region, side: FIRST * region.side, turn: 0 }]);
      const placed = placeInstrument(this.camera, this.model, withinPicture(this.camera, fuseLooks(seen)));
      found.push({ look: { ...look, player: true, placed, wrists: [joints['wrist.left'].point, joints['wrist.right'].point] }, region, seen });
    }
    // Of several people the one with an instrument.
    return found.length > 0 ? found.reduce((a, b) => (worthOf(b.look) > worthOf(a.look) ? b : a)) : { look, region: undefined, seen: [] };
  }

  /** Wide looks joined, then closer ones about the instrument as placed, then its contours and the bow. */
  async closely({ look, region, seen }: FirstLook, picture: ImageBitmap): Promise<FrameLook> {
    const wide = [...seen, ...(await this.lookAbout(picture, region!, WIDE))];
    let placed = placeInstrument(this.camera, this.model, withinPicture(this.camera, fuseLooks(wide))) ?? look.placed;
    placed = placed && (await this.fromNear(placed, picture));
    if (!placed) return { ...look, placed: undefined };
    if (isTrusted({ ...look, placed }, this.unit)) {
      const colours = colourPicture(picture);
      const { fit, edges, points } = alignContours(colours, this.camera, this.dimensions, placed.pose, placed.sightings);
      this.laid.set(look.index, { picture: colours, placed: fit, points });
      placed = { ...placed, pose: fit.poses[0]!, edges };
    }
    const bow = isTrusted({ ...look, placed }, this.unit) ? await this.bow(placed, region!, wide, picture, look) : undefined;
    return { ...look, placed, bow, neckHand: this.neckHand(placed, look.wrists) };
  }

  /** Frames that agree, solved together for one instrument and one camera; the points are then those of the solution. `filmed` says another lens where nobody did and the points do. */
  together(starts: readonly FrameLook[]): { readonly filmed: FilmedPicture; readonly starts: readonly FrameLook[] } {
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

  /** The lens the network's points speak for where it is not the main one, and the frames as placed through it. */
  private lensByPoints(frames: readonly FrameToAlign[]): { readonly supposed: SupposedCamera; readonly frames: readonly FrameToAlign[] } | undefined {
    const seen = frames.map(({ placed, points }) => ({ pose: placed.poses[0]!, points }));
    const found = lensByPoints(this.camera, this.dimensions, seen);
    return found && { supposed: found.supposed, frames: frames.map((frame, f) => ({ ...frame, placed: { ...found, poses: [found.poses[f]!] } })) };
  }

  /** Which wrist is nearer to the nut. */
  private neckHand(placed: PlacedInstrument, wrists: FrameLook['wrists']): 'left' | 'right' | undefined {
    const nut = project(this.camera, toOuter(placed.pose, [this.model.stringLength, 0, 0]));
    if (!nut || !wrists) return undefined;
    const [left, right] = wrists.map((w) => Math.hypot(w[0] - nut[0], w[1] - nut[1]));
    return left! <= right! ? 'left' : 'right';
  }

  private lookAbout(picture: ImageBitmap, region: Region, factors: readonly number[]): Promise<Look[]> {
    return this.eyes.look(picture, squaresAbout(region, factors));
  }

  private async fromNear(placed: PlacedInstrument, picture: ImageBitmap): Promise<PlacedInstrument | undefined> {
    const { camera, model, eyes } = this;
    return instrumentBox(camera, model, placed.pose) ? lookClosely((squares) => eyes.look(picture, squares), camera, model, placed.pose) : placed;
  }

  private async bow(placed: PlacedInstrument, region: Region, wide: readonly Look[], picture: ImageBitmap, look: FrameLook): Promise<BowFound | undefined> {
    const points = withinPicture(this.camera, fuseLooks([...wide, ...(await this.lookAbout(picture, region, FOR_BOW))]));
    const of = (name: string): FusedPoint => points.find((p) => p.name === name)!;
    const args = [lumaFrame(picture, false, look.index, look.t), placed.pose, this.context, of('bow.frog'), of('bow.tip')] as const;
    this.anywhere.set(look.index, () => bowAnywhere(...args));
    return bowBetween(...args);
  }

  /** Where no frame shows its bow clearly, the best are searched all over until one does. */
  withBow(looks: readonly FrameLook[]): FrameLook[] {
    const able = looks.filter((l) => isTrusted(l, this.unit)).sort((a, b) => worthOf(b) - worthOf(a));
    if (able.length === 0 || able.some((l) => l.bow)) return [...looks];
    for (const look of able.slice(0, SEARCHED)) {
      const bow = this.anywhere.get(look.index)?.();
      if (bow) return looks.map((l) => (l === look ? { ...l, bow } : l));
    }
    return [...looks];
  }
}

import type { BodyJoint, Joints } from '../../core/body/sighting';
import type { Marks } from '../../core/formats/marks';
import { type FilmedPicture, project, type SupposedCamera, supposedCamera } from '../../core/geometry/camera';
import { toOuter } from '../../core/geometry/pose';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { type InstrumentModel, instrumentModel } from '../../core/instrument/landmarks';
import { chooseStart } from '../../core/start/chooseStart';
import { type FusedPoint, fuseLooks, type Look } from '../../core/start/fuse';
import { type FrameLook, isTrusted, type Refusal, worthOf } from '../../core/start/outcome';
import { instrumentBox, type PlacedInstrument, placeInstrument } from '../../core/start/placeInstrument';
import { playerRegion, type Region } from '../../core/start/playerRegion';
import type { Square } from '../../core/start/square';
import { type KnownOfClip, startMarks } from '../../core/start/startMarks';
import { type Clearing, clearPictures } from '../film/clearPictures';
import type { FilmPicture } from '../film/frame';
import { mirroredPicture } from '../film/mirror';
import type { FrameLayer, OpenFrameLayer } from './frameLayer';
import { lookClosely, squaresAbout, withinPicture } from './lookClosely';
import type { BowEnds } from './lookForBow';

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
  /** Frames are laid on their pictures beside what the network looks at meanwhile. */
  readonly openLayer: OpenFrameLayer;
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
  const firsts: FirstLook[] = [];
  const close = new Map<FirstLook, Promise<FrameLook>>();
  let done = 0;
  const advance = () => onProgress(++done);
  const pictures: ImageBitmap[] = [];
  try {
    for (const [round, most] of CLOSELY.entries()) {
      for (const read of await seeker.readRound(inRound(round), pictures)) {
        firsts.push(await seeker.first(read));
        advance();
      }
      const best = firsts.filter((f) => f.look.placed && !close.has(f)).sort((a, b) => worthOf(b.look) - worthOf(a.look));
      const enough = async () => close.size >= ENOUGH.frames && isEnough(await Promise.all(close.values()), seeker.unit);
      for (const f of best) {
        if (close.size >= most || (await enough())) break;
        const laying = seeker.lay(await seeker.closely(f), f.picture);
        // Told where all are asked for.
        laying.then(advance, () => undefined);
        close.set(f, laying);
      }
      if (await enough()) break;
    }
    // What only a wide look found has no say.
    const looks = await Promise.all(firsts.map((f) => close.get(f) ?? { ...f.look, placed: undefined }));
    const choice = chooseStart(await seeker.withBow(looks), seeker.unit);
    if ('refused' in choice) return { refused: choice.refused, looks };
    const { filmed, starts } = await seeker.layer.together(choice.starts);
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
  readonly picture: ImageBitmap;
  readonly look: FrameLook;
  readonly region: Region | undefined;
  /** As the network saw it. */
  readonly seen: readonly Look[];
}

/** What the network says of a frame: where the instrument is, if anywhere, and the ends of the bow where they were looked for. */
interface CloseLook {
  readonly look: FrameLook;
  readonly ends?: BowEnds;
}

class StartSeeker {
  readonly camera: SupposedCamera;
  readonly unit: number;
  readonly layer: FrameLayer;
  private readonly mirror: boolean;
  private readonly model: InstrumentModel;

  constructor(
    readonly film: StartFilm,
    readonly known: KnownOfClip,
    private readonly eyes: StartEyes,
    private readonly clearing: Clearing,
  ) {
    // What the teacher said of the lens goes before what the file notes.
    const filmed = { width: film.width, height: film.height, zoom: known.zoom ?? film.zoom };
    this.camera = supposedCamera(filmed);
    this.unit = Math.max(film.width, film.height) / 960;
    this.mirror = known.side === 'left';
    this.model = instrumentModel(dimensionsOf(known.family, known.size));
    this.layer = eyes.openLayer(filmed, known);
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
      found.push({ picture, look: { ...look, player: true, placed, wrists: [joints['wrist.left'].point, joints['wrist.right'].point] }, region, seen });
    }
    // Of several people the one with an instrument.
    return found.length > 0 ? found.reduce((a, b) => (worthOf(b.look) > worthOf(a.look) ? b : a)) : { picture, look, region: undefined, seen: [] };
  }

  /** Wide looks joined, then closer ones about the instrument as placed, and wider ones for the bow. */
  async closely({ picture, look, region, seen }: FirstLook): Promise<CloseLook> {
    const wide = [...seen, ...(await this.lookAbout(picture, region!, WIDE))];
    const first = placeInstrument(this.camera, this.model, withinPicture(this.camera, fuseLooks(wide))) ?? look.placed;
    const placed = first && (await this.fromNear(first, picture));
    const close: FrameLook = { ...look, placed };
    if (!isTrusted(close, this.unit)) return { look: close };
    const points = withinPicture(this.camera, fuseLooks([...wide, ...(await this.lookAbout(picture, region!, FOR_BOW))]));
    const of = (name: string): FusedPoint => points.find((p) => p.name === name)!;
    return { look: close, ends: { frog: of('bow.frog'), tip: of('bow.tip') } };
  }

  /** The instrument and bow of a close look on what the picture shows. */
  async lay({ look, ends }: CloseLook, picture: ImageBitmap): Promise<FrameLook> {
    const laid = look.placed && ends ? await this.layer.lay(picture, { ...look, placed: look.placed }, ends) : look;
    return laid.placed ? { ...laid, neckHand: this.neckHand(laid.placed, laid.wrists) } : laid;
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

  /** Where no frame shows its bow clearly, the best are searched all over until one does. */
  async withBow(looks: readonly FrameLook[]): Promise<FrameLook[]> {
    const able = looks.filter((l) => isTrusted(l, this.unit)).sort((a, b) => worthOf(b) - worthOf(a));
    if (able.length === 0 || able.some((l) => l.bow)) return [...looks];
    for (const look of able.slice(0, SEARCHED)) {
      const bow = await this.layer.bowAnywhere(look.index);
      if (bow) return looks.map((l) => (l === look ? { ...l, bow } : l));
    }
    return [...looks];
  }
}

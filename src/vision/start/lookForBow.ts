import type { BowContext } from '../../core/bow/residuals';
import { project } from '../../core/geometry/camera';
import { type Pose, toOuter } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import { type FusedPoint, fuseLooks } from '../../core/start/fuse';
import { searchBow } from '../bow/bowSearch';
import type { Frame } from '../film/frame';
import { lumaFrame } from '../film/lumaFrame';
import { bowBetween } from './bowBetween';
import { type FrameEyes, seenPictures } from './frameEyes';
import { squaresAbout } from './lookClosely';

/** A frame in which the bow is looked at afresh. */
export interface BowAsk {
  readonly index: number;
  readonly t: number;
  readonly pose: Pose;
  /** Ends of the hair as it was followed; absent where it was lost. */
  readonly followed: { readonly frog: Vec2; readonly tip: Vec2 } | undefined;
}

/** A bow as a fresh look finds it: its line can be trusted; how far along it the bow lies only where both ends were seen. */
export interface FreshBow {
  readonly frog: Vec2;
  readonly tip: Vec2;
  readonly alongKnown: boolean;
}

/** The bow lies where it was followed, or the one that was found. */
export type BowOpinion = 'same' | FreshBow;

/** What one fresh look tells. */
export interface BowLook {
  /** Absent where nothing can be said of the bow as a whole. */
  readonly opinion?: BowOpinion;
  /** Where the hair begins at the frog (px), by the network's word alone; absent where it is not sure. */
  readonly frog?: Vec2;
}

/** Looks at the bow afresh, without knowing how it moved. Frames that tell nothing are left out. */
export type LookForBow = (context: BowContext, asks: readonly BowAsk[]) => Promise<ReadonlyMap<number, BowLook>>;

/** Squares about the strip, in lengths of the hair: the whole bow at mid-bow, and wherever it is. */
const SQUARES = [1.5, 2.1];
/** Middle of the strip, share of the string (from the bridge). */
const STRIP = 0.09;
/** An end of this confidence, so near (px at 960) where it was followed, speaks for the bow as followed. */
const SURE = 0.5;
const NEAR = 25;
/** An end so far (px at 960) from where it was followed speaks against it, even where the other end lies on the same line. */
const FAR = 45;
/** A bow through the frog alone needs a frog and a line as sure as this; one through the tip is as sure (measured on ten clips of two renderers: such lines were always right, along them off by up to a sixth). */
const SURE_FROG = 0.7;
const CLEAR_LINE = 1.6;
const SURE_TIP = 0.6;

/** The ends of the bow as the network sees them in a picture. */
export type BowEnds = Readonly<Record<'frog' | 'tip', FusedPoint>>;

/** Where the network sees the bow of an instrument that lies so; undefined where its strip lies behind the camera. */
export async function bowEndsIn(picture: ImageBitmap, look: FrameEyes['look'], { camera, strings, hair }: BowContext, pose: Pose): Promise<BowEnds | undefined> {
  const middle = project(camera, toOuter(pose, [STRIP * strings[0]!.nut[0], 0, 0]));
  if (!middle) return undefined;
  const points = fuseLooks(await look(picture, squaresAbout({ middle, side: (hair * camera.focal) / pose.translation[2] }, SQUARES)));
  const of = (name: string): FusedPoint => points.find((p) => p.name === name)!;
  return { frog: of('bow.frog'), tip: of('bow.tip') };
}

/** The landmark network as a second witness of the bow: it sees each picture alone, so nothing can lead it astray for long. Where its ends are `known` the picture is asked for only if more must be seen in it. */
export async function lookForBow(eyes: FrameEyes, context: BowContext, asks: readonly BowAsk[], known: (ask: BowAsk) => BowEnds | undefined): Promise<Map<number, BowLook>> {
  const out = new Map<number, BowLook>();
  const unit = Math.max(context.camera.width, context.camera.height) / 960;
  const tell = (index: number, { frog }: BowEnds, opinion: BowOpinion | undefined) => {
    const frogSure = frog.confidence > SURE_FROG;
    if (opinion || frogSure) out.set(index, { ...(opinion ? { opinion } : {}), ...(frogSure ? { frog: frog.point } : {}) });
  };
  const open = new Map<number, BowAsk>();
  for (const ask of asks) {
    const ends = known(ask);
    const verdict = ends ? verdictOn(ask, ends, unit) : 'look';
    if (verdict === 'look') open.set(ask.index, ask);
    else tell(ask.index, ends!, verdict);
  }
  for await (const { index, picture } of seenPictures(eyes, [...open.keys()])) {
    const ask = open.get(index)!;
    const ends = known(ask) ?? (await bowEndsIn(picture, eyes.look, context, ask.pose));
    if (!ends) continue;
    const verdict = verdictOn(ask, ends, unit);
    tell(index, ends, verdict === 'look' ? freshBow(lumaFrame(picture, false, index, ask.t), ask.pose, context, ends) : verdict);
  }
  return out;
}

/** What the network's ends alone say of the bow as followed: the same, nothing, or that the picture must be looked at. */
function verdictOn({ followed }: BowAsk, { frog, tip }: BowEnds, unit: number): 'same' | 'look' | undefined {
  const off = (end: FusedPoint, place: Vec2) => Math.hypot(end.point[0] - place[0], end.point[1] - place[1]) / unit;
  const ends = followed
    ? [
        { confidence: frog.confidence, off: off(frog, followed.frog), sure: SURE_FROG },
        { confidence: tip.confidence, off: off(tip, followed.tip), sure: SURE_TIP },
      ]
    : [];
  const agreeing = ends.filter((end) => end.confidence > SURE && end.off < NEAR).length;
  const elsewhere = ends.some((end) => end.confidence > end.sure && end.off > FAR);
  // One end where it was followed, the other not seen for sure: nothing to say.
  return agreeing === 2 ? 'same' : agreeing === 0 || elsewhere ? 'look' : undefined;
}

/** The bow by two witnesses: what the network names, and hair and stick in the picture. */
function freshBow(frame: Frame, pose: Pose, context: BowContext, { frog, tip }: BowEnds): FreshBow | undefined {
  const between = bowBetween(frame, pose, context, frog, tip);
  if (between && !between.frogReckoned) return { frog: between.frog, tip: between.tip, alongKnown: true };
  if (frog.confidence > SURE_FROG) {
    const [best] = searchBow(frame, pose, context, { which: 'frog', point: frog.point }, 1);
    if (best && best.score > CLEAR_LINE) return { frog: best.frog, tip: best.tip, alongKnown: false };
  }
  return between && between.sure > SURE_TIP ? { frog: between.frog, tip: between.tip, alongKnown: false } : undefined;
}

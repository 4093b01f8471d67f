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

/** The bow lies where it was followed, or the one that was found. Frames in which nothing can be said are left out. */
export type BowOpinion = 'same' | FreshBow;

/** Looks at the bow afresh, without knowing how it moved. */
export type LookForBow = (context: BowContext, asks: readonly BowAsk[]) => Promise<ReadonlyMap<number, BowOpinion>>;

/** Squares about the strip, in lengths of the hair: the whole bow at mid-bow, and wherever it is. */
const SQUARES = [1.5, 2.1];
/** Middle of the strip, share of the string (from the bridge). */
const STRIP = 0.09;
/** An end of this confidence, so near (px at 960) where it was followed, speaks for the bow as followed. */
const SURE = 0.5;
const NEAR = 25;
/** A bow through the frog alone needs a frog and a line as sure as this; one through the tip is as sure (measured on ten clips of two renderers: such lines were always right, along them off by up to a sixth). */
const SURE_FROG = 0.7;
const CLEAR_LINE = 1.6;
const SURE_TIP = 0.6;

/** The landmark network as a second witness of the bow: it sees each picture alone, so nothing can lead it astray for long. */
export async function lookForBow(eyes: FrameEyes, context: BowContext, asks: readonly BowAsk[]): Promise<Map<number, BowOpinion>> {
  const out = new Map<number, BowOpinion>();
  const byIndex = new Map(asks.map((a) => [a.index, a]));
  for await (const { index, picture } of seenPictures(eyes, [...byIndex.keys()])) {
    const { pose, t, followed } = byIndex.get(index)!;
    const middle = project(context.camera, toOuter(pose, [STRIP * context.strings[0]!.nut[0], 0, 0]));
    if (!middle) continue;
    const hair = (context.hair * context.camera.focal) / pose.translation[2];
    const points = fuseLooks(await eyes.look(picture, squaresAbout({ middle, side: hair }, SQUARES)));
    const of = (name: string): FusedPoint => points.find((p) => p.name === name)!;
    const [frog, tip] = [of('bow.frog'), of('bow.tip')];
    const near = NEAR * (Math.max(picture.width, picture.height) / 960);
    const says = (end: FusedPoint, place: Vec2) => end.confidence > SURE && Math.hypot(end.point[0] - place[0], end.point[1] - place[1]) < near;
    const agreeing = followed ? [says(frog, followed.frog), says(tip, followed.tip)].filter(Boolean).length : 0;
    if (agreeing === 2) out.set(index, 'same');
    if (agreeing > 0) continue;
    const found = freshBow(lumaFrame(picture, false, index, t), pose, context, frog, tip);
    if (found) out.set(index, found);
  }
  return out;
}

/** The bow by two witnesses: what the network names, and hair and stick in the picture. */
function freshBow(frame: Frame, pose: Pose, context: BowContext, frog: FusedPoint, tip: FusedPoint): FreshBow | undefined {
  const between = bowBetween(frame, pose, context, frog, tip);
  if (between && !between.frogReckoned) return { frog: between.frog, tip: between.tip, alongKnown: true };
  if (frog.confidence > SURE_FROG) {
    const [best] = searchBow(frame, pose, context, { which: 'frog', point: frog.point }, 1);
    if (best && best.score > CLEAR_LINE) return { frog: best.frog, tip: best.tip, alongKnown: false };
  }
  return between && between.sure > SURE_TIP ? { frog: between.frog, tip: between.tip, alongKnown: false } : undefined;
}

import type { BowContext } from '../../core/bow/residuals';
import { project } from '../../core/geometry/camera';
import { type Pose, toOuter } from '../../core/geometry/pose';
import type { Vec2 } from '../../core/geometry/vec3';
import { type FusedPoint, fuseLooks, type Look } from '../../core/start/fuse';
import type { Square } from '../../core/start/square';
import { lumaFrame } from '../film/lumaFrame';
import { mirroredPicture } from '../film/mirror';
import { type BowFound, bowBetween } from './bowBetween';

/** A frame in which the bow is looked at afresh. */
export interface BowAsk {
  readonly index: number;
  readonly t: number;
  readonly pose: Pose;
  /** Ends of the hair as it was followed; absent where it was lost. */
  readonly followed: { readonly frog: Vec2; readonly tip: Vec2 } | undefined;
}

/** The bow lies where it was followed, or the one that was found. Frames in which nothing can be said are left out. */
export type BowOpinion = 'same' | BowFound;

/** Looks at the bow afresh, without knowing how it moved. */
export type LookForBow = (context: BowContext, asks: readonly BowAsk[]) => Promise<ReadonlyMap<number, BowOpinion>>;

export interface BowEyes {
  pictures(frames: readonly number[]): AsyncIterable<{ readonly index: number; readonly picture: ImageBitmap }>;
  look(picture: ImageBitmap, squares: readonly Square[]): Promise<Look[]>;
  /** Poses are those of the mirrored picture. */
  readonly mirror: boolean;
}

/** Squares about the strip, in lengths of the hair: the whole bow at mid-bow, and wherever it is. */
const SQUARES = [1.5, 2.1];
/** Middle of the strip, share of the string (from the bridge). */
const STRIP = 0.09;
/** An end of this confidence, so near (px at 960) where it was followed, speaks for the bow as followed. */
const SURE = 0.5;
export const NEAR = 25;

/** The landmark network as a second witness of the bow: it sees each picture alone, so nothing can lead it astray for long. */
export async function lookForBow(eyes: BowEyes, context: BowContext, asks: readonly BowAsk[]): Promise<Map<number, BowOpinion>> {
  const out = new Map<number, BowOpinion>();
  const byIndex = new Map(asks.map((a) => [a.index, a]));
  for await (const { index, picture: seen } of eyes.pictures([...byIndex.keys()].sort((a, b) => a - b))) {
    const picture = eyes.mirror ? mirroredPicture(seen) : seen;
    try {
      const { pose, t, followed } = byIndex.get(index)!;
      const middle = project(context.camera, toOuter(pose, [STRIP * context.strings[0]!.nut[0], 0, 0]));
      if (!middle) continue;
      const hair = (context.hair * context.camera.focal) / pose.translation[2];
      const points = fuseLooks(
        await eyes.look(
          picture,
          SQUARES.map((k) => ({ middle, side: k * hair, turn: 0 })),
        ),
      );
      const of = (name: string): FusedPoint => points.find((p) => p.name === name)!;
      const [frog, tip] = [of('bow.frog'), of('bow.tip')];
      const near = NEAR * (Math.max(picture.width, picture.height) / 960);
      const says = (end: FusedPoint, place: Vec2) => end.confidence > SURE && Math.hypot(end.point[0] - place[0], end.point[1] - place[1]) < near;
      if (followed && says(frog, followed.frog) && says(tip, followed.tip)) {
        out.set(index, 'same');
        continue;
      }
      const found = bowBetween(lumaFrame(picture, false, index, t), pose, context, frog, tip);
      if (found) out.set(index, found);
    } finally {
      picture.close();
    }
  }
  return out;
}

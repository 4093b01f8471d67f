import type { PartSquare } from '../../core/body/partSquare';
import { type BodySighting, LOOKS, type Look } from '../../core/body/sighting';
import { nearestIndex } from '../../core/nearestIndex';
import type { FilmPicture } from '../film/frame';
import type { BowHandPlace } from './bowHand';

/** Where pictures in colour come from. */
export interface PictureSource {
  /** Presentation time of every frame in seconds from the first. */
  readonly times: Float64Array;
  /** Upright pictures of the frames asked for (rising), in order. The taker closes each. */
  pictures(frames: readonly number[]): AsyncIterable<FilmPicture>;
}

/** Where the hands must be in a picture: by them the player is known among others. A hand whose place is not known is not looked for. */
export interface HandPlaces {
  readonly bow?: BowHandPlace | undefined;
  readonly neck?: PartSquare | undefined;
}

/** What is seen of player and bystanders in one picture. */
export type Seen = Omit<BodySighting, 'frame' | 't' | 'neckSought'>;

/** How a picture is looked at: whether the hand at the neck is looked for too, and the one look at the player that will do. */
export interface Glance {
  readonly neckToo: boolean;
  readonly look?: Look | undefined;
}

/** What a body network and a hand network see in one picture. */
export type SeePicture = (picture: ImageBitmap, hands: HandPlaces, glance: Glance) => Promise<Seen>;

/** Seconds between the frames that are looked at: a bow arm at work turns by a few degrees in that time (ours). */
const SPACING = 0.2;
/** The hand at the neck keeps its shape for longer, seconds (ours). */
const NECK_SPACING = 3;
/** Pictures under way at once: one for each thread, one in waiting. */
const AT_ONCE = 3;

/** Where the bow changes string the arm's step is timed: looks so far apart from just before to well after, seconds (ours). */
const ABOUT_CHANGE = { from: -0.1, to: 0.35, spacing: 0.12 };
/** Each change is looked at a little later than the last (the golden share of a spacing): looks that fall alike on every beat would leave the step between two of them. */
const SHIFT = 0.618;

/** Frames the networks are run on: every few, some about each change of string (`changes`, s), and those in which joints were marked. */
export function framesToSee(times: Float64Array, marked: readonly number[] = [], changes: readonly number[] = []): number[] {
  const { from, to, spacing } = ABOUT_CHANGE;
  const close = changes.flatMap((change, k) => {
    const first = change + from + ((k * SHIFT) % 1) * spacing;
    return Array.from({ length: Math.floor((to - from) / spacing) + 1 }, (_, i) => first + i * spacing).filter((t) => t >= 0 && t <= times[times.length - 1]!);
  });
  const looks = new Set([...marked, ...close.map((t) => nearestIndex(times, t))]);
  let next = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < times.length; i++) {
    const t = times[i]!;
    if (t < next - 1e-6) continue;
    next = t + SPACING;
    if (!close.some((c) => Math.abs(c - t) < spacing / 2)) looks.add(i);
  }
  return [...looks].sort((a, b) => a - b);
}

export interface SeeOptions {
  /** Frames in which joints were marked. */
  readonly marked?: readonly number[];
  /** When the bow changes string, seconds. */
  readonly changes?: readonly number[];
  readonly signal?: AbortSignal;
  readonly onProgress?: (done: number, total: number) => void;
}

/** Looks at the player in every few frames, in the picture and in its mirror image by turns (see joinAlternate), in marked ones in both. `handsAt` tells where the hands must be in a frame. */
export async function seeBody(source: PictureSource, see: SeePicture, handsAt: (frame: number) => HandPlaces, options: SeeOptions = {}): Promise<BodySighting[]> {
  const frames = framesToSee(source.times, options.marked, options.changes);
  const out: BodySighting[] = [];
  let neckFrom = Number.NEGATIVE_INFINITY;
  const marked = new Set(options.marked);
  let turn = 0;
  const waiting: Promise<BodySighting>[] = [];
  const takeOldest = async () => {
    out.push(await waiting.shift()!);
    options.onProgress?.(out.length, frames.length);
  };
  for await (const { index, picture } of source.pictures(frames)) {
    options.signal?.throwIfAborted();
    if (waiting.length >= AT_ONCE) await takeOldest();
    const t = source.times[index]!;
    const hands = handsAt(index);
    const neckToo = hands.neck !== undefined && t >= neckFrom;
    if (neckToo) neckFrom = t + NECK_SPACING;
    const seen = see(picture, hands, { neckToo, look: marked.has(index) ? undefined : LOOKS[turn++ % LOOKS.length] }).then(
      (s): BodySighting => ({ frame: index, t, ...(neckToo ? { neckSought: true } : {}), ...s }),
    );
    // A failure is told when its picture's turn comes.
    seen.catch(() => undefined);
    waiting.push(seen);
  }
  while (waiting.length > 0) await takeOldest();
  return out;
}

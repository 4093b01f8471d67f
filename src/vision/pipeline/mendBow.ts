import { frogByLooks } from '../../core/bow/frogByLooks';
import { layOnHair } from '../../core/bow/layOnHair';
import type { BowContext } from '../../core/bow/residuals';
import { type BowSighting, endsApart, type HairEnds, hairEndsOf } from '../../core/bow/sighting';
import { withoutStrayLines } from '../../core/bow/strayLines';
import { LOOKED_FOR_ENDS } from '../../core/bow/unsureEnds';
import type { Vec2 } from '../../core/geometry/vec3';
import type { TrackedFrame } from '../../core/measures/measureFrames';
import type { BowFollower } from '../bow/bowFollower';
import { beliefFromEnds } from '../bow/markedBow';
import { ahead, backward, type Frame, type FrameSource } from '../film/frame';
import { spaced } from '../film/spaced';
import type { BowOpinion, FreshBow, LookForBow } from '../start/lookForBow';

/** Seconds between two looks at the bow, and between those where it was lost or about one that disagreed (ours). */
export const LOOK_AT_BOW_EVERY = 1.5;
const CLOSER = 0.3;
/** A frog that was placed by guess is looked at in so many pictures at least, however short the film (ours). */
const LOOKS_AT_FROG = 6;
/** Shorter losses mend themselves (seconds, ours). */
const LEAST_LOST = 0.25;
/** An end this far (px at 960) from where it was followed contradicts; along the line so far where the find does not know its place there (finds were off by up to 35, and by 75 along: measured on clips of two renderers). */
const APART = 45;
const APART_ALONG = 110;
/** A bow placed by hand is known better. */
const APART_PLACED = 20;
/** Two courses whose ends stay this near (px at 960) through so many frames are one again (ours). */
const JOINED = 10;
const JOIN_FRAMES = 4;
/** Frames in which a bow found afresh may stay unseen before it is given up (ours). */
const MOST_UNSEEN = 6;
/** So many finds that came to nothing, and the view is taken for one in which the bow cannot be told (ours). */
const MOST_IN_VAIN = 8;

export interface MendInput {
  readonly source: FrameSource;
  readonly context: BowContext;
  readonly bow: BowFollower;
  /** Every frame as followed so far; mended frames are put in their place. */
  readonly tracked: Map<number, TrackedFrame>;
  /** Learns the bow's look again from the mark that is nearest to a frame. */
  readonly learnNear: (index: number) => Promise<void>;
  readonly look: LookForBow;
  /** Frames in which the bow was placed by hand: those are not doubted. */
  readonly placed?: Iterable<number>;
  readonly signal?: AbortSignal | undefined;
}

/** A bow followed from a fresh find in one direction, and how that went. */
interface Course {
  readonly frames: ReadonlyMap<number, BowSighting>;
  /** agreed: met the bow as another look saw it; joined: fell in with the earlier course; open: met nothing. */
  readonly end: 'agreed' | 'joined' | 'open';
}

/**
 * Looks at the bow afresh every so often, and oftener where it was lost. Where it lies elsewhere than it was followed, or was lost, it is followed
 * from there, both ways, until it meets the earlier course or another find; a find that nothing bears out changes
 * nothing. A frog that was placed by guess is put where the looks have it in the mean. Returns how many frames were mended.
 */
export async function mendBow(input: MendInput): Promise<number> {
  const { source, context, bow, tracked, look, signal } = input;
  const unit = Math.max(source.width, source.height) / 960;
  const indices = [...tracked.keys()].sort((a, b) => a - b);
  const placed = new Set(input.placed);
  const asked = new Set(placed);
  const opinions = new Map<number, BowOpinion>([...placed].map((index) => [index, 'same']));
  const frogs = new Map<number, Vec2>();
  const timeOf = (index: number) => source.times[index]!;
  /** Frames in which something else was followed in place of the bow: there it is lost as well. Whether it was the bow after all the arm may tell later. */
  const doubted = new Set(
    withoutStrayLines(indices.map((i) => tracked.get(i)!)).flatMap(({ index, sighting }) => (sighting.line || !tracked.get(index)!.sighting.line ? [] : [index])),
  );
  const followedAt = (index: number) => (doubted.has(index) ? undefined : hairEndsOf(tracked.get(index)!.sighting));
  const step = indices.length > 1 ? (timeOf(indices[indices.length - 1]!) - timeOf(indices[0]!)) / (indices.length - 1) : 0;

  const ask = async (frames: readonly number[]) => {
    const asks = frames.flatMap((index) => {
      const { pose } = tracked.get(index)!;
      if (!pose || asked.has(index)) return [];
      asked.add(index);
      return [{ index, t: timeOf(index), pose, followed: followedAt(index) }];
    });
    if (asks.length === 0) return;
    for (const [index, { opinion, frog }] of await look(context, asks)) {
      if (opinion) opinions.set(index, opinion);
      if (frog) frogs.set(index, frog);
    }
  };
  /** Whether a course runs elsewhere than a find. */
  const elsewhere = (ends: HairEnds, found: FreshBow) => {
    if (found.alongKnown) return endsApart(ends, found) > APART * unit;
    const u = direction(found);
    const off = [subtract(ends.frog, found.frog), subtract(ends.tip, found.tip)];
    return off.some((d) => Math.abs(d[0] * u[1] - d[1] * u[0]) > APART * unit || Math.abs(d[0] * u[0] + d[1] * u[1]) > APART_ALONG * unit);
  };
  /** Whether the bow is out of sight for long there; at a change of string it often is for a moment. */
  const lostLong = (index: number) => {
    const seenAt = (i: number) => tracked.get(i)?.sighting.line !== undefined && !doubted.has(i);
    let [from, to] = [index, index];
    const long = () => (to - from - 1) * step >= LEAST_LOST;
    while (tracked.has(from) && !seenAt(from) && !long()) from--;
    while (tracked.has(to) && !seenAt(to) && !long()) to++;
    return long();
  };
  /** A find that contradicts the course there. */
  const contradiction = (index: number): FreshBow | undefined => {
    const opinion = opinions.get(index);
    if (!opinion || opinion === 'same') return undefined;
    const followed = followedAt(index);
    return (followed ? elsewhere(followed, opinion) : lostLong(index)) ? opinion : undefined;
  };
  /** Whether the course meets the bow as another look saw it there: undefined where none did. */
  const meets = (index: number, ends: HairEnds): boolean | undefined => {
    const opinion = opinions.get(index);
    const there = opinion === 'same' ? followedAt(index) : undefined;
    if (there) return endsApart(ends, there) < (placed.has(index) ? APART_PLACED : APART) * unit;
    return opinion && opinion !== 'same' ? !elsewhere(ends, opinion) : undefined;
  };

  const follow = async (from: number, frames: AsyncIterable<Frame>): Promise<Course> => {
    const out = new Map<number, BowSighting>();
    const order: number[] = [];
    let together = 0;
    let unseen = 0;
    let agreedAt: number | undefined;
    /** A bow out of sight at the end says nothing of the course before. */
    const ended = (): Course => {
      for (const index of order.slice(order.length - unseen)) out.delete(index);
      return { frames: out, end: agreedAt === undefined ? 'open' : 'agreed' };
    };
    for await (const frame of ahead(frames)) {
      signal?.throwIfAborted();
      const before = tracked.get(frame.index);
      if (!before) break;
      if (!before.pose) continue;
      const { sighting, mistaken } = await bow.follow(frame, before.pose);
      for (const index of order.slice(Math.max(0, order.length - mistaken))) out.set(index, { ...out.get(index)!, frog: undefined, tip: undefined });
      out.set(frame.index, sighting);
      order.push(frame.index);
      const ends = hairEndsOf(sighting);
      const there = followedAt(frame.index);
      unseen = ends ? 0 : unseen + 1;
      if (unseen > MOST_UNSEEN) return ended();
      together = ends && there && endsApart(ends, there) < JOINED * unit ? together + 1 : 0;
      if (together >= JOIN_FRAMES) return { frames: out, end: 'joined' };
      const met = frame.index !== from && ends ? meets(frame.index, ends) : undefined;
      if (met === undefined) continue;
      if (!met) {
        // Between a bow that was right and one that is elsewhere each holds for its half.
        const since = order.indexOf(agreedAt ?? order[0]!);
        for (const index of order.slice(since + Math.ceil((order.length - since) / 2))) out.delete(index);
        return ended();
      }
      agreedAt = frame.index;
      // Nothing is mended behind a bow placed by hand.
      if (placed.has(frame.index)) {
        out.delete(frame.index);
        return { frames: out, end: 'agreed' };
      }
    }
    return ended();
  };

  const [first, last] = [indices[0]!, indices[indices.length - 1]!];
  const lost = indices.filter((i) => tracked.get(i)!.pose && lostLong(i));
  const guessed = indices.some((i) => tracked.get(i)!.sighting.frog?.guess);
  const every = guessed ? Math.min(LOOK_AT_BOW_EVERY, (timeOf(last) - timeOf(first)) / LOOKS_AT_FROG) : LOOK_AT_BOW_EVERY;
  await ask([...spaced(indices, timeOf, every), ...spaced(lost, timeOf, CLOSER)]);
  for (const frame of frogByLooks(
    indices.map((i) => tracked.get(i)!),
    frogs,
  ))
    tracked.set(frame.index, frame);
  const astray = indices.filter((i) => contradiction(i));
  if (astray.length === 0) return 0;
  const near = indices.filter((i) => astray.some((a) => Math.abs(timeOf(i) - timeOf(a)) < LOOK_AT_BOW_EVERY));
  await ask(spaced(near, timeOf, CLOSER));

  let mended = 0;
  let inVain = 0;
  for (const index of indices) {
    const found = inVain < MOST_IN_VAIN && contradiction(index);
    if (!found) continue;
    const ends = { frog: found.frog, tip: found.tip, unsure: LOOKED_FOR_ENDS };
    const pose = tracked.get(index)!.pose!;
    const belief = beliefFromEnds(context, pose, ends, unit);
    const bothWays = async (): Promise<Course[]> => {
      await bow.startAt(belief, !found.alongKnown);
      const onward = await follow(index, source.forward(index, last + 1));
      if (index === first) return [onward];
      await bow.startAt(belief, !found.alongKnown);
      return [onward, await follow(index, backward(source, index - 1, first))];
    };
    await input.learnNear(index);
    let courses = await bothWays();
    if (!borneOut(courses) && found.alongKnown) {
      // The bow may look otherwise here than where it was marked: its ground, the light on it.
      for await (const frame of source.forward(index, index + 1)) await bow.learn(frame, pose, ends);
      courses = await bothWays();
    }
    if (!borneOut(courses)) {
      inVain++;
      continue;
    }
    const followed = courses.flatMap((course) => [...course.frames].map(([i, sighting]) => ({ ...tracked.get(i)!, sighting })));
    for (const frame of layOnHair(followed, await bow.markSigma(unit), unit)) {
      tracked.set(frame.index, frame);
      doubted.delete(frame.index);
    }
    mended += followed.length;
  }
  return mended;
}

/** Another look must agree, or the course there was must be met on every side: a find that falls back to it on one side alone was none. */
const borneOut = (courses: readonly Course[]) => courses.some((c) => c.end === 'agreed') || courses.every((c) => c.end === 'joined');

const subtract = (a: Vec2, b: Vec2): Vec2 => [a[0] - b[0], a[1] - b[1]];

function direction({ frog, tip }: HairEnds): Vec2 {
  const d = subtract(tip, frog);
  const n = Math.hypot(...d) || 1;
  return [d[0] / n, d[1] / n];
}

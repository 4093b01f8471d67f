import type { TrackedFrame } from '../measures/measureFrames';
import { runsOf } from '../runs';
import { median } from '../statistics';
import { type BowSighting, NO_BOW } from './sighting';

/*
 * Ours, from 17 clips of two renderers: while the bow was followed neither end was recognised for at most 0.52 s, and
 * where both were not recognised together for longer its cross sections were 0.87 to 1.08 times as alike as usual, but
 * for a film nobody had marked (0.55, and lost every few frames); while it hung from the hand and something else was
 * followed, for 4.6 s and 0.44 to 0.71 times.
 */
/** A bow shows an end at least so often, seconds; and both together, unless it keeps looking like itself. */
const LONGEST_ENDLESS = 1;
/** A stretch in which cross sections are less alike than this share of the usual is not the bow. */
const STRETCH_SHARE = 0.7;
/** In such a stretch frames more alike than this may be the bow's own first or last ones. */
const OWN_SHARE = 0.8;
/**
 * A bow that plays is seen for longer than the first, or near other sightings (seconds): what is seen for a moment in the midst of
 * frames without one, less like a bow than this share of the usual, is something else (ours: a sleeve's edge while a bow
 * rested before the player, 0.81 times as alike).
 */
const MOMENT = { lasts: 0.15, apart: 0.5, share: 0.85 } as const;
/** A line is as doubtful as those so near in time, seconds, */
const AROUND = 1;
/** where most may be off by more than this, px (1 sigma), */
const ANYWHERE = 20;
/** unless it is placed better than this, px, and as alike as the bow's own frames: less alike, another line was placed as well (ours: 0.7 times, 36 to 90 px off). */
const WELL_PLACED = 3;
/** The arm speaks for a bow where it holds it in so many of the looks at the player, and most of them. */
const LEAST_HELD = 2;

const either = ({ frog, tip }: BowSighting) => frog !== undefined || tip !== undefined;
const both = ({ frog, tip }: BowSighting) => frog !== undefined && tip !== undefined;

/** How alike the cross sections of lines are, where their sightings are as asked. */
const scores = (frames: readonly TrackedFrame[], of: (s: BowSighting) => boolean) => frames.flatMap(({ sighting: s }) => (s.line && of(s) ? [s.score] : []));

/** How alike the bow usually is in a film: where both its ends were seen, or else one of them. */
function usualScore(tracked: readonly TrackedFrame[]): number {
  const sure = scores(tracked, both);
  return median(sure.length > 0 ? sure : scores(tracked, either));
}

/**
 * The frames without the lines of what is not the bow: an edge, a string, a shelf, followed while the bow hung from its
 * hand, or taken for it for a moment. `held` tells by frame whether the bow arm could hold a bow there; where it does, the bow is believed.
 */
export function withoutStrayLines(tracked: readonly TrackedFrame[], held: ReadonlyMap<number, boolean> = new Map()): TrackedFrame[] {
  const inHand = (frames: readonly TrackedFrame[]) => {
    const looks = frames.flatMap((f) => held.get(f.index) ?? []);
    const holding = looks.filter(Boolean).length;
    return holding >= LEAST_HELD && 2 * holding > looks.length;
  };
  const usual = usualScore(tracked);
  const stray = new Set<number>();
  for (const [from, to] of stretches(tracked, either)) if (!inHand(tracked.slice(from, to + 1))) for (let i = from; i <= to; i++) stray.add(i);
  for (const [from, to] of stretches(tracked, both)) {
    const frames = tracked.slice(from, to + 1);
    if (median(scores(frames, () => true)) >= STRETCH_SHARE * usual || inHand(frames)) continue;
    for (let i = from; i <= to; i++) if (tracked[i]!.sighting.score < OWN_SHARE * usual) stray.add(i);
  }
  // What is left of such a stretch stands alone.
  for (const [from, to] of moments(tracked, (i) => tracked[i]!.sighting.line !== undefined && !stray.has(i))) {
    const frames = tracked.slice(from, to + 1);
    if (Math.max(...scores(frames, () => true)) >= MOMENT.share * usual || inHand(frames)) continue;
    for (let i = from; i <= to; i++) stray.add(i);
  }
  return tracked.map((frame, i) => (stray.has(i) && frame.sighting.line ? { ...frame, sighting: NO_BOW } : frame));
}

/**
 * The frames with lines as doubtful as those around them: where a bow points at the camera most lines are told to lie
 * anywhere, and one that claims a little more was as a rule led astray far enough not to look end-on.
 */
export function withDoubtOfNeighbours(tracked: readonly TrackedFrame[]): TrackedFrame[] {
  const doubtOf = ({ sighting: { line } }: TrackedFrame) => line && Math.max(line.sigmaA, line.sigmaB);
  const usual = usualScore(tracked);
  // Where no end was ever seen nothing is usual, and the place alone counts.
  const isWellPlaced = ({ sighting }: TrackedFrame, own: number) => own < WELL_PLACED && !(sighting.score < OWN_SHARE * usual);
  let [from, to] = [0, 0];
  return tracked.map((frame) => {
    while (tracked[from]!.t < frame.t - AROUND) from++;
    while (to < tracked.length && tracked[to]!.t <= frame.t + AROUND) to++;
    const own = doubtOf(frame);
    const { line } = frame.sighting;
    if (!line || own === undefined || isWellPlaced(frame, own)) return frame;
    const around = median(tracked.slice(from, to).flatMap((f) => doubtOf(f) ?? []));
    if (around < ANYWHERE || own >= around) return frame;
    return { ...frame, sighting: { ...frame.sighting, line: { ...line, sigmaA: Math.max(line.sigmaA, around), sigmaB: Math.max(line.sigmaB, around) } } };
  });
}

/** First and last place of every short run of lines with many frames without one on both sides. */
function moments(tracked: readonly TrackedFrame[], line: (i: number) => boolean): [from: number, to: number][] {
  const lines = tracked.flatMap((_, i) => (line(i) ? [i] : []));
  const apart = (a: number, b: number) => tracked[b]!.t - tracked[a]!.t > MOMENT.apart;
  const out: [number, number][] = [];
  for (let k = 0; k < lines.length; k++) {
    const from = lines[k]!;
    while (k + 1 < lines.length && !apart(lines[k]!, lines[k + 1]!)) k++;
    const to = lines[k]!;
    // Nothing is known of what lies beyond the film.
    if (tracked[to]!.t - tracked[from]!.t < MOMENT.lasts && apart(0, from) && apart(to, tracked.length - 1)) out.push([from, to]);
  }
  return out;
}

/** First and last place of every stretch longer than {@link LONGEST_ENDLESS} in which no sighting is as asked. */
function stretches(tracked: readonly TrackedFrame[], asked: (s: BowSighting) => boolean): [from: number, to: number][] {
  return runsOf(tracked.flatMap((f, i) => (asked(f.sighting) ? [] : [i]))).filter(([from, to]) => tracked[to]!.t - tracked[from]!.t > LONGEST_ENDLESS);
}

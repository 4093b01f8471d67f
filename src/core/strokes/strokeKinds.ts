import type { HeardNote } from '../sound/heard';
import { mean, relativeSpread } from '../statistics';
import type { Stroke } from './stroke';

/** Separate: one note a bow, small gap. Stopped: clear silence between, the bow stands on the string. Slurred: several notes in one bow. */
export type StrokeKind = 'separate' | 'stopped' | 'slurred';

/** The notes of one bow and how it is played. */
export interface BowedNotes {
  readonly stroke: number;
  readonly kind: StrokeKind;
  /** Share of the bow each of its notes took, in the order played; sums to one. */
  readonly shares: readonly number[];
  /** Silence before the next bow, seconds; absent for the last one. */
  readonly gap?: number;
}

/** Evenness of the gaps between separate or stopped bows: spread over mean, 0 = all alike. Absent with fewer than three. */
export function gapEvenness(bows: readonly BowedNotes[]): number | undefined {
  const gaps = bows.flatMap((b) => (b.kind !== 'slurred' && b.gap !== undefined ? [b.gap] : []));
  return gaps.length >= 3 && mean(gaps) > 0 ? relativeSpread(gaps) : undefined;
}

/** A gap longer than this share of the note stops it (ours)... */
const STOPPED_SHARE = 0.2;
/** ... when it also lasts so long (seconds, ours). */
const STOPPED_SECONDS = 0.12;
/** A note belongs to a bow when its middle lies in it, with this much grace (seconds, ours). */
const GRACE = 0.05;

/** Which notes each bow carries, in film time; `positionAt` gives the bow position (0..1) at a time, undefined where unknown. */
export function bowedNotes(strokes: readonly Stroke[], notes: readonly HeardNote[], positionAt: (t: number) => number | undefined): BowedNotes[] {
  return strokes.flatMap((stroke, i): BowedNotes[] => {
    const own = notes.filter((n) => {
      const middle = (n.from + n.to) / 2;
      return middle > stroke.from - GRACE && middle < stroke.to + GRACE;
    });
    if (own.length === 0) return [];
    const next = strokes[i + 1];
    const nextNote = next && notes.find((n) => n.from > own[own.length - 1]!.from && n.from > stroke.to - 0.15);
    // A pause of the bow is a gap as well: the string rings on through a room.
    const gap = nextNote && next ? Math.max(0, nextNote.from - own[own.length - 1]!.to, next.from - stroke.to) : undefined;
    const length = stroke.to - stroke.from;
    const kind: StrokeKind =
      own.length > 1 && own.slice(1).some((n) => !n.again) ? 'slurred' : gap !== undefined && gap > STOPPED_SECONDS && gap > STOPPED_SHARE * length ? 'stopped' : 'separate';
    return [{ stroke: stroke.index, kind, shares: sharesOf(stroke, own, positionAt), ...(gap === undefined ? {} : { gap }) }];
  });
}

function sharesOf(stroke: Stroke, notes: readonly HeardNote[], positionAt: (t: number) => number | undefined): number[] {
  const starts = notes.map((n, i) => (i === 0 ? stroke.fromPosition : positionAt(n.from)));
  const ends = [...starts.slice(1), stroke.toPosition];
  const travel = starts.map((s, i) => (s === undefined || ends[i] === undefined ? undefined : Math.abs(ends[i]! - s)));
  if (travel.some((t) => t === undefined)) return [];
  const all = travel.reduce<number>((sum, t) => sum + t!, 0);
  return all > 0 ? travel.map((t) => t! / all) : [];
}

import type { Measured } from '../measures/measures';
import { mean, median } from '../statistics';
import type { Stroke } from '../strokes/stroke';
import type { HeardNote } from './heard';

/** Sound of phones is off by up to 150 ms (from memory); looked for a little further (seconds, ours). */
const FURTHEST = 0.25;
/** What is found further off than a phone can be was matched wrongly (seconds, ours). */
const PLAUSIBLE = 0.18;
const STEP = 0.005;
/** A note starts within about this of its change of bow (seconds, 1 sigma, ours). */
const LOOSE = 0.03;
/** The string speaks this long after the bow has turned, or has passed the boundary between strings (seconds, ours). */
export const SPEAKS_AFTER = 0.045;
/** What all starts of a clip share, a way of starting, averages away with no number of notes (seconds, ours, measured on clips of two renderers). */
const SHARED = 0.015;
/** Fewer matched starts leave the offset unknown (ours). */
const LEAST = 2;
/** A stroke under way when the film begins did not begin there (seconds, ours). */
const OPENING = 0.1;

/** Strokes further apart than this have a pause between them, and no turn (seconds, ours). */
const PAUSE = 0.35;

/** Times (s) at which the bow is seen to turn: half way between two strokes of opposite direction. */
export const bowTurns = (strokes: readonly Stroke[]): number[] =>
  strokes.flatMap((stroke, i) => {
    const before = strokes[i - 1];
    return before && before.direction !== stroke.direction && stroke.from - before.to < PAUSE ? [(before.to + stroke.from) / 2] : [];
  });

/** Times (s) at which a bow begins: turns, and where a stroke begins after a pause. */
export function bowStarts(strokes: readonly Stroke[]): number[] {
  const afterPause = strokes.flatMap((s, i) => (s.from > OPENING && (i === 0 || s.from - strokes[i - 1]!.to >= PAUSE) ? [s.from] : []));
  return [...bowTurns(strokes), ...afterPause].sort((a, b) => a - b);
}

/**
 * How much later the sound comes than the picture, seconds, + = sound late: the shift at which most notes start as a
 * bow begins or changes string (`turns`, s). Undefined where too few do, or another shift would do nearly as well.
 */
export function soundOffset(notes: readonly HeardNote[], turns: readonly number[]): Measured | undefined {
  if (notes.length < LEAST || turns.length < LEAST) return undefined;
  const gaps = notes.flatMap((note) => turns.map((t) => note.from - SPEAKS_AFTER - t)).filter((gap) => Math.abs(gap) < FURTHEST + 3 * LOOSE);
  const votes = (shift: number) => gaps.reduce((sum, gap) => sum + Math.exp(-(((gap - shift) / LOOSE) ** 2) / 2), 0);
  const shifts = Array.from({ length: Math.round((2 * FURTHEST) / STEP) + 1 }, (_, i) => -FURTHEST + i * STEP);
  const worth = shifts.map(votes);
  const best = worth.indexOf(Math.max(...worth));
  const shift = shifts[best]!;
  const rival = Math.max(0, ...worth.filter((_, i) => Math.abs(shifts[i]! - shift) > 4 * LOOSE));
  if (worth[best]! < LEAST * 0.6 || rival > 0.75 * worth[best]!) return undefined;
  const near = gaps.filter((gap) => Math.abs(gap - shift) < 2.5 * LOOSE);
  const value = median(near);
  if (Math.abs(value) > PLAUSIBLE) return undefined;
  const spread = Math.sqrt(mean(near.map((gap) => (gap - value) ** 2)));
  return { value, u: Math.hypot((1.25 * spread) / Math.sqrt(near.length), LOOSE / Math.sqrt(near.length), SHARED) };
}

import type { FrameMeasures, Measured, Quantity } from '../measures/measures';
import { mean, quantile, slope } from '../statistics';
import { type Stroke, THIRDS, type Third, type ThirdSummary, thirdOf } from './stroke';

/** A stroke travels at least this share of the hair, for at least this long in seconds (ours). */
export const MIN_TRAVEL = 0.03;
export const MIN_SECONDS = 0.08;
/** Without a measured position for longer than this, what came before and after are different strokes (seconds, ours). */
const MAX_GAP = 0.3;
/** At its ends a stroke begins where the bow has left its turning point by this share (ours). */
const REST = 0.004;
/** A stroke travels so many times the doubt that its two ends do not share (ours). */
const SURE = 1.5;
/** A stroke must cover this share of the bow to speak of an arc (ours). */
const ARC_SHARE = 0.3;

interface Point {
  readonly i: number;
  readonly t: number;
  readonly p: number;
  /** Standard uncertainty of the place. */
  readonly u: number;
}

/** Turning points of the bow position by hysteresis: a turn counts once the bow has come back by {@link MIN_TRAVEL}. */
function turningPoints(points: readonly Point[]): Point[] {
  const turns: Point[] = [points[0]!];
  let extreme = points[0]!;
  let heading = 0;
  for (const point of points) {
    if (heading === 0) {
      if (Math.abs(point.p - turns[0]!.p) >= MIN_TRAVEL) {
        heading = Math.sign(point.p - turns[0]!.p);
        extreme = point;
      }
      continue;
    }
    if ((point.p - extreme.p) * heading > 0) extreme = point;
    else if ((extreme.p - point.p) * heading >= MIN_TRAVEL) {
      turns.push(extreme);
      heading = -heading;
      extreme = point;
    }
  }
  turns.push(extreme);
  return turns;
}

/** Cuts a clip into strokes by the turning points of the bow and sums each up. */
export function segmentStrokes(frames: readonly FrameMeasures[]): Stroke[] {
  const runs: Point[][] = [];
  let lastTime = Number.NEGATIVE_INFINITY;
  frames.forEach((f, i) => {
    const position = f.values.bow_position;
    if (!position) return;
    if (f.t - lastTime > MAX_GAP) runs.push([]);
    runs[runs.length - 1]!.push({ i, t: f.t, p: position.value, u: position.u });
    lastTime = f.t;
  });
  const strokes: Stroke[] = [];
  for (const run of runs) {
    if (run.length < 3) continue;
    const turns = turningPoints(run);
    // What is wrong all along, as a frog placed by guess, does not change how far the bow travels: at most the least doubt of all.
    const shared = Math.min(...run.map((q) => q.u));
    for (let k = 1; k < turns.length; k++) {
      const inside = run.filter((q) => q.i >= turns[k - 1]!.i && q.i <= turns[k]!.i);
      const [a, b] = [turns[k - 1]!.p, turns[k]!.p];
      // Rests at either end belong to no stroke.
      const start = inside.findLast((q) => Math.abs(q.p - a) <= REST && q.t <= (turns[k - 1]!.t + turns[k]!.t) / 2) ?? inside[0]!;
      const end = inside.find((q) => Math.abs(q.p - b) <= REST && q.t > start.t) ?? inside[inside.length - 1]!;
      // A bow that is put on the string, hardly seen, may seem to travel: not beyond its doubt.
      const least = Math.max(MIN_TRAVEL, (start.u + end.u) / 2, SURE * Math.sqrt(start.u ** 2 + end.u ** 2 - 2 * shared ** 2));
      if (Math.abs(b - a) < least || end.t - start.t < MIN_SECONDS) continue;
      strokes.push(summarise(strokes.length, frames, start.i, end.i, start.p, end.p));
    }
  }
  return strokes;
}

const take = (frames: readonly FrameMeasures[], quantity: Quantity): Measured[] => frames.flatMap((f) => (f.values[quantity] ? [f.values[quantity]] : []));

/** Mean with the mean standard uncertainty: errors within a stroke are mostly shared, so averaging does not help. */
function average(values: readonly Measured[]): Measured | undefined {
  return values.length ? { value: mean(values.map((v) => v.value)), u: mean(values.map((v) => v.u)) } : undefined;
}

function withValues<K extends string>(entries: readonly (readonly [K, Measured | undefined])[]): Partial<Record<K, Measured>> {
  return Object.fromEntries(entries.filter(([, v]) => v !== undefined)) as Partial<Record<K, Measured>>;
}

function summarise(index: number, all: readonly FrameMeasures[], first: number, last: number, a: number, b: number): Stroke {
  const frames = all.slice(first, last + 1);
  const from = all[first]!.t;
  const to = all[last]!.t;
  const step = (to - from) / Math.max(1, frames.length - 1);
  const names = frames.flatMap((f) => (f.string ? [f.string] : []));
  const string = mostCommon(names);
  const thirds = Object.fromEntries(
    THIRDS.map((third): [Third, ThirdSummary] => {
      const part = frames.filter((f) => f.values.bow_position && thirdOf(f.values.bow_position.value) === third);
      return [
        third,
        {
          seconds: part.length * step,
          ...withValues([
            ['skew_deg', average(take(part, 'skew_deg'))],
            ['contact_mm', average(take(part, 'contact_mm'))],
            ['contact_fraction', average(take(part, 'contact_fraction'))],
            ['inclination_deg', average(take(part, 'inclination_deg'))],
          ]),
        },
      ];
    }),
  ) as Record<Third, ThirdSummary>;

  const fractions = take(frames, 'contact_fraction');
  const range: Measured | undefined =
    fractions.length >= 5
      ? {
          value:
            quantile(
              fractions.map((v) => v.value),
              0.95,
            ) -
            quantile(
              fractions.map((v) => v.value),
              0.05,
            ),
          // Half of the doubt of a contact point moves the whole stroke alike and drops out (ours).
          u: mean(fractions.map((v) => v.u)) / 2,
        }
      : undefined;
  const both = frames.filter((f) => f.values.skew_deg && f.values.bow_position);
  const fitted =
    Math.abs(b - a) >= ARC_SHARE
      ? slope(
          both.map((f) => f.values.bow_position!.value),
          both.map((f) => f.values.skew_deg!.value),
        )
      : undefined;
  const speeds = take(frames, 'bow_speed_mm_s').map((v) => Math.abs(v.value));
  return {
    index,
    from,
    to,
    first,
    last,
    direction: b > a ? 'down' : 'up',
    ...(string ? { string } : {}),
    fromPosition: a,
    toPosition: b,
    meanSpeed: speeds.length ? mean(speeds) : 0,
    peakSpeed: speeds.length ? Math.max(...speeds) : 0,
    thirds,
    ...withValues([
      ['skew_deg', average(take(frames, 'skew_deg'))],
      ['contact_mm', average(take(frames, 'contact_mm'))],
      ['contact_fraction', average(fractions)],
      ['contactRange', range],
      ['levelRange', levelRange(frames, string)],
      ['arcIndex', fitted && { value: fitted.slope, u: Math.hypot(fitted.u, mean(take(frames, 'skew_deg').map((v) => v.u)) / 2) }],
    ]),
  };
}

/** The ends of a stroke belong to the crossings (share of its time, ours). */
const ENDS = 0.15;
/** Frames a third of the bow must have to speak of its level (ours). */
const LEAST_FRAMES = 3;

/** The larger departure of the level near frog or tip from that in the middle of the bow; errors of a view are shared and half drop out (ours). */
function levelRange(frames: readonly FrameMeasures[], string: string | undefined): Measured | undefined {
  const [from, to] = [frames[0]!.t, frames.at(-1)!.t];
  const calm = frames.filter((f) => f.string === string && f.t > from + ENDS * (to - from) && f.t < to - ENDS * (to - from));
  const at = (third: Third) =>
    take(
      calm.filter((f) => f.values.bow_position && thirdOf(f.values.bow_position.value) === third),
      'inclination_deg',
    );
  const middle = at('middle');
  if (middle.length < LEAST_FRAMES) return undefined;
  const ends = [at('frog'), at('tip')].filter((list) => list.length >= LEAST_FRAMES);
  if (ends.length === 0) return undefined;
  const value = (list: readonly Measured[]) => mean(list.map((m) => m.value));
  return { value: Math.max(...ends.map((end) => Math.abs(value(end) - value(middle)))), u: mean(middle.map((m) => m.u)) / 2 };
}

function mostCommon(names: readonly string[]): string | undefined {
  const count = new Map<string, number>();
  for (const name of names) count.set(name, (count.get(name) ?? 0) + 1);
  return [...count].sort((a, b) => b[1] - a[1])[0]?.[0];
}

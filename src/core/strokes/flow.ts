import type { FrameMeasures } from '../measures/measures';
import { mean, median, relativeSpread } from '../statistics';
import type { Stroke } from './stroke';

/** A halt of the bow inside a stroke. */
export interface Stop {
  readonly from: number;
  readonly to: number;
  /** Place on the bow, 0 frog .. 1 tip. */
  readonly position: number;
}

/** How one stroke begins and goes on. */
export interface StrokeFlow {
  readonly stroke: number;
  readonly stops: readonly Stop[];
  /** Seconds from the change of bow until the bow runs at three fifths of the stroke's median speed; absent where it never does or nothing was measured. */
  readonly recovery?: number;
  /** Least speed on the way, its ends left out, over its median speed; absent where too little was measured. */
  readonly slowest?: number;
  /** Share of the stroke's way made in the last third of its time: about 0.2 in an even stroke. */
  readonly endShare?: number;
}

/** Evenness of a clip's strokes: spread over mean, 0 = all alike. Absent with fewer than three strokes. */
export interface Evenness {
  readonly shares: number;
  readonly durations: number;
}

/** Slower than this share of the stroke's median speed the bow counts as standing (ours). */
const STANDING = 0.1;
/** Shorter halts are not told apart from noise (seconds, ours). */
const LEAST_STOP = 0.08;
/** The ends of a stroke are slow anyway (share of its time, ours). */
const ENDS = 0.12;
/** Speeds are taken over so long to either side (seconds, ours), */
const SMOOTH = 0.06;
/** and the way is what lies between these ends of a stroke (share of its time, ours). */
const WAY = 0.3;
/** The next stroke has recovered at this share of its median speed (ours). */
const RECOVERED = 0.6;

/** Stops and recovery of every stroke. */
export function strokeFlows(frames: readonly FrameMeasures[], strokes: readonly Stroke[]): StrokeFlow[] {
  return strokes.map((stroke) => {
    const inside = frames.slice(stroke.first, stroke.last + 1).flatMap((f) => {
      const speed = f.values.bow_speed_mm_s;
      return speed && f.values.bow_position ? [{ t: f.t, speed: Math.abs(speed.value), position: f.values.bow_position.value }] : [];
    });
    if (inside.length < 5) return { stroke: stroke.index, stops: [] };
    const usual = median(inside.map((p) => p.speed));
    const length = stroke.to - stroke.from;
    const stops: Stop[] = [];
    let run: typeof inside = [];
    const close = () => {
      const [a, b] = [run[0], run[run.length - 1]];
      if (a && b && b.t - a.t >= LEAST_STOP && a.t > stroke.from + ENDS * length && b.t < stroke.to - ENDS * length) {
        stops.push({ from: a.t, to: b.t, position: mean(run.map((p) => p.position)) });
      }
      run = [];
    };
    for (const p of inside) {
      if (p.speed < STANDING * usual) run.push(p);
      else close();
    }
    close();
    const smooth = inside.map((p) => mean(inside.filter((q) => Math.abs(q.t - p.t) <= SMOOTH).map((q) => q.speed)));
    const onTheWay = smooth.filter((_, i) => inside[i]!.t > stroke.from + WAY * length && inside[i]!.t < stroke.to - WAY * length);
    const late = inside.find((p) => p.t >= stroke.to - length / 3);
    const way = Math.abs(stroke.toPosition - stroke.fromPosition);
    const recovered = inside.find((p) => p.speed >= RECOVERED * usual);
    return {
      stroke: stroke.index,
      stops,
      ...(recovered ? { recovery: recovered.t - stroke.from } : {}),
      ...(onTheWay.length > 0 && usual > 0 ? { slowest: Math.min(...onTheWay) / usual } : {}),
      ...(late && way > 0 ? { endShare: Math.abs(stroke.toPosition - late.position) / way } : {}),
    };
  });
}

/** How alike the strokes' shares of bow and durations are. */
export function evennessOf(strokes: readonly Stroke[]): Evenness | undefined {
  if (strokes.length < 3) return undefined;
  return {
    shares: relativeSpread(strokes.map((s) => Math.abs(s.toPosition - s.fromPosition))),
    durations: relativeSpread(strokes.map((s) => s.to - s.from)),
  };
}

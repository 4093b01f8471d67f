import { median } from '../statistics';
import { STRIP } from './bridgeTop';

/** Brightness of the strip about a bridge in one frame, row by row; NaN where the bow covers it or the picture ends. */
export type BridgeStrip = Float32Array;

/** A cell of the strip tells something where so many frames show it free, of half the frames fewer. */
const LEAST_FREE = 5;
const LEAST_FREE_OF_HALF = 3;
/** and a place across the strip where so much of it does. */
const LEAST_SHARE = 0.35;
/** The edge must be so strong (grey levels), and nothing beside it more than so much of it, */
const LEAST_STRENGTH = 15;
const RUNNER_UP = 0.4;
/** in either half of the frames, within so many columns of the same place. */
const SAME_COLUMNS = 3;
/** Of the places where it may be so much must be seen, or another edge passes for one that is hidden (all ours, films of two renderers). */
const LEAST_SEEN = 0.3;

/** An edge of the bridge's top, in columns from where it is expected, and by how many grey levels it stands out. */
export interface BridgeEdge {
  readonly off: number;
  readonly strength: number;
}

/**
 * The edge of the bridge's top against what lies behind it, in the middle brightness of many frames: bow and hands come and
 * go, the bridge stays. Undefined where it is hidden, faint, one of several or beyond `reach`.
 * @param arm columns to either side between which brightness is compared
 * @param expected column from the strip's middle where the edge is expected
 * @param reach columns to either side of that within which it may lie; the nearer the likelier
 */
export function bridgeEdge(strips: readonly BridgeStrip[], arm: number, expected: number, reach: number): BridgeEdge | undefined {
  const edge = clearEdge(strips, LEAST_FREE, arm, expected, reach);
  if (!edge) return undefined;
  const halves = [0, 1].map((half) => {
    const of = strips.filter((_, i) => i % 2 === half);
    return clearEdge(of, LEAST_FREE_OF_HALF, arm, expected, reach);
  });
  return halves.every((h) => h && Math.abs(h.off - edge.off) <= SAME_COLUMNS) ? edge : undefined;
}

function clearEdge(strips: readonly BridgeStrip[], free: number, arm: number, expected: number, reach: number): BridgeEdge | undefined {
  const seen = changeAlong(middleOf(strips, free), arm);
  const middle = (STRIP.columns - 1) / 2 + expected;
  const within = seen.filter((_, i) => Math.abs(i - middle) <= reach);
  if (within.filter((c) => !Number.isNaN(c)).length < LEAST_SEEN * within.length) return undefined;
  const change = smoothed(seen.map((c) => (Number.isNaN(c) ? 0 : Math.abs(c))));
  const worth = change.map((c, i) => c * Math.exp(-0.5 * ((i - middle) / reach) ** 2));
  const peaks = [...change.keys()].filter((i) => change[i]! > change[i - 1]! && change[i]! >= change[i + 1]!).sort((a, b) => worth[b]! - worth[a]!);
  const [best] = peaks;
  if (best === undefined || change[best]! < LEAST_STRENGTH || Math.abs(best - middle) > reach) return undefined;
  if (peaks.some((i) => Math.abs(i - best) > SAME_COLUMNS && worth[i]! > RUNNER_UP * worth[best]!)) return undefined;
  // At the border of what is seen a peak may be half of one.
  if ([-2, -1, 1, 2].some((i) => Number.isNaN(seen[best + i] ?? Number.NaN))) return undefined;
  return { off: middleOfPeak(change, best) - middle, strength: change[best]! };
}

/** The middle between the places to either side of a peak where it has fallen to half: compared over an arm's length, a sharp edge makes a peak with a broad top. */
function middleOfPeak(line: Float32Array, peak: number): number {
  const half = line[peak]! / 2;
  const end = (way: 1 | -1): number => {
    let i = peak;
    while (line[i + way] !== undefined && line[i + way]! > half) i += way;
    const beyond = line[i + way] ?? 0;
    return i + (way * (line[i]! - half)) / (line[i]! - beyond);
  };
  return (end(1) + end(-1)) / 2;
}

/** Without the peaks of the grain. */
const smoothed = (line: Float32Array): Float32Array => line.map((v, i) => 0.5 * v + 0.25 * ((line[i - 1] ?? v) + (line[i + 1] ?? v)));

/** The middle brightness of each cell; NaN where fewer than `free` frames show it. */
function middleOf(strips: readonly BridgeStrip[], free: number): Float32Array {
  return Float32Array.from({ length: STRIP.rows * STRIP.columns }, (_, cell) => {
    const seen = strips.map((strip) => strip[cell]!).filter((v) => !Number.isNaN(v));
    return seen.length < free ? Number.NaN : median(seen);
  });
}

/** By how many grey levels the strip is brighter toward the nut than toward the player, at each column; NaN where too little of it is free. */
function changeAlong(strip: Float32Array, arm: number): Float32Array {
  return Float32Array.from({ length: STRIP.columns }, (_, column) => {
    if (column < arm || column >= STRIP.columns - arm) return Number.NaN;
    const changes: number[] = [];
    for (let row = 0; row < STRIP.rows; row++) {
      const change = strip[row * STRIP.columns + column + arm]! - strip[row * STRIP.columns + column - arm]!;
      if (!Number.isNaN(change)) changes.push(change);
    }
    return changes.length < LEAST_SHARE * STRIP.rows ? Number.NaN : median(changes);
  });
}

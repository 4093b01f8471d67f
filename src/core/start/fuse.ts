import type { Vec2 } from '../geometry/vec3';
import { INPUT, NETWORK_POINTS, type NetworkPoint, type SeenPoint } from './landmarkMaps';
import { fromInput, type Square, toInput } from './square';

/** One point as several looks at a frame agree on it. */
export interface FusedPoint {
  readonly name: NetworkPoint;
  /** Film pixels. */
  readonly point: Vec2;
  /** Standard uncertainty, film pixels, each way. */
  readonly sigma: number;
  /** 0..1, mean over the looks that could see it. */
  readonly confidence: number;
}

/** A look: the square shown, and what the network saw in it. */
export interface Look {
  readonly square: Square;
  readonly seen: readonly SeenPoint[];
}

/** Error of a surely seen point, pixels of the network's picture (measured on players never trained on). */
const INPUT_SIGMA = 1.6;
/** Looks that differ by more than this (input pixels) from the middle one count less. */
const AGREE = 4;
/** A point must lie so far inside a look's square (input pixels) to be judged by it. */
const INSIDE = 5;

/** Joins looks at one frame: weighted by confidence over the size of a pixel, departures from the weighted median down. */
export function fuseLooks(looks: readonly Look[]): FusedPoint[] {
  return NETWORK_POINTS.map((name, n) => {
    const seen = looks.map(({ square, seen: points }) => {
      const p = points[n]!;
      return { point: fromInput(square, p.place), pixel: square.side / INPUT, confidence: p.confidence };
    });
    const weights = seen.map((s) => (s.confidence + 1e-4) / s.pixel);
    const middle: Vec2 = [
      weightedMedian(
        seen.map((s) => s.point[0]),
        weights,
      ),
      weightedMedian(
        seen.map((s) => s.point[1]),
        weights,
      ),
    ];
    // A look whose square ends before the point could not see it, and says nothing of how sure it is.
    const could = looks.map(({ square }) => toInput(square, middle).every((c) => c > INSIDE && c < INPUT - INSIDE));
    const any = could.some(Boolean);
    let sum = 0;
    let x = 0;
    let y = 0;
    let spread = 0;
    let pixel = 0;
    seen.forEach((s, i) => {
      if (any && !could[i]) return;
      const away = Math.hypot(s.point[0] - middle[0], s.point[1] - middle[1]);
      const w = weights[i]! / (1 + (away / (AGREE * s.pixel)) ** 2);
      sum += w;
      x += w * s.point[0];
      y += w * s.point[1];
      spread += w * away * away;
      pixel += w * s.pixel;
    });
    const told = any ? seen.filter((_, i) => could[i]) : seen;
    const confidence = told.reduce((total, s) => total + s.confidence, 0) / told.length;
    const base = (INPUT_SIGMA * pixel) / sum / Math.sqrt(Math.max(0.1, confidence));
    return { name, point: [x / sum, y / sum], sigma: Math.hypot(base, Math.sqrt(spread / sum / 2)), confidence };
  });
}

function weightedMedian(values: readonly number[], weights: readonly number[]): number {
  const order = values.map((_, i) => i).sort((a, b) => values[a]! - values[b]!);
  const half = weights.reduce((a, b) => a + b, 0) / 2;
  let sum = 0;
  for (const i of order) {
    sum += weights[i]!;
    if (sum >= half) return values[i]!;
  }
  return values[order.at(-1)!]!;
}

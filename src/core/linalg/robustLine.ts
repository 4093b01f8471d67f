import { SIGMA_OF_MEDIAN } from '../statistics';
/** A place s (0..1 along a line) at which an offset was seen, with its weight. */
export interface OffsetAt {
  readonly s: number;
  readonly o: number;
  readonly w: number;
}

export interface RobustLine {
  /** Offsets at s = 0 and s = 1. */
  readonly start: number;
  readonly end: number;
  /** Spread of the offsets that belong to the line (1.48 times their median distance). */
  readonly spread: number;
  /** Variance of the offset at a place, for offsets of unit variance that err independently. */
  varianceAt(s: number): number;
}

/**
 * Straight line through offsets by weighted least squares, made anew with weights that fall off beyond the
 * spread (Geman and McClure's), so that strays do not pull. `from` is where it begins, `least` the least spread taken.
 */
export function robustLine(points: readonly OffsetAt[], from: { readonly start: number; readonly end: number; readonly spread: number }, least: number, rounds = 8): RobustLine {
  let { start, end, spread } = from;
  let [v0, v01, v1] = [1, 0, 1];
  const sizes = new Float64Array(points.length);
  for (let round = 0; round < rounds; round++) {
    // A breath of weight on the beginning keeps few or bunched points solvable.
    let a11 = 1e-6;
    let a12 = 0;
    let a22 = 1e-6;
    let b1 = 1e-6 * from.start;
    let b2 = 1e-6 * from.end;
    points.forEach((p, i) => {
      const e = p.o - (start * (1 - p.s) + end * p.s);
      sizes[i] = Math.abs(e);
      const w = p.w / (1 + (e / spread) ** 2) ** 2;
      a11 += w * (1 - p.s) ** 2;
      a12 += w * (1 - p.s) * p.s;
      a22 += w * p.s * p.s;
      b1 += w * (1 - p.s) * p.o;
      b2 += w * p.s * p.o;
    });
    const det = a11 * a22 - a12 * a12;
    start = (a22 * b1 - a12 * b2) / det;
    end = (a11 * b2 - a12 * b1) / det;
    [v0, v01, v1] = [a22 / det, a12 / det, a11 / det];
    spread = Math.max(least, SIGMA_OF_MEDIAN * sizes.slice().sort()[points.length >> 1]!);
  }
  return { start, end, spread, varianceAt: (s) => (1 - s) ** 2 * v0 - 2 * s * (1 - s) * v01 + s * s * v1 };
}

/** Variance of brightness (grey levels squared) added to both sides, so that noise on a flat wall is like nothing (ours). */
const FLAT = 20;

/** What a known look adds up to over some of its samples: weights, weighted values and weighted squares. */
export interface LookSums {
  readonly weight: number;
  readonly sum: number;
  readonly square: number;
}

/** Sums of `length` samples of a look from `from` on. */
export function lookSums(mean: Float32Array, weights: Float32Array, from: number, length: number): LookSums {
  let [weight, sum, square] = [0, 0, 0];
  for (let i = from; i < from + length; i++) {
    weight += weights[i]!;
    sum += weights[i]! * mean[i]!;
    square += weights[i]! * mean[i]! * mean[i]!;
  }
  return { weight, sum, square };
}

/**
 * Weighted correlation, -1..1, of what is seen from `at` on with the samples of a known look from `from` on, whose sums
 * are known. NaN where a sample is, or where the weights come to less than `least`.
 */
export function correlateWhole(seen: Float32Array, at: number, mean: Float32Array, weights: Float32Array, from: number, length: number, sums: LookSums, least = 0): number {
  if (sums.weight < least) return Number.NaN;
  // Two sums each: one would have to wait for itself at every sample.
  let [a0, a1, aa0, aa1, ab0, ab1] = [0, 0, 0, 0, 0, 0];
  const even = length & ~1;
  for (let i = 0; i < even; i += 2) {
    const x = seen[at + i]!;
    const wx = weights[from + i]! * x;
    a0 += wx;
    aa0 += wx * x;
    ab0 += wx * mean[from + i]!;
    const y = seen[at + i + 1]!;
    const wy = weights[from + i + 1]! * y;
    a1 += wy;
    aa1 += wy * y;
    ab1 += wy * mean[from + i + 1]!;
  }
  if (even < length) {
    const x = seen[at + even]!;
    const wx = weights[from + even]! * x;
    a0 += wx;
    aa0 += wx * x;
    ab0 += wx * mean[from + even]!;
  }
  return correlation(sums.weight, a0 + a1, sums.sum, aa0 + aa1, sums.square, ab0 + ab1);
}

const correlation = (sw: number, sa: number, sb: number, saa: number, sbb: number, sab: number): number =>
  (sab - (sa * sb) / sw) / Math.sqrt((saa - (sa * sa) / sw + FLAT * sw) * (sbb - (sb * sb) / sw + FLAT * sw));

/**
 * Weighted correlation of what is seen with a mean look of the same length, -1..1; samples that are NaN are passed
 * over. NaN where less than `least` of the weight is left.
 */
export function weightedCorrelation(seen: Float32Array, mean: Float32Array, weights: Float32Array, least = 0): number {
  let [sw, sa, sb, saa, sbb, sab] = [0, 0, 0, 0, 0, 0];
  for (let i = 0; i < mean.length; i++) {
    const x = seen[i]!;
    if (Number.isNaN(x)) continue;
    const w = weights[i]!;
    const y = mean[i]!;
    sw += w;
    sa += w * x;
    sb += w * y;
    saa += w * x * x;
    sbb += w * y * y;
    sab += w * x * y;
  }
  if (sw < least) return Number.NaN;
  return correlation(sw, sa, sb, saa, sbb, sab);
}

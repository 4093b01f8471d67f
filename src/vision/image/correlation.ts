/** Variance of brightness (grey levels squared) added to both sides, so that noise on a flat wall is like nothing (ours). */
const FLAT = 20;

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
  return (sab - (sa * sb) / sw) / Math.sqrt((saa - (sa * sa) / sw + FLAT * sw) * (sbb - (sb * sb) / sw + FLAT * sw));
}

/** Step of the numerical slope, in the unknowns' own units (mm, degrees). */
const STEP = 0.05;

/**
 * Standard uncertainty of a number made from unknowns, to first order: the root of slope' C slope (the law of
 * propagation of uncertainty, JCGM 100:2008, section 5.2).
 * @param base values of the unknowns; `covariance` theirs, row-major
 */
export function propagated(base: readonly number[], covariance: ArrayLike<number>, value: (unknowns: readonly number[]) => number): number {
  const n = base.length;
  const here = value(base);
  const moved = [...base];
  const slope = base.map((b, j) => {
    moved[j] = b + STEP;
    const change = value(moved) - here;
    moved[j] = b;
    return change / STEP;
  });
  let variance = 0;
  for (let a = 0; a < n; a++) {
    if (slope[a] === 0) continue;
    for (let b = 0; b < n; b++) if (slope[b] !== 0) variance += slope[a]! * slope[b]! * covariance[a * n + b]!;
  }
  return Math.sqrt(Math.max(0, variance));
}

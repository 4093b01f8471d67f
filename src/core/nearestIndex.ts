/** Place of the time nearest to `t` in a rising list; 0 for an empty one. */
export function nearestIndex(times: ArrayLike<number>, t: number): number {
  let lo = 0;
  let hi = times.length - 1;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (times[mid]! < t) lo = mid + 1;
    else hi = mid;
  }
  return lo > 0 && t - times[lo - 1]! < times[lo]! - t ? lo - 1 : lo;
}

/** First place in a rising list at or after a time; its length where there is none. */
export function firstFrom(times: ArrayLike<number>, t: number): number {
  let lo = 0;
  let hi = times.length;
  while (lo < hi) {
    const mid = (lo + hi) >> 1;
    if (times[mid]! < t) lo = mid + 1;
    else hi = mid;
  }
  return lo;
}

/** Place of the time nearest to `t` in a rising list; 0 for an empty one. */
export function nearestIndex(times: ArrayLike<number>, t: number): number {
  const after = Math.min(firstFrom(times, t), Math.max(0, times.length - 1));
  return after > 0 && t - times[after - 1]! < times[after]! - t ? after - 1 : after;
}

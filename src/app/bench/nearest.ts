/** Frame whose presentation time is nearest to t. */
export function nearestTime(times: ArrayLike<number>, t: number): number {
  let best = 0;
  for (let i = 1; i < times.length; i++) if (Math.abs(times[i]! - t) < Math.abs(times[best]! - t)) best = i;
  return best;
}

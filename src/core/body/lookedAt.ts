/** Farther than this from a frame the networks looked at, nothing is said (seconds, ours). */
const REACH = 0.3;

/** Two frames the networks looked at, by their place in the list, and the share of the way from the first to the second. */
export interface Between {
  readonly a: number;
  readonly b: number;
  readonly share: number;
}

/** The looked-at frames to either side of a time in seconds, those near it; the same one twice where only one is; undefined where none is. */
export function between(times: readonly number[], t: number): Between | undefined {
  const after = times.findIndex((x) => x >= t);
  const later = after < 0 ? times.length - 1 : after;
  const near = [Math.max(0, later - 1), later].filter((i) => i >= 0 && Math.abs(times[i]! - t) <= REACH);
  const [a, b = a] = near;
  if (a === undefined || b === undefined) return undefined;
  const span = times[b]! - times[a]!;
  return { a, b, share: span > 0 ? Math.min(1, Math.max(0, (t - times[a]!) / span)) : 0 };
}

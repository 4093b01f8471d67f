/** Farther than this from a frame the networks looked at, nothing is said (seconds, ours). */
const REACH = 0.3;

/** Two frames the networks looked at, by their place in the list, and the share of the way from the first to the second. */
export interface Between {
  readonly a: number;
  readonly b: number;
  readonly share: number;
}

/** The looked-at frames to either side of a time in seconds; the same one twice beyond the ends; undefined where none is near. */
export function between(times: readonly number[], t: number): Between | undefined {
  const after = times.findIndex((x) => x >= t);
  const b = after < 0 ? times.length - 1 : after;
  const a = after < 0 ? b : Math.max(0, b - 1);
  if (b < 0 || Math.min(Math.abs(times[a]! - t), Math.abs(times[b]! - t)) > REACH) return undefined;
  const span = times[b]! - times[a]!;
  return { a, b, share: span > 0 ? Math.min(1, Math.max(0, (t - times[a]!) / span)) : 0 };
}

import { firstFrom } from '../nearestIndex';

/** What was seen at a time, as numbers. */
export interface Seen {
  readonly t: number;
  readonly values: ArrayLike<number>;
}

/** Things seen change slowly against a course: they are averaged over about so many seconds (1 sigma, ours). */
const OVER = 0.25;
/** Beyond so many of these nothing counts. */
const REACH = 3;

/** Weighted mean of `length` numbers; undefined where nothing weighs. */
export function meanOf<T extends Seen>(list: readonly T[], length: number, weight: (seen: T) => number): number[] | undefined {
  const sum = new Array<number>(length).fill(0);
  let weights = 0;
  for (const seen of list) {
    const w = weight(seen);
    weights += w;
    for (let k = 0; k < length; k++) sum[k]! += w * seen.values[k]!;
  }
  return weights > 0 ? sum.map((v) => v / weights) : undefined;
}

/** Tells the mean over about {@link OVER} seconds to either side of a time; `list` in order of time. Undefined where nothing is near. */
export function meanAbout(list: readonly Seen[], length: number): (t: number) => number[] | undefined {
  const times = Float64Array.from(list, (l) => l.t);
  return (t) => {
    const near = list.slice(firstFrom(times, t - REACH * OVER), firstFrom(times, t + REACH * OVER));
    return meanOf(near, length, (l) => Math.exp(-0.5 * ((l.t - t) / OVER) ** 2));
  };
}

/** The nearest in time. */
export const nearestIn = <T extends { readonly t: number }>(list: readonly T[], t: number): T => list.reduce((a, b) => (Math.abs(b.t - t) < Math.abs(a.t - t) ? b : a));

/** Of what is in order of time: what lies about so many seconds apart, the first among it. */
export function spaced<T>(list: readonly T[], timeOf: (one: T) => number, seconds: number): T[] {
  const out: T[] = [];
  let next = Number.NEGATIVE_INFINITY;
  for (const one of list) {
    const t = timeOf(one);
    if (t < next) continue;
    out.push(one);
    next = t + seconds;
  }
  return out;
}

/** First and last of every run of neighbouring numbers in a rising list. */
export function runsOf(list: readonly number[]): [first: number, last: number][] {
  const out: [number, number][] = [];
  for (const i of list) {
    const run = out.at(-1);
    if (run && i === run[1] + 1) run[1] = i;
    else out.push([i, i]);
  }
  return out;
}

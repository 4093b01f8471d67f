import { quantile } from '../src/core/statistics';

/** Error statistics of one quantity over a clip or several. */
export interface Score {
  readonly quantity: string;
  readonly frames: number;
  readonly coverage: number;
  readonly bias: number;
  readonly median: number;
  readonly p95: number;
  readonly within: readonly [number, number, number];
}

export type Rows = readonly Record<string, string>[];

export function readTable(text: string): Rows {
  const [head, ...rows] = text
    .trim()
    .split(/\r?\n/)
    .map((line) => line.split(','));
  return rows.map((cells) => Object.fromEntries(head!.map((name, i) => [name, cells[i] ?? ''])));
}

export interface Pair {
  readonly error: number;
  readonly u: number;
}

/** Errors of a quantity, frame by frame, and how many true frames there were. */
export function pairsOf(measures: Rows, truth: Rows, quantity: string): { pairs: Pair[]; possible: number } {
  const byFrame = new Map(measures.map((row) => [Number(row.frame), row]));
  const pairs: Pair[] = [];
  let possible = 0;
  for (const row of truth) {
    if (!row[quantity]) continue;
    possible++;
    const m = byFrame.get(Number(row.frame));
    if (m?.[quantity]) pairs.push({ error: Number(m[quantity]) - Number(row[quantity]), u: Number(m[`${quantity}_u`]) });
  }
  return { pairs, possible };
}

export function scoreOf(quantity: string, pairs: readonly Pair[], possible: number): Score {
  const sizes = pairs.map((p) => Math.abs(p.error));
  const inside = (k: number) => (pairs.length ? pairs.filter((p) => Math.abs(p.error) <= k * p.u).length / pairs.length : Number.NaN);
  return {
    quantity,
    frames: pairs.length,
    coverage: possible ? pairs.length / possible : 0,
    bias: quantile(
      pairs.map((p) => p.error),
      0.5,
    ),
    median: quantile(sizes, 0.5),
    p95: quantile(sizes, 0.95),
    within: [inside(1), inside(2), inside(3)],
  };
}

/** The score of one quantity of one film against its truth. */
export function scoreAgainst(measures: Rows, truth: Rows, quantity: string): Score {
  const { pairs, possible } = pairsOf(measures, truth, quantity);
  return scoreOf(quantity, pairs, possible);
}

/** Share of frames whose string is named rightly, of those named. */
export function stringScore(measures: Rows, truth: Rows): { right: number; named: number } {
  const byFrame = new Map(measures.map((row) => [Number(row.frame), row.string]));
  const both = truth.flatMap((row) => (row.string && byFrame.get(Number(row.frame)) ? [row.string === byFrame.get(Number(row.frame))] : []));
  return { right: both.filter(Boolean).length, named: both.length };
}

import { BandedMatrix } from './bandedCholesky';
import { BorderedSystem } from './borderedSystem';

/** One piece of evidence: residuals of a few unknowns, each already over its standard deviation. */
export interface Term {
  /** Unknowns it depends on: local ones 0..n-1, then the global ones. */
  readonly at: readonly number[];
  /** Residuals for values given in the order of `at`. */
  readonly residuals: (values: readonly number[]) => readonly number[];
  /** Cauchy's scale: residuals beyond it lose their say; plain squares without. */
  readonly robust?: number;
}

export interface TermProblem {
  /** Start values, local unknowns first. */
  readonly start: Float64Array;
  /** How many are local; two of them in one term lie at most `half` apart. */
  readonly local: number;
  readonly half: number;
  /** Step for numerical derivatives of each unknown. */
  readonly step: (unknown: number) => number;
  readonly terms: readonly Term[];
  /** Rounds at most. */
  readonly rounds?: number;
}

export interface TermSolution {
  readonly values: Float64Array;
  readonly cost: number;
  readonly system: BorderedSystem;
}

const MOST_ROUNDS = 30;

/** Cauchy's cost of a squared residual, which for small ones is the square itself. */
const costOf = (rr: number, robust: number | undefined) => (robust ? robust * robust * Math.log1p(rr / (robust * robust)) : rr);
const weightOf = (rr: number, robust: number | undefined) => (robust ? 1 / (1 + rr / (robust * robust)) : 1);

/**
 * Least squares over unknowns that are tied to their neighbours and to a few global ones, by Levenberg and
 * Marquardt's method with numerical derivatives.
 * @throws RangeError when some unknown is tied to nothing.
 */
export function solveTerms({ start, local, half, step, terms, rounds = MOST_ROUNDS }: TermProblem): TermSolution {
  const globals = start.length - local;
  let x = Float64Array.from(start);
  let lambda = 1e-3;

  const pick = (values: Float64Array, term: Term) => term.at.map((i) => values[i]!);
  const costAt = (values: Float64Array) => {
    let sum = 0;
    for (const term of terms) for (const r of term.residuals(pick(values, term))) sum += costOf(r * r, term.robust);
    return sum;
  };
  const equations = () => {
    const band = new BandedMatrix(local, Math.min(half, local - 1));
    const border = Array.from({ length: globals }, () => new Float64Array(local));
    const corner = new Float64Array(globals * globals);
    const rhs = new Float64Array(start.length);
    for (const term of terms) {
      const values = pick(x, term);
      const base = term.residuals(values);
      const rows = term.at.map((i, k) => {
        const h = step(i);
        const kept = values[k]!;
        values[k] = kept + h;
        const moved = term.residuals(values);
        values[k] = kept;
        return moved.map((m, q) => (m - base[q]!) / h);
      });
      for (let q = 0; q < base.length; q++) {
        const r = base[q]!;
        const w = weightOf(r * r, term.robust);
        for (let a = 0; a < term.at.length; a++) {
          const i = term.at[a]!;
          const wj = w * rows[a]![q]!;
          if (wj === 0) continue;
          rhs[i]! -= wj * r;
          for (let b = 0; b < term.at.length; b++) {
            const j = term.at[b]!;
            const value = wj * rows[b]![q]!;
            if (i < local && j <= i) band.add(i, j, value);
            else if (i < local && j >= local) border[j - local]![i]! += value;
            else if (i >= local && j >= local) corner[(i - local) * globals + j - local]! += value;
          }
        }
      }
    }
    return { band, border, corner, rhs };
  };
  const damped = (e: ReturnType<typeof equations>, by: number) => {
    const band = new BandedMatrix(e.band.n, e.band.half);
    band.data.set(e.band.data);
    for (let i = 0; i < local; i++) band.add(i, i, by * e.band.get(i, i));
    const corner = Float64Array.from(e.corner);
    for (let g = 0; g < globals; g++) corner[g * globals + g]! *= 1 + by;
    return new BorderedSystem(band, e.border, corner);
  };

  let cost = costAt(x);
  for (let round = 0; round < rounds; round++) {
    const e = equations();
    let gained = 0;
    for (let tries = 0; tries < 6; tries++) {
      const { local: dl, global: dg } = damped(e, lambda).solve(e.rhs.subarray(0, local), e.rhs.subarray(local));
      const next = Float64Array.from(x, (v, i) => v + (i < local ? dl[i]! : dg[i - local]!));
      const nextCost = costAt(next);
      if (nextCost <= cost) {
        gained = (cost - nextCost) / Math.max(1e-12, cost);
        x = next;
        cost = nextCost;
        lambda = Math.max(1e-7, lambda / 5);
        break;
      }
      lambda *= 8;
    }
    if (gained < 1e-5) break;
  }
  return { values: x, cost, system: damped(equations(), 0) };
}

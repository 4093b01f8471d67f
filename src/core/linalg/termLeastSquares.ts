import type { BorderedSystem } from './borderedSystem';
import { NormalEquations } from './normalEquations';

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
  /** The system about the solution, undamped; worked out when first asked for. */
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
    const out = new NormalEquations(local, half, globals);
    for (const term of terms) {
      const values = pick(x, term);
      const base = term.residuals(values);
      const width = term.at.length;
      const slope = new Float64Array(base.length * width);
      for (let k = 0; k < width; k++) {
        const h = step(term.at[k]!);
        const kept = values[k]!;
        values[k] = kept + h;
        const moved = term.residuals(values);
        values[k] = kept;
        for (let q = 0; q < base.length; q++) slope[q * width + k] = (moved[q]! - base[q]!) / h;
      }
      base.forEach((r, q) => {
        out.add(term.at, slope, r, weightOf(r * r, term.robust), q * width);
      });
    }
    return out;
  };

  let cost = costAt(x);
  for (let round = 0; round < rounds; round++) {
    const e = equations();
    let gained = 0;
    for (let tries = 0; tries < 6; tries++) {
      const move = e.step(e.system(lambda));
      const next = x.map((v, i) => v + move[i]!);
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
  let system: BorderedSystem | undefined;
  return {
    values: x,
    cost,
    get system() {
      system ??= equations().system();
      return system;
    },
  };
}

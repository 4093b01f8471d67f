import { choleskyFactor, choleskyInverse, choleskySolve } from './cholesky';

/** Residuals already divided by their standard uncertainties, so that the cost is chi squared. */
export interface LeastSquaresProblem<State> {
  readonly start: State;
  /** Length of the step vector. */
  readonly unknowns: number;
  /** Size of the step, per unknown, for numerical derivatives. */
  readonly increments: ArrayLike<number>;
  residuals(state: State): number[];
  /** The state moved by a step of length `unknowns`. */
  step(state: State, delta: ArrayLike<number>): State;
  /** Robust weight of each residual (0..1) given its size; left out: all 1. */
  weight?(residual: number, index: number): number;
  readonly iterations?: number;
}

export interface LeastSquaresResult<State> {
  readonly state: State;
  /** Sum of squared weighted residuals. */
  readonly cost: number;
  readonly residuals: number[];
  /** Covariance of the step vector at the solution, row-major; undefined when it is singular. */
  readonly covariance: Float64Array | undefined;
}

/**
 * Levenberg and Marquardt's method with numerical derivatives on any state that can be moved by a step
 * (poses live on a manifold, so the state itself is opaque). For problems up to some hundred unknowns.
 */
export function solveLeastSquares<State>(problem: LeastSquaresProblem<State>): LeastSquaresResult<State> {
  const n = problem.unknowns;
  const weight = problem.weight ?? (() => 1);
  const costOf = (r: number[]) => r.reduce((sum, x, i) => sum + weight(x, i) * x * x, 0);
  let state = problem.start;
  let residuals = problem.residuals(state);
  let cost = costOf(residuals);
  let damping = 1e-3;
  const delta = new Float64Array(n);
  let normal = new Float64Array(n * n);
  let settled = false;

  for (let iteration = 0; iteration < (problem.iterations ?? 30) && !settled; iteration++) {
    const m = residuals.length;
    const jacobian: number[][] = [];
    for (let k = 0; k < n; k++) {
      const h = problem.increments[k]!;
      delta.fill(0);
      delta[k] = h;
      const ahead = problem.residuals(problem.step(state, delta));
      delta[k] = -h;
      const behind = problem.residuals(problem.step(state, delta));
      jacobian.push(ahead.map((x, i) => (x - behind[i]!) / (2 * h)));
    }
    const w = residuals.map((x, i) => weight(x, i));
    normal = new Float64Array(n * n);
    const gradient = new Float64Array(n);
    for (let a = 0; a < n; a++) {
      for (let b = 0; b <= a; b++) {
        let sum = 0;
        for (let i = 0; i < m; i++) sum += w[i]! * jacobian[a]![i]! * jacobian[b]![i]!;
        normal[a * n + b] = sum;
        normal[b * n + a] = sum;
      }
      let g = 0;
      for (let i = 0; i < m; i++) g += w[i]! * jacobian[a]![i]! * residuals[i]!;
      gradient[a] = -g;
    }
    for (let attempt = 0; attempt < 8; attempt++) {
      const damped = Float64Array.from(normal);
      for (let k = 0; k < n; k++) damped[k * n + k]! += damping * Math.max(normal[k * n + k]!, 1e-12);
      let move: Float64Array;
      try {
        move = choleskySolve(choleskyFactor(damped, n), n, gradient);
      } catch {
        damping = Math.max(damping * 10, 1e-6);
        continue;
      }
      const candidate = problem.step(state, move);
      const tried = problem.residuals(candidate);
      const newCost = costOf(tried);
      if (newCost <= cost) {
        settled = cost - newCost < 1e-9 * (1 + cost);
        state = candidate;
        residuals = tried;
        cost = newCost;
        damping = Math.max(damping / 10, 1e-12);
        break;
      }
      damping *= 10;
      if (attempt === 7) settled = true;
    }
  }
  let covariance: Float64Array | undefined;
  try {
    covariance = choleskyInverse(choleskyFactor(normal, n), n);
  } catch {
    covariance = undefined;
  }
  return { state, cost, residuals, covariance };
}

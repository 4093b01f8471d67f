import { choleskyFactor, choleskySolve } from './cholesky';

/** Keeps terms apart that the data cannot tell apart. */
const RIDGE = 1e-9;

/**
 * Factors of a sum of terms that fits the values best by weighted least squares (equal weights if not given): one row
 * of terms a value. Undefined where the terms do not tell them.
 */
export function linearFit(terms: readonly (readonly number[])[], values: readonly number[], weights?: readonly number[]): Float64Array | undefined {
  const n = terms[0]?.length ?? 0;
  const a = new Float64Array(n * n);
  const b = new Float64Array(n);
  terms.forEach((term, i) => {
    const w = weights?.[i] ?? 1;
    for (let j = 0; j < n; j++) {
      b[j]! += w * term[j]! * values[i]!;
      for (let k = 0; k < n; k++) a[j * n + k]! += w * term[j]! * term[k]!;
    }
  });
  for (let j = 0; j < n; j++) a[j * n + j]! += RIDGE * (1 + a[j * n + j]!);
  try {
    return choleskySolve(choleskyFactor(a, n), n, b);
  } catch {
    return undefined;
  }
}

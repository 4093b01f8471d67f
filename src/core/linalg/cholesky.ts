/** Dense symmetric positive definite systems, row-major Float64Array of n x n. */

/**
 * Lower triangular factor L with L L' = a.
 * @throws RangeError when the matrix is not positive definite.
 */
export function choleskyFactor(a: Float64Array, n: number): Float64Array {
  const l = new Float64Array(n * n);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = a[i * n + j]!;
      for (let k = 0; k < j; k++) sum -= l[i * n + k]! * l[j * n + k]!;
      if (i === j) {
        if (!(sum > 0)) throw new RangeError('matrix is not positive definite');
        l[i * n + i] = Math.sqrt(sum);
      } else l[i * n + j] = sum / l[j * n + j]!;
    }
  }
  return l;
}

/** Solves L L' x = b in place of b's copy. */
export function choleskySolve(l: Float64Array, n: number, b: ArrayLike<number>): Float64Array {
  const x = Float64Array.from(b);
  for (let i = 0; i < n; i++) {
    let sum = x[i]!;
    for (let k = 0; k < i; k++) sum -= l[i * n + k]! * x[k]!;
    x[i] = sum / l[i * n + i]!;
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = x[i]!;
    for (let k = i + 1; k < n; k++) sum -= l[k * n + i]! * x[k]!;
    x[i] = sum / l[i * n + i]!;
  }
  return x;
}

/** Inverse of L L'. */
export function choleskyInverse(l: Float64Array, n: number): Float64Array {
  const inverse = new Float64Array(n * n);
  const unit = new Float64Array(n);
  for (let c = 0; c < n; c++) {
    unit.fill(0);
    unit[c] = 1;
    const column = choleskySolve(l, n, unit);
    for (let r = 0; r < n; r++) inverse[r * n + c] = column[r]!;
  }
  return inverse;
}

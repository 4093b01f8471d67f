/**
 * Symmetric positive definite matrix kept as its lower band: entry (i, j), i - half <= j <= i, stands at
 * i * (half + 1) + (j - i + half).
 */
export class BandedMatrix {
  readonly data: Float64Array;
  constructor(
    readonly n: number,
    readonly half: number,
  ) {
    this.data = new Float64Array(n * (half + 1));
  }
  /** Adds to the entry (i, j) of the lower triangle; |i - j| <= half. */
  add(i: number, j: number, value: number): void {
    const r = Math.max(i, j);
    const c = Math.min(i, j);
    this.data[r * (this.half + 1) + (c - r + this.half)]! += value;
  }
  get(i: number, j: number): number {
    const r = Math.max(i, j);
    const c = Math.min(i, j);
    return r - c > this.half ? 0 : this.data[r * (this.half + 1) + (c - r + this.half)]!;
  }
}

/** Cholesky factor of a banded matrix; solves in time n * half. */
export class BandedCholesky {
  private readonly l: Float64Array;
  readonly n: number;
  readonly half: number;

  /** @throws RangeError when the matrix is not positive definite. */
  constructor(a: BandedMatrix) {
    const { n, half } = a;
    this.n = n;
    this.half = half;
    const w = half + 1;
    const l = Float64Array.from(a.data);
    for (let i = 0; i < n; i++) {
      const first = Math.max(0, i - half);
      for (let j = first; j <= i; j++) {
        let sum = l[i * w + (j - i + half)]!;
        for (let k = Math.max(first, j - half); k < j; k++) sum -= l[i * w + (k - i + half)]! * l[j * w + (k - j + half)]!;
        if (i === j) {
          if (!(sum > 0)) throw new RangeError('matrix is not positive definite');
          l[i * w + half] = Math.sqrt(sum);
        } else l[i * w + (j - i + half)] = sum / l[j * w + half]!;
      }
    }
    this.l = l;
  }

  solve(b: ArrayLike<number>): Float64Array {
    const { n, half, l } = this;
    const w = half + 1;
    const x = Float64Array.from(b);
    for (let i = 0; i < n; i++) {
      let sum = x[i]!;
      for (let k = Math.max(0, i - half); k < i; k++) sum -= l[i * w + (k - i + half)]! * x[k]!;
      x[i] = sum / l[i * w + half]!;
    }
    for (let i = n - 1; i >= 0; i--) {
      let sum = x[i]!;
      for (let k = i + 1; k <= Math.min(n - 1, i + half); k++) sum -= l[k * w + (i - k + half)]! * x[k]!;
      x[i] = sum / l[i * w + half]!;
    }
    return x;
  }

  /**
   * Entries of the inverse inside the band, in the same storage: the covariances of neighbouring unknowns
   * (Takahashi, Fagan and Chin 1973, cited from memory).
   */
  inverseBand(): BandedMatrix {
    const { n, half, l } = this;
    const w = half + 1;
    const z = new BandedMatrix(n, half);
    for (let j = n - 1; j >= 0; j--) {
      const d = l[j * w + half]!;
      const last = Math.min(n - 1, j + half);
      for (let i = last; i >= j; i--) {
        let sum = i === j ? 1 / d : 0;
        for (let k = j + 1; k <= last; k++) sum -= l[k * w + (j - k + half)]! * z.get(i, k);
        z.data[i * w + (j - i + half)] = sum / d;
      }
    }
    return z;
  }
}

import { BandedCholesky, type BandedMatrix } from './bandedCholesky';
import { choleskyFactor, choleskyInverse, choleskySolve } from './cholesky';

/**
 * Symmetric system of many unknowns that touch only their neighbours (a band) and a few that touch them all (a
 * border): the shape of a smoothing problem with constants of the whole clip.
 */
export class BorderedSystem {
  private readonly factor: BandedCholesky;
  private readonly solvedBorder: Float64Array[];
  private readonly schur: Float64Array;
  private readonly n: number;
  private readonly globals: number;
  private inverses: { band: BandedMatrix; schur: Float64Array } | undefined;

  /**
   * `border` holds one column of length n for each global unknown, `corner` their own square, row-major.
   * @throws RangeError when the system is not positive definite.
   */
  constructor(
    band: BandedMatrix,
    private readonly border: readonly Float64Array[],
    corner: Float64Array,
  ) {
    const G = border.length;
    this.n = band.n;
    this.globals = G;
    this.factor = new BandedCholesky(band);
    this.solvedBorder = border.map((column) => this.factor.solve(column));
    const schur = Float64Array.from(corner);
    for (let g = 0; g < G; g++) {
      for (let h = 0; h < G; h++) {
        let sum = 0;
        for (let i = 0; i < this.n; i++) sum += border[g]![i]! * this.solvedBorder[h]![i]!;
        schur[g * G + h]! -= sum;
      }
    }
    this.schur = choleskyFactor(schur, G);
  }

  solve(rhs: ArrayLike<number>, globalRhs: ArrayLike<number>): { local: Float64Array; global: Float64Array } {
    const local = this.factor.solve(rhs);
    const reduced = Float64Array.from(globalRhs, (v, g) => {
      let sum = v;
      for (let i = 0; i < this.n; i++) sum -= this.border[g]![i]! * local[i]!;
      return sum;
    });
    const global = choleskySolve(this.schur, this.globals, reduced);
    global.forEach((d, g) => {
      if (d !== 0) for (let i = 0; i < this.n; i++) local[i]! -= this.solvedBorder[g]![i]! * d;
    });
    return { local, global };
  }

  /** Covariance of `count` neighbouring local unknowns from `from` on, row-major; they must lie within the band of each other. */
  covarianceBlock(from: number, count: number): Float64Array {
    const block = new Float64Array(count * count);
    for (let a = 0; a < count; a++) for (let b = 0; b <= a; b++) block[a * count + b] = block[b * count + a] = this.covariance(from + a, from + b);
    return block;
  }

  /** Covariance of two local unknowns that lie within the band of each other. */
  covariance(i: number, j: number): number {
    this.inverses ??= { band: this.factor.inverseBand(), schur: choleskyInverse(this.schur, this.globals) };
    const { band, schur } = this.inverses;
    const G = this.globals;
    let v = band.get(i, j);
    for (let g = 0; g < G; g++) for (let h = 0; h < G; h++) v += this.solvedBorder[g]![i]! * schur[g * G + h]! * this.solvedBorder[h]![j]!;
    return v;
  }
}

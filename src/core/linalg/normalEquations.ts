import { BandedMatrix } from './bandedCholesky';
import { BorderedSystem } from './borderedSystem';

/**
 * Normal equations of a sum of weighted squares, each of a few unknowns: local ones that are tied to their neighbours
 * only, numbered first, then global ones that may be tied to all.
 */
export class NormalEquations {
  private readonly band: BandedMatrix;
  private readonly border: Float64Array[];
  private readonly corner: Float64Array;
  private readonly rhs: Float64Array;

  /** Two of the `local` unknowns in one square lie at most `half` apart. */
  constructor(
    private readonly local: number,
    half: number,
    private readonly globals: number,
  ) {
    this.band = new BandedMatrix(local, Math.min(half, local - 1));
    this.border = Array.from({ length: globals }, () => new Float64Array(local));
    this.corner = new Float64Array(globals * globals);
    this.rhs = new Float64Array(local + globals);
  }

  /** Adds weight (value + slope . step)^2, where the step moves the unknowns `at`; `slope` is read from `from` on. */
  add(at: readonly number[], slope: ArrayLike<number>, value: number, weight: number, from = 0): void {
    const { local, globals } = this;
    for (let a = 0; a < at.length; a++) {
      const i = at[a]!;
      const ws = weight * slope[from + a]!;
      if (ws === 0) continue;
      this.rhs[i]! -= ws * value;
      for (let b = 0; b < at.length; b++) {
        const j = at[b]!;
        const product = ws * slope[from + b]!;
        if (i < local && j <= i) this.band.add(i, j, product);
        else if (i < local && j >= local) this.border[j - local]![i]! += product;
        else if (i >= local && j >= local) this.corner[(i - local) * globals + j - local]! += product;
      }
    }
  }

  /** The system, every unknown held back by a share of its own square (Levenberg and Marquardt). @throws RangeError when some unknown is tied to nothing. */
  system(damping = 0): BorderedSystem {
    const band = new BandedMatrix(this.band.n, this.band.half);
    band.data.set(this.band.data);
    for (let i = 0; i < this.local && damping > 0; i++) band.add(i, i, damping * this.band.get(i, i));
    const corner = Float64Array.from(this.corner);
    for (let g = 0; g < this.globals; g++) corner[g * this.globals + g]! *= 1 + damping;
    return new BorderedSystem(band, this.border, corner);
  }

  /** The step that makes the sum least, local unknowns first, by a system of these equations. */
  step(system: BorderedSystem): Float64Array {
    const { local, global } = system.solve(this.rhs.subarray(0, this.local), this.rhs.subarray(this.local));
    const out = new Float64Array(this.local + this.globals);
    out.set(local);
    out.set(global, this.local);
    return out;
  }
}

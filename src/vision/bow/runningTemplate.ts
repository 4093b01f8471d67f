import { type Address, kernels, Region } from '../kernels/kernels';

/** The kernels' memory for the template in use. */
const memory = { mean: new Region(), weights: new Region() };

/**
 * Mean look of a part of the bow over the frames seen so far, and how steady each sample is. What lies behind
 * the bow changes as it moves, so its samples grow unsteady and lose their say.
 */
export class RunningTemplate {
  readonly mean: Float32Array;
  /** How much each sample is believed: 1 / variance, scaled so that a steady sample has about 1. */
  readonly weights: Float32Array;
  private readonly variance: Float32Array;
  private seen = 0;

  /** `trust` is how much each sample is believed before anything has moved, 0..1. */
  constructor(first: Float32Array, trust: (index: number) => number) {
    this.mean = first.slice();
    this.weights = new Float32Array(first.length);
    this.variance = new Float32Array(first.length);
    for (let i = 0; i < first.length; i++) {
      const known = !Number.isNaN(first[i]!);
      if (!known) this.mean[i] = 0;
      this.variance[i] = known ? NOISE / Math.max(1e-3, trust(i)) : NOISE * 1e3;
      this.weights[i] = NOISE / this.variance[i]!;
    }
  }

  /**
   * Brings `length` samples of the template from `from` on to the kernels, until another is brought: tells how much as many
   * samples seen, at an address, look like them: weighted correlation, -1..1. Samples that are NaN are passed over; NaN where
   * less than `least` of the weight is left.
   */
  compare(from = 0, length = this.mean.length, least = 0): (seen: Address) => number {
    const mean = memory.mean.hold(this.mean.subarray(from, from + length));
    const weights = memory.weights.hold(this.weights.subarray(from, from + length));
    return (seen) => kernels.correlate(seen, mean, weights, length, least);
  }

  /** Takes in a further look, brought to the same brightness and contrast first. Samples that are NaN are passed over. */
  learn(look: Float32Array, rowLength: number): void {
    this.seen++;
    const rate = Math.max(1 / (this.seen + 3), 1 / MEMORY);
    for (let row = 0; row < look.length; row += rowLength) {
      let sw = 0;
      let sa = 0;
      let sb = 0;
      for (let i = row; i < row + rowLength; i++) {
        const v = look[i]!;
        if (Number.isNaN(v)) continue;
        sw += this.weights[i]!;
        sa += this.weights[i]! * v;
        sb += this.weights[i]! * this.mean[i]!;
      }
      if (sw < 1e-3) continue;
      // Follow half of a change of brightness, so that slow changes of light do not count as unsteadiness.
      const shift = (sa - sb) / sw / 2;
      for (let i = row; i < row + rowLength; i++) {
        const v = look[i]! - shift;
        if (Number.isNaN(v)) continue;
        const e = v - this.mean[i]!;
        this.mean[i]! += rate * e;
        this.variance[i]! += rate * (e * e - this.variance[i]!);
        this.weights[i] = NOISE / (NOISE + this.variance[i]!);
      }
    }
  }
}

/** Variance of brightness (grey levels squared) at which a sample's say has halved: noise and small misplacement (ours). */
const NOISE = 150;
/** Frames after which old looks fade. */
const MEMORY = 60;

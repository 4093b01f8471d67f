import type { BowStrip } from './bowStrip';

/** Grey levels at which a ridge counts fully. */
const CLEAR = 18;
/** One side of a band counts for more than a clear ridge, up to this. */
const MOST_CLEAR = 3;

/** Sums over the samples of each cross section up to every place, so that a mean costs the same however wide it is. */
export class StripSums {
  private readonly sums: Float64Array;
  /** How many samples were in the picture. */
  private readonly counts: Uint16Array;
  private readonly width: number;

  constructor(private readonly strip: BowStrip) {
    this.width = 2 * strip.half + 2;
    const rows = strip.stations.length;
    this.sums = new Float64Array(rows * this.width);
    this.counts = new Uint16Array(rows * this.width);
    for (let k = 0; k < rows; k++) {
      let sum = 0;
      let count = 0;
      for (let j = 0; j <= 2 * strip.half; j++) {
        const v = strip.values[k * (this.width - 1) + j]!;
        if (!Number.isNaN(v)) {
          sum += v;
          count++;
        }
        this.sums[k * this.width + j + 1] = sum;
        this.counts[k * this.width + j + 1] = count;
      }
    }
  }

  /** Mean brightness between two offsets (samples) of a cross section; NaN outside the picture. */
  private mean(k: number, from: number, to: number): number {
    const { half } = this.strip;
    const first = Math.max(Math.round(from), -half) + half;
    const last = Math.min(Math.round(to), half) + half + 1;
    if (last <= first) return Number.NaN;
    const [a, b] = [k * this.width + first, k * this.width + last];
    const n = this.counts[b]! - this.counts[a]!;
    return n ? (this.sums[b]! - this.sums[a]!) / n : Number.NaN;
  }

  /** Brightness of a band about an offset (samples) of a cross section against its surroundings, in clear ridges, -1..1. */
  ridge(k: number, at: number, halfWidth: number): number {
    const inner = this.mean(k, at - halfWidth, at + halfWidth);
    const left = this.mean(k, at - 3 * halfWidth - 1, at - halfWidth - 1);
    const right = this.mean(k, at + halfWidth + 1, at + 3 * halfWidth + 1);
    const outer = Number.isNaN(left) ? right : Number.isNaN(right) ? left : (left + right) / 2;
    const r = (inner - outer) / CLEAR;
    return Number.isNaN(r) ? 0 : Math.max(-1, Math.min(1, r));
  }

  /** The same with each side heard for itself, up to {@link MOST_CLEAR}: a stick on one side does not drown what the other tells. */
  band(k: number, at: number, halfWidth: number): number {
    const inner = this.mean(k, at - halfWidth, at + halfWidth);
    const side = (from: number, to: number) => {
      const r = (inner - this.mean(k, from, to)) / CLEAR;
      return Number.isNaN(r) ? 0 : Math.max(-MOST_CLEAR, Math.min(MOST_CLEAR, r));
    };
    return (side(at - 3 * halfWidth - 1, at - halfWidth - 1) + side(at + halfWidth + 1, at + 3 * halfWidth + 1)) / 2;
  }
}

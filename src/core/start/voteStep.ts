import { choleskyFactor } from '../linalg/cholesky';
import { normal, seededRandom } from '../random';

/** Strength of an edge across a line of sight, and how far along it each unknown moves the line. */
export interface Ballot {
  readonly strength: Float32Array;
  /** Pixels between neighbouring numbers of `strength`; its middle is where the line lies now. */
  readonly pitch: number;
  /** Pixels moved across by a unit of each unknown. */
  readonly moves: Float64Array;
}

/** Rounds of draws about the best of the last, each narrower (cross-entropy method; Rubinstein 1999, from memory). */
const ROUNDS = 6;
const DRAWS = 180;
const ELITE = 20;

/**
 * The step that lays most ballots on an edge without going far from what is already known.
 * @param covariance of the step before anything is looked at, row-major
 * @param worth weight of the ballots (sum of strengths) against half the squared distance in sigmas
 * @returns the step, its mean strength and that of staying
 */
export function voteStep(
  ballots: readonly Ballot[],
  covariance: Float64Array,
  unknowns: number,
  worth: number,
): { readonly step: Float64Array; readonly mean: number; readonly stay: number } {
  const random = seededRandom(7);
  const factor = choleskyFactor(covariance, unknowns);
  // Hot loop: all ballots in rows, moves in numbers of their strengths.
  const moves = Float64Array.from({ length: unknowns * ballots.length }, (_, i) => {
    const ballot = ballots[Math.floor(i / unknowns)]!;
    return ballot.moves[i % unknowns]! / ballot.pitch;
  });
  const first = new Int32Array(ballots.length + 1);
  ballots.forEach(({ strength }, b) => {
    first[b + 1] = first[b]! + strength.length;
  });
  const strengths = new Float64Array(first[ballots.length]!);
  ballots.forEach(({ strength }, b) => {
    strengths.set(strength, first[b]);
  });
  const meanAt = (step: Float64Array): number => strengthAt(strengths, first, moves, step) / Math.max(1, ballots.length);
  // Drawn as independent standard numbers, turned into steps by the factor.
  let middle = new Float64Array(unknowns);
  let spread = new Float64Array(unknowns).fill(1);
  const stepOf = (z: ArrayLike<number>): Float64Array => {
    const out = new Float64Array(unknowns);
    for (let i = 0; i < unknowns; i++) for (let k = 0; k <= i; k++) out[i]! += factor[i * unknowns + k]! * z[k]!;
    return out;
  };
  const scoreOf = (z: Float64Array): number => worth * ballots.length * meanAt(stepOf(z)) - 0.5 * z.reduce((sum, x) => sum + x * x, 0);
  let best = { z: middle, score: scoreOf(middle) };
  for (let round = 0; round < ROUNDS; round++) {
    const drawn = Array.from({ length: DRAWS }, () => {
      const z = middle.map((m, i) => m + spread[i]! * normal(random));
      return { z, score: scoreOf(z) };
    });
    drawn.push(best);
    drawn.sort((a, b) => b.score - a.score);
    best = drawn[0]!;
    const elite = drawn.slice(0, ELITE);
    middle = middle.map((_, i) => elite.reduce((sum, e) => sum + e.z[i]!, 0) / ELITE);
    spread = middle.map((m, i) => Math.sqrt(elite.reduce((sum, e) => sum + (e.z[i]! - m) ** 2, 0) / ELITE) + 1e-3);
  }
  const step = stepOf(best.z);
  return { step, mean: meanAt(step), stay: meanAt(new Float64Array(unknowns)) };
}

/** Sum of the strengths on which ballots lie after a step; those of ballot b go from first[b] up to first[b + 1]. */
function strengthAt(strengths: Float64Array, first: Int32Array, moves: Float64Array, step: Float64Array): number {
  const unknowns = step.length;
  const count = first.length - 1;
  let sum = 0;
  let m = 0;
  let from = 0;
  for (let b = 0; b < count; b++) {
    const last = first[b + 1]! - 1;
    let at = 0.5 * (last - from);
    for (let k = 0; k < unknowns; k++) at += moves[m + k]! * step[k]!;
    m += unknowns;
    if (at >= 0 && at < last - from) {
      const low = at | 0;
      const i = from + low;
      sum += strengths[i]! + (strengths[i + 1]! - strengths[i]!) * (at - low);
    }
    from = last + 1;
  }
  return sum;
}

import type { Pose } from '../geometry/pose';
import { choleskyFactor, choleskySolve } from '../linalg/cholesky';
import type { BowState } from './bowState';
import { type BowContext, CONTACT_SIGMA, IMAGE_RESIDUALS, imageResiduals, LEVEL_SIGMA, MID_STRIP, SKEW_SIGMA } from './residuals';
import type { BowSighting } from './sighting';

/** Where the state is expected, with standard uncertainties; left out where nothing is known. */
export interface StatePrior {
  readonly state: BowState;
  readonly sigma: BowState;
}

const STEP = [0.05, 0.02, 0.02, 1e-4] as const;
const KEYS = ['contact', 'skew', 'inclination', 'position'] as const;
export const stateVector = (s: BowState): [number, number, number, number] => [s.contact, s.skew, s.inclination, s.position];
export const stateOfVector = (v: ArrayLike<number>, at = 0): BowState => ({
  contact: v[at]!,
  skew: v[at + 1]!,
  inclination: v[at + 2]!,
  position: v[at + 3]!,
});

/** How far beyond an end of the hair the contact may seem to lie (share of the hair; ours). */
const HAIR_END_SIGMA = 0.04;

const robust = (r: number) => 1 / (1 + (r / 3) ** 2);

/** Weighted sum of squares with large misfits growing only slowly (Cauchy at 3 sigma). */
const cauchyCost = (r: number) => 9 * Math.log(1 + (r / 3) ** 2);

/**
 * Most likely state of the bow in one frame if it lies on the given string.
 * Cost is in units of chi squared, comparable between strings.
 */
export function solveFrame(context: BowContext, pose: Pose, sighting: BowSighting, string: number, start: BowState, prior?: StatePrior): { state: BowState; cost: number } {
  const natural = context.levels.natural[string]!;
  const length = context.strings[string]!.nut[0];
  let x = stateVector(start);
  const M = IMAGE_RESIDUALS + 4 + (prior ? 4 : 0);
  const r = new Float64Array(M);
  const rr = new Float64Array(M);
  const evaluate = (v: ArrayLike<number>, out: Float64Array) => {
    const state = stateOfVector(v);
    imageResiduals(context, pose, sighting, string, state, out, 0);
    out[4] = (state.inclination - natural) / LEVEL_SIGMA;
    out[5] = state.skew / SKEW_SIGMA;
    out[6] = (state.contact - MID_STRIP * length) / (CONTACT_SIGMA * length);
    // Only hair can play: a string crossed beyond its ends is not the one.
    out[7] = (Math.min(0, state.position) + Math.max(0, state.position - 1)) / HAIR_END_SIGMA;
    if (prior)
      KEYS.forEach((key, k) => {
        out[8 + k] = (state[key] - prior.state[key]) / prior.sigma[key];
      });
  };
  const costOf = (res: Float64Array) => {
    let c = 0;
    for (let i = 0; i < M; i++) c += i < 4 ? cauchyCost(res[i]!) : res[i]! * res[i]!;
    return c;
  };
  evaluate(x, r);
  let cost = costOf(r);
  let damping = 1e-3;
  for (let iteration = 0; iteration < 12; iteration++) {
    const J: Float64Array[] = STEP.map((h, k) => {
      const moved = [...x];
      moved[k]! += h;
      evaluate(moved, rr);
      return rr.map((value, i) => (value - r[i]!) / h);
    });
    const normal = new Float64Array(16);
    const rhs = new Float64Array(4);
    for (let i = 0; i < M; i++) {
      const w = i < 4 ? robust(r[i]!) : 1;
      for (let a = 0; a < 4; a++) {
        rhs[a]! -= w * J[a]![i]! * r[i]!;
        for (let b = 0; b < 4; b++) normal[4 * a + b]! += w * J[a]![i]! * J[b]![i]!;
      }
    }
    // Position without any end seen has no measurement; a tiny weight keeps it where it is.
    normal[15]! += 1;
    normal[0]! += 1e-6;
    let done = true;
    for (let attempt = 0; attempt < 5; attempt++) {
      const damped = Float64Array.from(normal);
      for (let k = 0; k < 4; k++) damped[5 * k]! *= 1 + damping;
      const delta = choleskySolve(choleskyFactor(damped, 4), 4, rhs);
      const next = x.map((value, k) => value + delta[k]!) as typeof x;
      evaluate(next, rr);
      const c = costOf(rr);
      if (c <= cost && Math.abs(next[1]) < 80 && Math.abs(next[2]) < 80) {
        done = cost - c < 1e-4;
        x = next;
        r.set(rr);
        cost = c;
        damping = Math.max(1e-9, damping / 10);
        break;
      }
      damping = Math.max(damping * 10, 1e-3);
    }
    if (done) break;
  }
  return { state: stateOfVector(x), cost };
}

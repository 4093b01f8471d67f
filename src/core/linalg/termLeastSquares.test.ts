import { Matrix, pseudoInverse } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { normal, seededRandom } from '../random';
import { solveTerms, type Term } from './termLeastSquares';

/** A drifting walk of `n` places seen through one unknown offset that all sightings share. */
function walk(n: number, seed: number) {
  const random = seededRandom(seed);
  const seen = Array.from({ length: n }, (_, i) => Math.sin(i / 4) + 0.4 + 0.1 * normal(random));
  const terms: Term[] = [
    { at: [n], residuals: ([o]) => [(o! - 0.3) / 0.2] },
    ...seen.map((y, i): Term => ({ at: [i, n], residuals: ([x, o]) => [(x! + o! - y) / 0.1] })),
    ...seen.slice(1).map((_, i): Term => ({ at: [i, i + 1], residuals: ([a, b]) => [(b! - a!) / 0.3] })),
    { at: [0], residuals: ([x]) => [x! / 0.5] },
  ];
  return { seen, terms };
}

describe('least squares of terms', () => {
  it('agrees with ml-matrix on a linear problem: values and covariance', () => {
    const n = 12;
    const { terms } = walk(n, 3);
    const solved = solveTerms({ start: new Float64Array(n + 1), local: n, half: 1, step: () => 1e-4, terms });
    const rows: number[][] = [];
    const right: number[] = [];
    for (const { at, residuals } of terms) {
      const zero = residuals(at.map(() => 0))[0]!;
      const row = new Array<number>(n + 1).fill(0);
      at.forEach((u, k) => {
        row[u] = residuals(at.map((_, j) => (j === k ? 1 : 0)))[0]! - zero;
      });
      rows.push(row);
      right.push(-zero);
    }
    const A = new Matrix(rows);
    const expected = pseudoInverse(A).mmul(Matrix.columnVector(right)).to1DArray();
    solved.values.forEach((v, i) => {
      expect(v).toBeCloseTo(expected[i]!, 4);
    });
    const covariance = pseudoInverse(A.transpose().mmul(A));
    for (const i of [0, 5, 11]) expect(solved.system.covariance(i, i)).toBeCloseTo(covariance.get(i, i), 5);
    expect(solved.system.covariance(5, 6)).toBeCloseTo(covariance.get(5, 6), 5);
  });

  it('lets a stray sighting lose its say', () => {
    const n = 20;
    const terms: Term[] = [
      ...Array.from({ length: n }, (_, i): Term => ({ at: [i], residuals: ([x]) => [(x! - (i === 9 ? 40 : 1)) / 0.1], robust: 2 })),
      ...Array.from({ length: n - 1 }, (_, i): Term => ({ at: [i, i + 1], residuals: ([a, b]) => [(b! - a!) / 0.2] })),
      { at: [n], residuals: ([g]) => [g!] },
    ];
    const { values } = solveTerms({ start: new Float64Array(n + 1).fill(1), local: n, half: 1, step: () => 1e-4, terms });
    expect(Math.abs(values[9]! - 1)).toBeLessThan(0.3);
  });

  it('follows a curved measurement to the closed form', () => {
    // Two ranges to a point on a line: x from hypot(x, 3) = 5.
    const terms: Term[] = [
      { at: [0], residuals: ([x]) => [(Math.hypot(x!, 3) - 5) / 0.01] },
      { at: [1], residuals: ([g]) => [g!] },
    ];
    expect(solveTerms({ start: Float64Array.of(1, 0), local: 1, half: 0, step: () => 1e-5, terms }).values[0]).toBeCloseTo(4, 3);
  });

  it('refuses an unknown that nothing ties', () => {
    expect(() => solveTerms({ start: new Float64Array(2), local: 1, half: 0, step: () => 1e-3, terms: [{ at: [1], residuals: ([g]) => [g!] }] })).toThrow(RangeError);
  });
});

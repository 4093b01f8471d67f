import fc from 'fast-check';
import { inverse, Matrix, solve } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { normal, seededRandom } from '../random';
import { BandedMatrix } from './bandedCholesky';
import { BorderedSystem } from './borderedSystem';

/** A random system of n neighbours and so many global unknowns, positive definite as J'J + 1 of random rows, and the same dense. */
function randomSystem(n: number, half: number, globals: number, seed: number) {
  const random = seededRandom(seed);
  const band = new BandedMatrix(n, half);
  const border = Array.from({ length: globals }, () => new Float64Array(n));
  const corner = new Float64Array(globals * globals);
  const dense = Matrix.eye(n + globals, n + globals);
  for (let i = 0; i < n; i++) band.add(i, i, 1);
  for (let g = 0; g < globals; g++) corner[g * globals + g] = 1;
  for (let first = 0; first + half < n; first++) {
    // Each row touches neighbours and every global.
    const at = [...Array.from({ length: half + 1 }, (_, k) => first + k), ...Array.from({ length: globals }, (_, g) => n + g)];
    const row = at.map(() => normal(random));
    at.forEach((i, a) => {
      at.forEach((j, b) => {
        const v = row[a]! * row[b]!;
        dense.set(i, j, dense.get(i, j) + v);
        if (i < n && j < n && j <= i) band.add(i, j, v);
        else if (i >= n && j >= n) corner[(i - n) * globals + (j - n)]! += v;
        else if (i < n && j >= n) border[j - n]![i]! += v;
      });
    });
  }
  return { system: new BorderedSystem(band, border, corner), dense, random };
}

describe('a banded system with a border', () => {
  it('is solved as a dense solver solves it (ml-matrix)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 6, max: 24 }), fc.integer({ min: 1, max: 4 }), fc.integer({ min: 0, max: 3 }), fc.integer(), (n, half, globals, seed) => {
        const { system, dense, random } = randomSystem(n, half, globals, seed);
        const b = Array.from({ length: n + globals }, () => normal(random));
        const ours = system.solve(b.slice(0, n), b.slice(n));
        const theirs = solve(dense, Matrix.columnVector(b)).to1DArray();
        [...ours.local, ...ours.global].forEach((x, i) => {
          expect(x).toBeCloseTo(theirs[i]!, 7);
        });
      }),
      { numRuns: 40 },
    );
  });
  it('has the covariance of the whole, not of the band alone', () => {
    const { system, dense } = randomSystem(16, 3, 2, 9);
    const theirs = inverse(dense);
    const block = system.covarianceBlock(5, 3);
    for (let a = 0; a < 3; a++) for (let b = 0; b < 3; b++) expect(block[3 * a + b]).toBeCloseTo(theirs.get(5 + a, 5 + b), 8);
    expect(system.covariance(15, 12)).toBeCloseTo(theirs.get(15, 12), 8);
  });
  it('refuses a system in which a global unknown is not told', () => {
    const band = new BandedMatrix(2, 1);
    band.add(0, 0, 1);
    band.add(1, 1, 1);
    // The border is told by the neighbours alone: its own square leaves nothing over.
    expect(() => new BorderedSystem(band, [Float64Array.of(1, 1)], Float64Array.of(2))).toThrow(RangeError);
  });
});

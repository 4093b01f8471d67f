import fc from 'fast-check';
import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { inverse, Matrix, solve } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { normal, seededRandom } from '../random';
import { BandedCholesky, BandedMatrix } from './bandedCholesky';
import { choleskyFactor, choleskyInverse, choleskySolve } from './cholesky';
import { solveLeastSquares } from './leastSquares';
import { linearFit } from './linearFit';
import { NormalEquations } from './normalEquations';
import { robustLine } from './robustLine';

/** A random band matrix that is positive definite by its heavy diagonal, and the same matrix dense. */
function randomBand(n: number, half: number, seed: number) {
  const random = seededRandom(seed);
  const band = new BandedMatrix(n, half);
  const dense = Matrix.zeros(n, n);
  for (let i = 0; i < n; i++) {
    for (let j = Math.max(0, i - half); j <= i; j++) {
      const value = i === j ? 2 * half + 2 + random() : random() * 2 - 1;
      band.add(i, j, value);
      dense.set(i, j, value);
      dense.set(j, i, value);
    }
  }
  return { band, dense, random };
}

describe('banded Cholesky', () => {
  it('agrees with a dense solver from another library (ml-matrix)', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 30 }), fc.integer({ min: 1, max: 5 }), fc.integer(), (n, half, seed) => {
        const { band, dense, random } = randomBand(n, Math.min(half, n - 1), seed);
        const b = Array.from({ length: n }, () => normal(random));
        const ours = new BandedCholesky(band).solve(b);
        const theirs = solve(dense, Matrix.columnVector(b)).to1DArray();
        ours.forEach((x, i) => {
          expect(x).toBeCloseTo(theirs[i]!, 8);
        });
      }),
      { numRuns: 40 },
    );
  });

  it('gives the inverse inside the band', () => {
    const { band, dense } = randomBand(20, 3, 5);
    const ours = new BandedCholesky(band).inverseBand();
    const theirs = inverse(dense);
    for (let i = 0; i < 20; i++) for (let j = Math.max(0, i - 3); j <= i; j++) expect(ours.get(i, j)).toBeCloseTo(theirs.get(i, j), 9);
  });

  it('refuses a matrix that is not positive definite', () => {
    const band = new BandedMatrix(2, 1);
    band.add(0, 0, 1);
    band.add(1, 1, 1);
    band.add(1, 0, 2);
    expect(() => new BandedCholesky(band)).toThrow(RangeError);
  });
});

describe('dense Cholesky', () => {
  it('inverts', () => {
    const { dense } = randomBand(8, 4, 3);
    const flat = Float64Array.from(dense.to1DArray());
    const l = choleskyFactor(flat, 8);
    const inv = choleskyInverse(l, 8);
    const theirs = inverse(dense).to1DArray();
    inv.forEach((x, i) => {
      expect(x).toBeCloseTo(theirs[i]!, 9);
    });
    expect(choleskySolve(l, 8, flat.slice(0, 8))[0]).toBeCloseTo(1, 9);
  });
});

describe('least squares', () => {
  const xs = Array.from({ length: 40 }, (_, i) => i / 10);
  const random = seededRandom(9);
  const ys = xs.map((x) => 3 * Math.exp(-0.7 * x) + 0.5 + 0.02 * normal(random));
  const curve = (p: ArrayLike<number>) => (x: number) => p[0]! * Math.exp(-p[1]! * x) + p[2]!;

  it('finds the same curve as another library (ml-levenberg-marquardt)', () => {
    const ours = solveLeastSquares<number[]>({
      start: [1, 1, 0],
      unknowns: 3,
      increments: [1e-5, 1e-5, 1e-5],
      residuals: (p) => xs.map((x, i) => (ys[i]! - curve(p)(x)) / 0.02),
      step: (p, d) => p.map((v, i) => v + d[i]!),
      iterations: 60,
    });
    const theirs = levenbergMarquardt({ x: xs, y: ys }, curve, { initialValues: [1, 1, 0], damping: 0.01, maxIterations: 200, gradientDifference: 1e-6 });
    ours.state.forEach((v, i) => {
      expect(v).toBeCloseTo(theirs.parameterValues[i]!, 3);
    });
  });

  it('states the uncertainty of a mean in closed form', () => {
    const values = [1, 2, 3, 4, 5];
    const { state, covariance } = solveLeastSquares<number>({
      start: 0,
      unknowns: 1,
      increments: [1e-4],
      residuals: (m) => values.map((v) => (v - m) / 2),
      step: (m, d) => m + d[0]!,
    });
    expect(state).toBeCloseTo(3, 6);
    expect(Math.sqrt(covariance![0]!)).toBeCloseTo(2 / Math.sqrt(5), 6);
  });
});

describe('a robust line', () => {
  it('is the ordinary least-squares line where nothing strays, with its closed-form variance', () => {
    const points = Array.from({ length: 41 }, (_, i) => ({ s: i / 40, o: 2 + 3 * (i / 40), w: 1 }));
    const line = robustLine(points, { start: 0, end: 0, spread: 50 }, 0.5, 12);
    expect(line.start).toBeCloseTo(2, 3);
    expect(line.end).toBeCloseTo(5, 3);
    // Closed form: 1 / n at the middle of evenly spaced places.
    expect(line.varianceAt(0.5)).toBeCloseTo(1 / 41, 4);
  });
  it('is not pulled by a third of strays', () => {
    const points = Array.from({ length: 60 }, (_, i) => ({ s: i / 59, o: i % 3 === 0 ? 9 : 1 - i / 59, w: 1 }));
    const line = robustLine(points, { start: 0, end: 0, spread: 2 }, 0.2, 12);
    expect(line.start).toBeCloseTo(1, 1);
    expect(line.end).toBeCloseTo(0, 1);
  });
});

describe('linear fit', () => {
  it('agrees with the normal equations solved by another library (ml-matrix), weighted or not', () => {
    fc.assert(
      fc.property(fc.integer(), fc.boolean(), (seed, weighted) => {
        const random = seededRandom(seed);
        const terms = Array.from({ length: 12 }, () => [1, normal(random), normal(random)]);
        const values = terms.map(() => normal(random));
        const weights = values.map(() => (weighted ? 0.1 + random() : 1));
        const [a, b, w] = [new Matrix(terms), Matrix.columnVector(values), Matrix.diag(weights)];
        const expected = solve(a.transpose().mmul(w).mmul(a), a.transpose().mmul(w).mmul(b)).to1DArray();
        linearFit(terms, values, weighted ? weights : undefined)!.forEach((x, i) => {
          expect(x).toBeCloseTo(expected[i]!, 5);
        });
      }),
      { numRuns: 40 },
    );
  });
  it('says nothing without a term', () => {
    expect(linearFit([], [])).toHaveLength(0);
  });
});

describe('normal equations of neighbours and globals', () => {
  it('step to the weighted least squares that another library finds (ml-matrix), with its covariance', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 3 }), fc.integer({ min: 0, max: 2 }), fc.integer(), (local, half, globals, seed) => {
        const random = seededRandom(seed);
        const n = local + globals;
        const equations = new NormalEquations(local, half, globals);
        const rows: number[][] = [];
        const values: number[] = [];
        const weights: number[] = [];
        const add = (at: number[]) => {
          const slope = at.map(() => normal(random));
          const [value, weight] = [normal(random), 0.2 + random()];
          equations.add(at, slope, value, weight);
          rows.push(Array.from({ length: n }, (_, i) => slope[at.indexOf(i)] ?? 0));
          values.push(value);
          weights.push(weight);
        };
        for (let i = 0; i < n; i++) add([i]);
        for (let i = 0; i < local; i++)
          add([...new Set([i, Math.min(local - 1, i + Math.min(half, 1 + Math.floor(half * random()))), ...(globals ? [local + Math.floor(globals * random())] : [])])]);
        const [a, w] = [new Matrix(rows), Matrix.diag(weights)];
        const square = a.transpose().mmul(w).mmul(a);
        const expected = solve(square, a.transpose().mmul(w).mmul(Matrix.columnVector(values)).mul(-1)).to1DArray();
        const system = equations.system();
        equations.step(system).forEach((x, i) => {
          expect(x).toBeCloseTo(expected[i]!, 7);
        });
        expect(system.covariance(0, 0)).toBeCloseTo(inverse(square).get(0, 0), 7);
      }),
      { numRuns: 60 },
    );
  });
  it('held back by their own squares step less far', () => {
    const equations = new NormalEquations(1, 0, 0);
    equations.add([0], [2], -6, 1);
    expect(equations.step(equations.system())[0]).toBeCloseTo(3, 9);
    expect(equations.step(equations.system(1))[0]).toBeCloseTo(1.5, 9);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normal, seededRandom } from '../../core/random';
import { sampleLuma } from '../image/gray';
import { doubles, kernels, lumaAddress, Region, singles } from './kernels';

describe('their memory', () => {
  it('holds what it was given while it grows, each thing apart', () => {
    const regions = Array.from({ length: 6 }, () => new Region());
    const given = regions.map((region, k) => {
      const values = Float32Array.from({ length: 40_000 * (k + 1) + k }, (_, i) => i + k / 8);
      return { values, at: region.hold(values) };
    });
    for (const { values, at } of given) expect(singles(at, values.length).every((v, i) => v === values[i])).toBe(true);
    expect(regions[2]!.hold(Float32Array.of(7))).toBe(given[2]!.at);
  });

  it('takes a frame in once, and another one anew', () => {
    const frame = (v: number) => ({ index: 0, t: 0, width: 3, height: 2, luma: Uint8Array.from({ length: 6 }, (_, i) => v + i) });
    const [first, second] = [frame(10), frame(90)];
    const seen = () => [...new Uint8Array(kernels.memory.buffer, lumaAddress(second), 6)];
    expect([...new Uint8Array(kernels.memory.buffer, lumaAddress(first), 6)]).toEqual([...first.luma]);
    expect(seen()).toEqual([...second.luma]);
    expect(seen()).toEqual([...second.luma]);
  });
});

const picture = (width: number, height: number, seed: number) => {
  const random = seededRandom(seed);
  return { index: 0, t: 0, width, height, luma: Uint8Array.from({ length: width * height }, () => Math.floor(256 * random())) };
};
/** Numbers spread evenly: doubles of their own accord crowd about zero. */
const evenly = (from: number, to: number) => fc.integer({ min: 0, max: 9973 }).map((v) => from + ((to - from) * v) / 9973);
const place = evenly(-6, 46);
const slant = evenly(0, 2 * Math.PI);

describe('the picture along lines', () => {
  const frame = picture(40, 31, 5);
  const at = (x: number, y: number) => sampleLuma(frame.luma, frame.width, frame.height, x, y);

  it('is cut across the bow as the mean of four samples along it, NaN where one of them lies outside', () => {
    const [row, line] = [new Region(), new Region()];
    fc.assert(
      fc.property(place, place, slant, fc.integer({ min: 0, max: 9 }), evenly(0.2, 2), (x, y, turn, half, pitch) => {
        const [ux, uy] = [Math.cos(turn), Math.sin(turn)];
        const out = row.take(4 * (2 * half + 1));
        kernels.cutAcross(lumaAddress(frame), frame.width, frame.height, x, y, ux, uy, half, pitch, line.take(4 * (2 * half + 1)), out);
        singles(out, 2 * half + 1).forEach((v, k) => {
          const o = (k - half) * pitch;
          const expected = [-1.5, -0.5, 0.5, 1.5].reduce((sum, a) => sum + at(x - uy * o + ux * a, y + ux * o + uy * a) / 4, 0);
          if (Number.isNaN(expected)) expect(v).toBeNaN();
          else expect(v).toBeCloseTo(expected, 3);
        });
      }),
    );
  });

  it("is cut in patches without half of each row's mean, and tells how much is missing", () => {
    const memory = new Region();
    const scale = evenly(0.1, 2);
    fc.assert(
      fc.property(place, place, slant, scale, scale, (x, y, turn, da, db) => {
        const [ux, uy] = [Math.cos(turn), Math.sin(turn)];
        const [along, across] = [4, 2];
        const out = memory.take(4 * 45);
        const missing = kernels.cutPatch(lumaAddress(frame), frame.width, frame.height, x, y, ux, uy, along, da, across, db, out);
        const seen = singles(out, 45);
        let absent = 0;
        for (let b = -across; b <= across; b++) {
          const row = Array.from({ length: 9 }, (_, k) => at(x + ux * (k - along) * da - uy * b * db, y + uy * (k - along) * da + ux * b * db));
          const inside = row.filter((v) => !Number.isNaN(v));
          absent += 9 - inside.length;
          const half = inside.length > 0 ? inside.reduce((s, v) => s + v, 0) / inside.length / 2 : 0;
          row.forEach((v, k) => {
            const found = seen[(b + across) * 9 + k]!;
            if (Number.isNaN(v)) expect(found).toBeNaN();
            else expect(found).toBeCloseTo(v - half, 3);
          });
        }
        expect(missing).toBe(absent);
      }),
    );
  });
});

/** Correlation as it is defined, with 20 squared grey levels of doubt on both sides. */
function correlation(seen: readonly number[], mean: readonly number[], weights: readonly number[]): number {
  const known = seen.flatMap((v, i) => (Number.isNaN(v) ? [] : [i]));
  const sum = (f: (i: number) => number) => known.reduce((s, i) => s + weights[i]! * f(i), 0);
  const total = sum(() => 1);
  const [ma, mb] = [sum((i) => seen[i]!) / total, sum((i) => mean[i]!) / total];
  return sum((i) => (seen[i]! - ma) * (mean[i]! - mb)) / Math.sqrt((sum((i) => (seen[i]! - ma) ** 2) + 20 * total) * (sum((i) => (mean[i]! - mb) ** 2) + 20 * total));
}

describe('correlation of what is seen with what is known', () => {
  const memory = { seen: new Region(), mean: new Region(), weights: new Region() };
  const correlate = (seen: Float32Array, mean: Float32Array, weights: Float32Array, least = 0) =>
    kernels.correlate(memory.seen.hold(seen), memory.mean.hold(mean), memory.weights.hold(weights), mean.length, least);
  const random = seededRandom(3);
  const known = Float32Array.from({ length: 64 }, () => 40 * normal(random));
  const even = new Float32Array(64).fill(1);

  it('is what the definition says, for any length and whatever is missing', () => {
    const grey = fc.integer({ min: 0, max: 255 });
    const sample = fc.tuple(fc.oneof({ weight: 5, arbitrary: grey }, { weight: 1, arbitrary: fc.constant(Number.NaN) }), grey, fc.constantFrom(0.125, 0.5, 1));
    fc.assert(
      fc.property(fc.array(sample, { minLength: 3, maxLength: 90 }), (samples) => {
        const [seen, mean, weights] = [0, 1, 2].map((k) => samples.map((s) => s[k]!)) as [number[], number[], number[]];
        fc.pre(seen.some((v) => !Number.isNaN(v)));
        expect(correlate(Float32Array.from(seen), Float32Array.from(mean), Float32Array.from(weights))).toBeCloseTo(correlation(seen, mean, weights), 9);
      }),
    );
  });
  it('is near 1 for the same in other light, near -1 for its negative, and near 0 for something else', () => {
    const other = Float32Array.from({ length: 64 }, () => 40 * normal(random));
    expect(correlate(known.map((v) => 0.6 * v + 80) as Float32Array, known, even)).toBeGreaterThan(0.95);
    expect(correlate(known.map((v) => -v) as Float32Array, known, even)).toBeLessThan(-0.95);
    expect(Math.abs(correlate(other, known, even))).toBeLessThan(0.4);
  });
  it('does not take grain on a flat wall for anything', () => {
    expect(correlate(known.map((v) => 0.02 * v) as Float32Array, known, even)).toBeLessThan(0.25);
  });
  it('passes over what is covered, and says nothing where too little is left', () => {
    const covered = known.map((v, i) => (i < 40 ? Number.NaN : v)) as Float32Array;
    expect(correlate(covered, known, even, 20)).toBeGreaterThan(0.95);
    expect(correlate(covered, known, even, 30)).toBeNaN();
  });

  it('slides over a longer row, keeps the larger of old and new, and tells the largest', () => {
    const [row, t, w, out] = [new Region(), new Region(), new Region(), new Region()];
    fc.assert(
      fc.property(fc.integer(), fc.integer({ min: 4, max: 30 }), fc.integer({ min: 1, max: 14 }), (seed, count, offsets) => {
        const r = seededRandom(seed);
        const seen = Array.from({ length: count + offsets - 1 }, () => Math.round(255 * r()));
        const mean = Array.from({ length: count }, () => 40 * normal(r));
        const weights = Array.from({ length: count }, () => 0.1 + r());
        const middle = mean.reduce((s, m, i) => s + weights[i]! * m, 0) / weights.reduce((s, v) => s + v, 0);
        const before = Array.from({ length: offsets }, (_, o) => (o % 2 ? 0.5 : Number.NaN));
        const slots = out.hold(Float32Array.from(before));
        const top = kernels.slide(row.hold(Float32Array.from(seen)), t.hold(Float32Array.from(mean, (m) => m - middle)), w.hold(Float32Array.from(weights)), count, offsets, slots);
        const each = before.map((_, o) => correlation(seen.slice(o, o + count), mean, weights));
        each.forEach((c, o) => {
          expect(singles(slots, offsets)[o]).toBeCloseTo(o % 2 ? Math.max(0.5, c) : c, 5);
        });
        expect(top).toBeCloseTo(Math.max(0, ...each), 6);
      }),
    );
  });
});

describe('votes for a line', () => {
  it('are won by the line that most stations lie on', () => {
    const [reach, n] = [12, 30];
    const span = 2 * reach + 1;
    const shares = Float64Array.from({ length: n }, (_, k) => k / (n - 1));
    const [counts, where, best, all] = [new Region(), new Region(), new Region(), new Region()];
    fc.assert(
      fc.property(fc.integer({ min: -10, max: 10 }), fc.integer({ min: -10, max: 10 }), fc.integer(), (o1, o2, seed) => {
        const random = seededRandom(seed);
        const table = Float32Array.from({ length: n * span }, () => 0.3 * random());
        shares.forEach((s, k) => {
          table[k * span + Math.round(o1 + (o2 - o1) * s) + reach] = 1;
        });
        const at = best.take(24);
        doubles(at, 3).set([0, 0, Number.NEGATIVE_INFINITY]);
        const votes = all.take(4 * span * span);
        kernels.vote(counts.hold(table), span, where.hold(shares), n, 0, 0, reach, -reach, reach, 1, 0.01, 0.01, at, votes);
        const [found1, found2, vote] = doubles(at, 3);
        const voted = singles(votes, span * span);
        expect(voted[(o1 + reach) * span + o2 + reach]).toBeCloseTo(1, 5);
        expect(voted.filter((v) => v > 0.999)).toHaveLength(1);
        expect([found1, found2]).toEqual([o1, o2]);
        expect(vote).toBeCloseTo(1 - 0.01 * ((0.01 * o1) ** 2 + (0.01 * o2) ** 2), 5);
      }),
      { numRuns: 30 },
    );
  });
});

describe('products of columns', () => {
  it('are added up with their weights, wherever the points begin and however many they are', () => {
    const [table, sums] = [new Region(), new Region()];
    fc.assert(
      fc.property(fc.integer(), fc.integer({ min: 0, max: 9 }), fc.integer({ min: 1, max: 600 }), (seed, first, count) => {
        const random = seededRandom(seed);
        const room = (first + count + 7) & ~3;
        const values = Float32Array.from({ length: room * kernels.columns() }, () => Math.round(8 * normal(random)) / 4);
        const out = sums.take(8 * 81);
        kernels.products(table.hold(values), room, first, count, out);
        const found = doubles(out, 81);
        for (let p = 0; p < 8; p++) {
          for (let q = p; q < 9; q++) {
            let sum = 0;
            for (let i = first; i < first + count; i++) sum += values[p * room + i]! * values[q * room + i]! * values[9 * room + i]!;
            expect(found[9 * p + q], `${p} ${q}`).toBeCloseTo(sum, 2);
          }
        }
      }),
      { numRuns: 20 },
    );
  });
});

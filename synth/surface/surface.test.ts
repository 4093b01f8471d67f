import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cross, dot, length, normalize, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import { ball, carve, chain, type Field, gradient, halfSpace, join, meet, noise, roundCone, smoothMin } from './field';
import { type Bone, boneMatrix, skinWeights } from './skeleton';
import { meshField, type Surface } from './surfaceNets';

const vertex = (s: Surface, i: number): Vec3 => [s.positions[3 * i]!, s.positions[3 * i + 1]!, s.positions[3 * i + 2]!];
const volume = (s: Surface): number => {
  let sum = 0;
  for (let t = 0; t < s.index.length; t += 3) sum += dot(vertex(s, s.index[t]!), cross(vertex(s, s.index[t + 1]!), vertex(s, s.index[t + 2]!))) / 6;
  return sum;
};
const box = (r: number) => ({ min: [-r, -r, -r], max: [r, r, r] }) as const;

describe('meshing a field', () => {
  const sphere = meshField(ball([3, -2, 1], 40), box(60), 4);

  it('puts every vertex of a sphere on it, normals outward', () => {
    for (let i = 0; i < sphere.positions.length / 3; i++) {
      const out = subtract(vertex(sphere, i), [3, -2, 1]);
      expect(length(out)).toBeCloseTo(40, 1);
      const normal: Vec3 = [sphere.normals[3 * i]!, sphere.normals[3 * i + 1]!, sphere.normals[3 * i + 2]!];
      expect(dot(normalize(out), normal)).toBeGreaterThan(0.999);
    }
  });

  it('closes: every edge belongs to two triangles that run it in opposite ways; the volume is the sphere\u2019s', () => {
    const edges = new Map<string, number>();
    for (let t = 0; t < sphere.index.length; t += 3) {
      for (let k = 0; k < 3; k++) {
        const [a, b] = [sphere.index[t + k]!, sphere.index[t + ((k + 1) % 3)]!];
        edges.set(`${a}-${b}`, (edges.get(`${a}-${b}`) ?? 0) + 1);
      }
    }
    for (const [key, n] of edges) {
      expect(n).toBe(1);
      expect(edges.has(key.split('-').reverse().join('-'))).toBe(true);
    }
    expect(volume(sphere) / ((4 / 3) * Math.PI * 40 ** 3)).toBeCloseTo(1, 1);
  });

  it('tells the crease between two balls from their open sides', () => {
    const pair = meshField(join(ball([-22, 0, 0], 24), ball([22, 0, 0], 24), 0), box(60), 3);
    for (let i = 0; i < pair.openness.length; i++) {
      const x = Math.abs(pair.positions[3 * i]!);
      if (x > 40) expect(pair.openness[i]!).toBeGreaterThan(0.97);
      if (x < 2) expect(pair.openness[i]!).toBeLessThan(0.85);
    }
  });

  it('misses nothing where blocks far from the surface are skipped', () => {
    const limb = chain(
      [
        [-40, -30, 0],
        [0, 0, 0],
        [40, -10, 30],
      ],
      [10, 7, 4],
      3,
    );
    const field: Field = (x, y, z) => limb(x, y, z) + 1.5 * noise(x / 9, y / 9, z / 9, 4);
    const thin = meshField(field, box(64), 3);
    // The same with a field so flat that no block counts as far.
    const all = meshField((x, y, z) => field(x, y, z) * 1e-3, box(64), 3);
    expect(thin.index.length).toBe(all.index.length);
  });
});

describe('fields', () => {
  const place = fc.tuple(...([0, 1, 2] as const).map(() => fc.double({ min: -80, max: 80, noNaN: true }))) as unknown as fc.Arbitrary<Vec3>;
  it('a smooth minimum lies at or below the minimum, by a quarter of its width at most', () => {
    fc.assert(
      fc.property(fc.double({ min: -50, max: 50, noNaN: true }), fc.double({ min: -50, max: 50, noNaN: true }), fc.double({ min: 0, max: 30, noNaN: true }), (a, b, k) => {
        const m = smoothMin(a, b, k);
        expect(m).toBeLessThanOrEqual(Math.min(a, b) + 1e-12);
        expect(m).toBeGreaterThanOrEqual(Math.min(a, b) - k / 4 - 1e-12);
      }),
    );
  });
  it('round cones and balls are true distances: their slope is one', () => {
    const cone = roundCone([0, 0, 0], [30, 10, 0], 12, 12);
    fc.assert(
      fc.property(place, (p) => {
        fc.pre(Math.abs(cone(...p)) > 1 && cone(...p) > -10);
        const g = gradient(cone, ...p);
        const ahead = cone(p[0] + 0.5 * g[0], p[1] + 0.5 * g[1], p[2] + 0.5 * g[2]);
        expect(ahead - cone(...p)).toBeCloseTo(0.5, 2);
      }),
    );
  });
  it('join holds both, meet what is in both, carve leaves the other out', () => {
    const a = ball([0, 0, 0], 20);
    const b = halfSpace([0, 0, 0], [0, 0, 1]);
    fc.assert(
      fc.property(place, (p) => {
        expect(join(a, b, 0)(...p) < 0).toBe(a(...p) < 0 || b(...p) < 0);
        expect(meet(a, b, 0)(...p) < 0).toBe(a(...p) < 0 && b(...p) < 0);
        expect(carve(a, b, 0)(...p) < 0).toBe(a(...p) < 0 && -b(...p) < 0);
      }),
    );
  });
});

describe('skeleton', () => {
  const bones: Bone[] = [
    { from: [0, 0, 0], to: [100, 0, 0], across: [0, 1, 0], girth: 20 },
    { from: [100, 0, 0], to: [100, 80, 0], across: [0, 0, 1], girth: 15 },
  ];
  it('a bone\u2019s axes are square and right-handed', () => {
    const m = boneMatrix({ from: [1, 2, 3], to: [4, -5, 6], across: [0.3, 0.3, 1], girth: 1 });
    const [u, v, w] = [0, 4, 8].map((i) => m.slice(i, i + 3) as unknown as Vec3) as [Vec3, Vec3, Vec3];
    expect(dot(u, v)).toBeCloseTo(0, 12);
    expect(length(v)).toBeCloseTo(1, 12);
    expect(length(subtract(cross(u, v), w))).toBeCloseTo(0, 12);
  });
  it('skin belongs to its nearest bone and shares add up to one', () => {
    const points = Float32Array.from([20, 10, 0, 100, 60, 5, 98, 4, 3]);
    const { bones: which, shares } = skinWeights(points, bones);
    for (let v = 0; v < 3; v++) expect([0, 1, 2, 3].reduce((s, k) => s + shares[4 * v + k]!, 0)).toBeCloseTo(1, 6);
    expect(which[0]).toBe(0);
    expect(shares[0]).toBeGreaterThan(0.9);
    expect(which[4]).toBe(1);
    expect(shares[8]).toBeLessThan(0.8);
  });
});

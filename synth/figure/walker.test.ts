import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distance, dot, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import { seededRandom } from '../../src/core/random';
import { walkerAt, walkOf } from './walker';

describe('someone who walks by', () => {
  const way: Vec3 = [1, 0, 0];
  it('keeps the lengths of limbs at every moment and goes forward', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 5, noNaN: true }), (t) => {
        const [a, b] = [walkerAt(t, 1600, [0, 500, 0], way), walkerAt(t + 0.3, 1600, [0, 500, 0], way)];
        for (const side of ['Right', 'Left'] as const) {
          expect(distance(a[`hip${side}`], a[`knee${side}`])).toBeCloseTo(0.24 * 1600, 6);
          expect(distance(a[`elbow${side}`], a[`wrist${side}`])).toBeCloseTo(0.148 * 1600, 6);
        }
        expect(dot(subtract(b.head, a.head), way)).toBeGreaterThan(100);
      }),
    );
  });
  it('has one foot near the floor, and its face along its way', () => {
    for (let t = 0; t < 2; t += 0.05) {
      const j = walkerAt(t, 1600, [0, 500, 0], way);
      expect(Math.min(j.ankleLeft[2], j.ankleRight[2])).toBeLessThan(170);
      expect(Math.min(j.ankleLeft[2], j.ankleRight[2])).toBeGreaterThan(0);
      expect(dot(j.face, way)).toBeGreaterThan(0.9);
    }
  });
  it('passes behind the player while the film lasts', () => {
    for (let seed = 1; seed < 20; seed++) {
      const { from, way: goes } = walkOf(seededRandom(seed), 6, 1500);
      const x = Array.from({ length: 61 }, (_, i) => walkerAt(i / 10, 1500, from, goes).head[0]);
      expect(Math.min(...x) < 0 && Math.max(...x) > 0).toBe(true);
      expect(from[1]).toBeGreaterThan(400);
    }
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Pose } from '../geometry/pose';
import { fromRotationVector } from '../geometry/rotation';
import { cross, distance, dot, subtract, type Vec3 } from '../geometry/vec3';
import { dimensionsOf } from '../instrument/dimensions';
import { type Family, sideSign } from '../instrument/family';
import { instrumentModel } from '../instrument/landmarks';
import { stringLines } from '../instrument/strings';
import { bowInSpace } from './bowInSpace';

const numbers = fc.record({
  family: fc.constantFrom<Family>('violin', 'cello'),
  turn: fc.tuple(fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true })),
  skew: fc.double({ min: -30, max: 30, noNaN: true }),
  inclination: fc.double({ min: -25, max: 25, noNaN: true }),
  position: fc.double({ min: 0.05, max: 0.95, noNaN: true }),
});

describe('a bow in space', () => {
  it('keeps its length and share, and square axes of which the second looks to the tailpiece, for either side', () => {
    fc.assert(
      fc.property(numbers, ({ family, turn, skew, inclination, position }) => {
        const model = instrumentModel(dimensionsOf(family, '4/4'));
        const context = { strings: stringLines(model, family), hair: 600, side: sideSign(family) };
        const pose: Pose = { rotation: fromRotationVector(turn), translation: [10, 20, 1500] };
        const bow = bowInSpace(context, pose, { state: { contact: 30, skew, inclination, position }, string: 1 });
        const [x, y, z] = bow.axes;
        expect(distance(bow.frog, bow.tip)).toBeCloseTo(600, 6);
        // The contact is in the middle of the string, half a millimetre under the hair.
        expect(Math.abs(distance(bow.frog, bow.contact) - 600 * position)).toBeLessThan(0.01);
        expect(Math.abs(dot(subtract(bow.contact, bow.frog), x) - 600 * position)).toBeLessThan(1e-6);
        for (const [a, b] of [
          [x, y],
          [y, z],
          [z, x],
        ] as const)
          expect(dot(a, b)).toBeCloseTo(0, 9);
        expect(dot(cross(x, y), z) * sideSign(family)).toBeCloseTo(1, 9);
        const toScroll: Vec3 = subtract(
          bowInSpace(context, pose, { state: { contact: 90, skew: 0, inclination: 0, position: 0.5 }, string: 1 }).contact,
          bowInSpace(context, pose, { state: { contact: 30, skew: 0, inclination: 0, position: 0.5 }, string: 1 }).contact,
        );
        expect(dot(y, toScroll)).toBeLessThan(0);
      }),
      { numRuns: 60 },
    );
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distance } from '../geometry/vec3';
import { BRIDGE_LEAN_DEG, bodyFrame, bodyPoint, FULL_BODY, STRING_SLOPE_DEG } from './body';
import { dimensionsOf } from './dimensions';

const full = dimensionsOf('violin', '4/4');
const frame = bodyFrame(full);
const degrees = (radians: number) => (radians * 180) / Math.PI;
const place = fc.tuple(fc.double({ min: -170, max: 190, noNaN: true }), fc.double({ min: -105, max: 105, noNaN: true }), fc.double({ min: -35, max: 18, noNaN: true }));

describe('the body in the instrument’s frame', () => {
  it('keeps every distance, scaled by its length', () => {
    for (const size of ['4/4', '3/4', '1/2', '1/4'] as const) {
      const dimensions = dimensionsOf('violin', size);
      const own = bodyFrame(dimensions);
      fc.assert(
        fc.property(place, place, (p, q) => {
          const apart = Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
          expect(distance(bodyPoint(own, ...p), bodyPoint(own, ...q))).toBeCloseTo((apart * dimensions.body) / FULL_BODY, 6);
        }),
        { numRuns: 30 },
      );
    }
  });
  it('falls away from the strings toward the nut by their slope, and leans to the low side', () => {
    const [near, far] = [bodyPoint(frame, 0, 0, 0), bodyPoint(frame, 100, 0, 0)];
    expect(Math.abs(degrees(Math.atan2(far[2] - near[2], far[0] - near[0])))).toBeCloseTo(STRING_SLOPE_DEG, 6);
    const [low, high] = [bodyPoint(frame, 0, 50, 0), bodyPoint(frame, 0, -50, 0)];
    expect(Math.abs(degrees(Math.asin((low[2] - high[2]) / 100)))).toBeCloseTo(BRIDGE_LEAN_DEG, 1);
  });
  it('lies below the strings at the bridge, by the height of the bridge less its arch', () => {
    const { bridgeRadius: r, bridgeSpread, stringHeight } = full;
    const arch = r - Math.sqrt(r * r - (bridgeSpread / 2) ** 2);
    const [, , z] = bodyPoint({ ...frame, tiltRad: 0, rollRad: 0 }, 0, 0, 0);
    expect(z).toBeCloseTo(-(stringHeight - arch), 9);
  });
  it('moves along itself with a bridge that stands elsewhere', () => {
    const moved = bodyFrame(full, { along: 3 });
    expect(distance(bodyPoint(moved, 20, 10, 2), bodyPoint(frame, 23, 10, 2))).toBeCloseTo(0, 9);
  });
});

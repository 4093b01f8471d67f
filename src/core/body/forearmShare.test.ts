import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addScaled, type Vec3 } from '../geometry/vec3';
import type { FrameMeasures } from '../measures/measures';
import type { Stroke } from '../strokes/stroke';
import { forearmShare } from './forearmShare';
import type { ArmPlace } from './measureArm';
import { strokesWithArm } from './strokesWithArm';

const UPPER = 280;
const FORE = 230;

/** An arm in a level plane: the upper arm at an angle from the x axis, the elbow bent to an angle (180 straight). */
function arm(upperDeg: number, elbowDeg: number, at: Vec3 = [0, 0, 0]) {
  const u = (upperDeg * Math.PI) / 180;
  const f = ((upperDeg + 180 - elbowDeg) * Math.PI) / 180;
  const elbow = addScaled(at, [Math.cos(u), Math.sin(u), 0], UPPER);
  return { shoulder: at, elbow, wrist: addScaled(elbow, [Math.cos(f), Math.sin(f), 0], FORE) };
}

describe('the share of the forearm', () => {
  it('is all when only the elbow opens, none when only the upper arm swings', () => {
    expect(forearmShare(arm(40, 90), arm(40, 150))).toBeCloseTo(1, 9);
    expect(forearmShare(arm(40, 120), arm(0, 120))).toBeCloseTo(0, 9);
  });

  it('is the same for a player who sways', () => {
    fc.assert(
      fc.property(fc.double({ min: -300, max: 300, noNaN: true }), fc.double({ min: 60, max: 120, noNaN: true }), fc.double({ min: 121, max: 175, noNaN: true }), (x, a, b) => {
        const still = forearmShare(arm(40, a), arm(25, b));
        const swayed = forearmShare(arm(40, a), arm(25, b, [x, -x, x / 2]));
        if (still === undefined) expect(swayed).toBeUndefined();
        else expect(swayed).toBeCloseTo(still, 6);
      }),
    );
  });

  it('adds up with the share of the upper arm: replayed the other way round, both make the whole way', () => {
    const [from, to] = [arm(40, 95), arm(20, 140)];
    const share = forearmShare(from, to)!;
    // Elbow held, the rest of the way is the upper arm's.
    expect(share).toBeGreaterThan(0.3);
    expect(share).toBeLessThan(1.2);
    expect(forearmShare(to, from)).toBeCloseTo(share, 6);
  });

  it('is not told of a hand that hardly moved', () => {
    expect(forearmShare(arm(40, 90), arm(40, 95))).toBeUndefined();
  });
});

describe('strokes with the arm', () => {
  const stroke = { index: 0, from: 0, to: 1 } as Stroke;
  const frames = Array.from(
    { length: 26 },
    (_, i): FrameMeasures => ({
      frame: i,
      t: i / 25,
      values: { bow_position: { value: 0.05 + (0.9 * i) / 25, u: 0.01 }, elbow_angle_deg: { value: 100, u: 6 } },
    }),
  );
  const place = (t: number, upper: number, elbow: number): ArmPlace => ({
    frame: Math.round(25 * t),
    t,
    ...arm(upper, elbow),
    otherShoulder: [300, 0, 0],
    sigma: { elbow: 20, wrist: 10 },
  });

  it('tell of bows that pass the middle and reach the tip, with their doubt', () => {
    const [told] = strokesWithArm([stroke], frames, [place(0, 60, 50), place(0.48, 40, 90), place(0.96, 40, 150)]);
    expect(told!.forearmShare!.value).toBeCloseTo(1, 6);
    expect(told!.forearmShare!.u).toBeGreaterThan(0.1);
    expect(told!.forearmShare!.u).toBeLessThan(0.3);
  });

  it('tell nothing where the upper half was not played or the arm not seen', () => {
    expect(strokesWithArm([stroke], frames, [place(0, 60, 50), place(0.48, 40, 90)])[0]!.forearmShare).toBeUndefined();
    const blind = frames.map((f) => ({ ...f, values: { bow_position: f.values.bow_position! } }));
    expect(strokesWithArm([stroke], blind, [place(0.48, 40, 90), place(0.96, 40, 150)])[0]!.forearmShare).toBeUndefined();
  });
});

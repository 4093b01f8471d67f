import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromRotationVector, rotate } from '../geometry/rotation';
import { add, RADIANS, type Vec3 } from '../geometry/vec3';
import { armBowGap, elbowAngle, elbowBehind, elbowHeight, elbowRise, upperArmElevation } from './arm';
import { fingerBends, type HandPoints, handOpening, littleToStick, middleCrossing, thumbBends, thumbSlant, tipGap, wristBend } from './hand';

const UP: Vec3 = [0, 0, 1];
const angle = fc.double({ min: -80, max: 100, noNaN: true });

describe('arm', () => {
  const arm = { shoulder: [0, 0, 1000], elbow: [-300, 0, 1000], wrist: [-300, -250, 1000] } as const;
  it('a square, level arm', () => {
    expect(elbowAngle(arm)).toBeCloseTo(90, 9);
    expect(elbowRise(arm, UP)).toBeCloseTo(0, 9);
    expect(upperArmElevation(arm, UP)).toBeCloseTo(0, 9);
    expect(elbowHeight(arm, [0, -300, 700], UP)).toBeCloseTo(1, 9);
  });
  it('is parallel to a bow of its own slope: frog high, upper arm high', () => {
    const raised = { ...arm, elbow: [-300 * Math.cos(0.3), 0, 1000 + 300 * Math.sin(0.3)] as Vec3 };
    expect(armBowGap(raised, [Math.cos(0.3), 0, -Math.sin(0.3)], UP)).toBeCloseTo(0, 6);
    expect(armBowGap(raised, [1, 0, 0], UP)).toBeCloseTo(0.3 / RADIANS, 6);
  });
  it('tells an elbow behind the back line in shoulder widths', () => {
    const left: Vec3 = [360, 0, 1000];
    expect(elbowBehind({ ...arm, elbow: [-250, 36, 900] }, left, [0.3, -1, 0.2], UP)).toBeCloseTo(0.1, 9);
    expect(elbowBehind(arm, left, [0, -1, 0], UP)).toBeCloseTo(0, 9);
  });
});

/** A right hand in its own frame (x along, y to the thumb, z out of the back), the middle finger bent by these. */
function bent(mcp: number, pip: number, dip: number, thumb = 0): Vec3[] {
  const finger = (base: Vec3, bends: readonly number[]): Vec3[] => {
    const out: Vec3[] = [base];
    let a = 0;
    bends.forEach((b, i) => {
      a += b * RADIANS;
      out.push(add(out[i]!, [30 * Math.cos(a), 0, -30 * Math.sin(a)]));
    });
    return out;
  };
  const straight = [0, 0, 0];
  // The thumb lies along x beside the palm; flexed it turns toward the little finger.
  const ip: Vec3 = [75, 40, 0];
  const t = thumb * RADIANS;
  return [
    [0, 0, 0],
    [10, 40, 0],
    [45, 40, 0],
    ip,
    add(ip, [28 * Math.cos(t), -28 * Math.sin(t), 0]),
    ...finger([85, 24, 0], straight),
    ...finger([90, 0, 0], [mcp, pip, dip]),
    ...finger([84, -18, 0], straight),
    ...finger([76, -34, 0], straight),
  ];
}
const mirror = (points: HandPoints): Vec3[] => points.map(([x, y, z]) => [x, -y, z]);

describe('hand', () => {
  it('gives back the bends a finger was made with, in any place, right and left', () => {
    fc.assert(
      fc.property(fc.double({ min: -40, max: 85, noNaN: true }), angle, angle, fc.tuple(angle, angle, angle), (mcp, pip, dip, w) => {
        const turn = fromRotationVector(w.map((v) => v * 0.02) as unknown as Vec3);
        const made = bent(mcp, pip, dip);
        for (const [points, side] of [
          [made, 1],
          [mirror(made), -1],
        ] as const) {
          const placed = points.map((p) => add(rotate(turn, p), [30, -200, 900]));
          const seen = fingerBends(placed, 'middle', side);
          expect(seen.mcp).toBeCloseTo(mcp, 5);
          expect(seen.pip).toBeCloseTo(pip, 5);
          expect(seen.dip).toBeCloseTo(dip, 5);
        }
      }),
    );
  });

  it('tells a thumb bent, straight and bent back, right and left', () => {
    for (const ip of [40, 12, -15]) {
      expect(thumbBends(bent(0, 0, 0, ip), 1).ip).toBeCloseTo(ip, 5);
      expect(thumbBends(mirror(bent(0, 0, 0, ip)), -1).ip).toBeCloseTo(ip, 5);
    }
  });

  it('reads the thumb like a clock lying on the stick: twelve square to it, one turned to the frog', () => {
    const [along, back]: [Vec3, Vec3] = [
      [-1, 0, 0],
      [0, -1, 0],
    ];
    for (const slant of [-40, 0, 30, 75]) {
      const hand = bent(0, 0, 0).map((p, i): Vec3 => (i === 4 ? [0, 0, 0] : p));
      hand[3] = [-28 * Math.sin(slant * RADIANS), -28 * Math.cos(slant * RADIANS), -9];
      expect(thumbSlant(hand, [along, back])).toBeCloseTo(slant, 6);
    }
  });

  it('splits the wrist by the palm: forearm from above is flexed, from the thumb side is bent to the little finger', () => {
    const hand = bent(0, 0, 0);
    const from = (flexion: number, deviation: number): Vec3 => [1, Math.tan(deviation * RADIANS), Math.tan(flexion * RADIANS)];
    const seen = wristBend(hand, from(20, -12), 1);
    expect(seen.flexion).toBeCloseTo(20, 6);
    expect(seen.deviation).toBeCloseTo(-12, 6);
    const left = wristBend(mirror(hand), [1, -Math.tan(-12 * RADIANS), Math.tan(20 * RADIANS)], -1);
    expect(left.flexion).toBeCloseTo(20, 6);
    expect(left.deviation).toBeCloseTo(-12, 6);
  });

  it('measures distances in finger widths', () => {
    const hand = bent(0, 0, 0);
    const width = Math.hypot(9, 58) / 4;
    expect(littleToStick(hand, { a: [76 + 90, -34, 10], b: [76 + 90, 50, 10] })).toBeCloseTo(10 / width, 6);
    expect(tipGap(hand, 'index', 'middle')).toBeCloseTo(Math.hypot(5, 24) / width, 6);
    for (const [x, at] of [
      [165, -0.5],
      [150, 0],
      [135, 0.5],
      [120, 1],
      [96, 1.8],
    ] as const)
      expect(middleCrossing(hand, { a: [x, -50, -9], b: [x, 50, -9] })).toBeCloseTo(at, 6);
    expect(handOpening(hand)).toBeGreaterThan(handOpening(bent(0, 0, 0, 70)));
  });
});

import fc from 'fast-check';
import { Euler, Quaternion, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { RADIANS, type Vec3 } from '../geometry/vec3';
import { elbowAngle, upperArmElevation } from './arm';
import { FINGERS, fingerBends, type HandPoints, type HandSide, wristBend } from './hand';
import { REACH } from './measureHand';

/**
 * Joint angles against the conventions of biomechanics and of the clinic (both from memory):
 * Wu et al., ISB recommendation on definitions of joint coordinate systems, part II: shoulder, elbow, wrist and hand,
 * J. Biomech. 38 (2005) 981-992. A right arm hanging in the anatomical position has x forward (palmward), y up along the bone
 * and z to the right, on the thumb's side; a distal bone is turned against the proximal one about z (flexion +), then about x
 * (toward the little finger +), then about y. A left arm is its mirror image in the plane of x and y.
 * American Academy of Orthopaedic Surgeons, Joint Motion: Method of Measuring and Recording (1965), the neutral zero method:
 * a straight joint is 0, bent it is counted up, and fingers reach 90 at the knuckle, 100 at the middle, 70 to 90 at the end joint.
 */
const DOWN = new Vector3(0, -1, 0);
const degrees = (min: number, max: number) => fc.double({ min, max, noNaN: true });

/** A distal bone's turn against its proximal one: flexion and deviation in degrees, after the cited order. */
const joint = (flexion: number, deviation = 0): Quaternion => new Quaternion().setFromEuler(new Euler(deviation * RADIANS, 0, flexion * RADIANS, 'ZXY'));
const vec = (v: Vector3): Vec3 => [v.x, v.y, v.z];
const mirrored = (points: HandPoints): Vec3[] => points.map(([x, y, z]) => [x, y, -z]);

/** A right hand hanging flat: knuckles and straight fingers down, the thumb's side to the right, each bent at its joints by so much. */
function hanging(bends: readonly [number, number, number], spread: number, turn = new Quaternion()): Vec3[] {
  const out: Vector3[] = [new Vector3(0, 0, 0), ...[1, 2, 3, 4].map((i) => new Vector3(8, -25 * i, 38))];
  for (const f of FINGERS.keys()) {
    let at = new Vector3(0, -88, 22 - 19 * f);
    let along = new Quaternion().setFromUnitVectors(DOWN, at.clone().normalize());
    out.push(at);
    bends.forEach((bend, i) => {
      along = along.clone().multiply(joint(bend, i === 0 ? spread : 0));
      at = at.clone().add(DOWN.clone().applyQuaternion(along).multiplyScalar([42, 26, 21][i]!));
      out.push(at);
    });
  }
  return out.map((p) => vec(p.applyQuaternion(turn)));
}

const hands = (right: HandPoints): readonly (readonly [HandPoints, HandSide])[] => [
  [right, 1],
  [mirrored(right), -1],
];

describe('joint angles are those of the cited conventions', () => {
  it('elbow: what is missing to 180 is the flexion', () => {
    fc.assert(
      fc.property(degrees(1, 145), degrees(-80, 80), (flexion, forearmTurn) => {
        // Pronation turns the forearm about itself and changes nothing.
        const turn = joint(flexion).multiply(new Quaternion().setFromAxisAngle(new Vector3(0, 1, 0), forearmTurn * RADIANS));
        const elbow = DOWN.clone().multiplyScalar(300);
        const wrist = elbow.clone().add(DOWN.clone().applyQuaternion(turn).multiplyScalar(250));
        expect(180 - elbowAngle({ shoulder: [0, 0, 0], elbow: vec(elbow), wrist: vec(wrist) })).toBeCloseTo(flexion, 6);
      }),
    );
  });

  it('upper arm: the angle from hanging, as in the cited elevation, less 90, in whatever plane it is raised', () => {
    fc.assert(
      fc.property(degrees(1, 170), degrees(-90, 130), (elevation, plane) => {
        const raised = new Quaternion().setFromEuler(new Euler(elevation * RADIANS, plane * RADIANS, 0, 'YXZ'));
        const elbow = vec(DOWN.clone().applyQuaternion(raised).multiplyScalar(280));
        expect(upperArmElevation({ shoulder: [0, 0, 0], elbow, wrist: elbow }, [0, 1, 0])).toBeCloseTo(elevation - 90, 6);
      }),
    );
  });

  it('wrist: palmward + and toward the little finger +, right and left', () => {
    fc.assert(
      fc.property(degrees(-70, 70), degrees(-25, 35), (flexion, deviation) => {
        for (const [bend, aside] of [
          [flexion, 0],
          [0, deviation],
        ] as const) {
          for (const [points, side] of hands(hanging([0, 0, 0], 0, joint(bend, aside)))) {
            const told = wristBend(points, [0, -1, 0], side);
            // The middle knuckle lies a little to the thumb's side of the hand's own line; that is the hand's zero.
            const zero = wristBend(hanging([0, 0, 0], 0), [0, -1, 0], 1);
            expect(Math.abs(told.flexion - bend)).toBeLessThan(0.1);
            expect(Math.abs(told.deviation - zero.deviation - aside)).toBeLessThan(0.1);
          }
        }
      }),
    );
  });

  it('fingers: flexion + at knuckle, middle and end joint, bent back -, right and left, wherever the hand is', () => {
    fc.assert(
      fc.property(degrees(-45, 90), degrees(1, 100), degrees(-10, 90), degrees(-180, 180), (mcp, pip, dip, about) => {
        const turn = new Quaternion().setFromEuler(new Euler(about * RADIANS, 0.4, -0.9, 'ZXY'));
        for (const [points, side] of hands(hanging([mcp, pip, dip], 0, turn))) {
          for (const finger of FINGERS) {
            const told = fingerBends(points, finger, side);
            // Knuckles do not lie in one line with the wrist: the plane a finger bends in is off by as little.
            expect(Math.abs(told.mcp - mcp)).toBeLessThan(5);
            expect(told.pip).toBeCloseTo(pip, 3);
            expect(told.dip).toBeCloseTo(dip, 3);
          }
        }
      }),
    );
  });

  it('a finger spread sideways is told as bent no more than it is', () => {
    for (const spread of [-15, 15]) {
      const { mcp, pip } = fingerBends(hanging([30, 50, 20], spread), 'middle', 1);
      expect(Math.abs(mcp - 30)).toBeLessThan(2);
      expect(Math.abs(pip - 50)).toBeLessThan(2);
    }
  });

  it('no hand within the clinical ranges is refused', () => {
    const clinical = { mcp: [-45, 90], pip: [0, 100], dip: [-10, 90] } as const;
    for (const joint of ['mcp', 'pip', 'dip'] as const) {
      expect(REACH[joint][0]).toBeLessThan(clinical[joint][0]);
      expect(REACH[joint][1]).toBeGreaterThan(clinical[joint][1]);
    }
  });
});

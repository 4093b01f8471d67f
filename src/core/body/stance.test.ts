import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { addScaled, distance, RADIANS, type Vec2, type Vec3 } from '../geometry/vec3';
import { fitStance, type StanceEvidence } from './fitStance';
import { headTilt, headTurn, kneeAngle, leftElbowGap, pegToEar, STANCE_JOINTS, type Stance, type StanceJoint, shoulderLift, stanceWidth, trunkLean, trunkStoop } from './stance';

const UP: Vec3 = [0, 0, 1];
/** A standing player, mm: x to the player's left, y behind, z up. */
const upright: Stance = {
  'shoulder.right': [-159, 0, 1377],
  'shoulder.left': [159, 0, 1377],
  'hip.right': [-88, 0, 884],
  'hip.left': [88, 0, 884],
  'knee.right': [-110, -10, 476],
  'knee.left': [110, -10, 476],
  'ankle.right': [-127, 0, 77],
  'ankle.left': [127, 0, 77],
  'elbow.left': [240, -220, 1190],
  'wrist.left': [300, -390, 1370],
  'ear.right': [-73, -40, 1590],
  'ear.left': [73, -40, 1590],
  nose: [0, -140, 1572],
};
const moved = (joints: readonly StanceJoint[], by: (p: Vec3) => Vec3): Stance => ({ ...upright, ...Object.fromEntries(joints.map((j) => [j, by(upright[j])])) });
const turnedAbout = (p: Vec3, centre: Vec3, degrees: number, plane: readonly [0 | 1 | 2, 0 | 1 | 2]): Vec3 => {
  const [c, s] = [Math.cos(degrees * RADIANS), Math.sin(degrees * RADIANS)];
  const out = [...p] as [number, number, number];
  const [a, b] = plane;
  const [x, y] = [p[a] - centre[a], p[b] - centre[b]];
  out[a] = centre[a] + c * x - s * y;
  out[b] = centre[b] + s * x + c * y;
  return out;
};

describe('stance', () => {
  it('of an upright player is upright', () => {
    expect(trunkLean(upright, UP)).toBeCloseTo(0, 6);
    expect(trunkStoop(upright, UP)).toBeCloseTo(0, 6);
    expect(headTilt(upright, UP)).toBeCloseTo(0, 6);
    expect(headTurn(upright, UP)).toBeCloseTo(0, 6);
    expect(kneeAngle(upright)).toBeGreaterThan(170);
    expect(stanceWidth(upright)).toBeCloseTo(254 / 318, 6);
  });
  it('leans by the angle the trunk is turned, + left and + forward', () => {
    fc.assert(
      fc.property(fc.double({ min: -25, max: 25, noNaN: true }), (degrees) => {
        const shoulders = ['shoulder.right', 'shoulder.left'] as const;
        expect(
          trunkLean(
            moved(shoulders, (p) => addScaled(p, [Math.tan(degrees * RADIANS) * 493, 0, 0], 1)),
            UP,
          ),
        ).toBeCloseTo(degrees, 6);
        expect(
          trunkStoop(
            moved(shoulders, (p) => addScaled(p, [0, -Math.tan(degrees * RADIANS) * 493, 0], 1)),
            UP,
          ),
        ).toBeCloseTo(degrees, 6);
      }),
    );
  });
  it('turns and tilts the head by its own angles', () => {
    const ears = ['ear.right', 'ear.left'] as const;
    const centre: Vec3 = [0, -40, 1590];
    fc.assert(
      fc.property(fc.double({ min: -60, max: 60, noNaN: true }), (degrees) => {
        expect(
          headTurn(
            moved(ears, (p) => turnedAbout(p, centre, degrees, [0, 1])),
            UP,
          ),
        ).toBeCloseTo(degrees, 6);
        expect(
          headTilt(
            moved(ears, (p) => turnedAbout(p, centre, -degrees, [0, 2])),
            UP,
          ),
        ).toBeCloseTo(degrees, 6);
      }),
    );
  });
  it('tells raised shoulders, an elbow on the ribs, feet together and bent knees', () => {
    expect(
      shoulderLift(
        moved(['shoulder.right', 'shoulder.left'], (p) => addScaled(p, UP, 60)),
        UP,
      ) - shoulderLift(upright, UP),
    ).toBeCloseTo(60 / 318, 6);
    expect(leftElbowGap(upright, UP)).toBeGreaterThan(0.2);
    expect(leftElbowGap({ ...upright, 'elbow.left': [120, -230, 1190] }, UP)).toBeLessThan(0.05);
    expect(stanceWidth(moved(['ankle.right', 'ankle.left'], ([x, y, z]) => [x / 3, y, z]))).toBeLessThan(0.3);
    const seated: Stance = { ...upright, 'knee.right': [-88, -400, 884], 'ankle.right': [-88, -400, 484], 'knee.left': [88, -400, 884], 'ankle.left': [88, -400, 484] };
    expect(kneeAngle(seated)).toBeCloseTo(90, 6);
  });
});

describe('the fit of a stance', () => {
  const camera = cameraFromFieldOfView(720, 1280);
  /** Room to camera: the phone stands before the player at hip height. */
  const inCamera = ([x, y, z]: Vec3): Vec3 => [x, 850 - z, 2600 + y];
  const up: Vec3 = [0, -1, 0];
  const evidenceOf = (stance: Stance, wrong: (joint: StanceJoint, p: Vec2) => Vec2 = (_, p) => p): StanceEvidence => {
    const seen = Object.fromEntries(STANCE_JOINTS.map((j) => [j, wrong(j, project(camera, inCamera(stance[j]))!)])) as Record<StanceJoint, Vec2>;
    const space = Object.fromEntries(STANCE_JOINTS.map((j) => [j, inCamera(stance[j])])) as Record<StanceJoint, Vec3>;
    const place = inCamera;
    return {
      seen,
      space,
      placed: new Set(STANCE_JOINTS),
      instrument: { endButton: place([0, -80, 1387]), ahead: [0.67, 0, -0.743], leftWrist: place(stance['wrist.left']) },
    };
  };
  const fitted = (evidence: StanceEvidence) => fitStance({ camera, evidence, stature: { value: 1700, sigma: 90 }, up, upSigmaDeg: 1 })!;

  it('finds the posture again from where the joints are seen', () => {
    const leaning = moved(['shoulder.right', 'shoulder.left', 'ear.right', 'ear.left', 'nose'], (p) => addScaled(p, [90, 0, 0], 1));
    for (const stance of [upright, leaning]) {
      const { stance: found } = fitted(evidenceOf(stance));
      expect(Math.abs(trunkLean(found, up) - trunkLean(stance, UP))).toBeLessThan(2.5);
      expect(Math.abs(stanceWidth(found) - stanceWidth(stance))).toBeLessThan(0.08);
    }
  });
  it('is as unsure as noise of the size it expects makes it', () => {
    const quiet = fitted(evidenceOf(upright));
    const u = quiet.sigmaOf((s) => trunkLean(s, up));
    const noise = (joint: StanceJoint, [x, y]: Vec2): Vec2 => [x + (joint === 'shoulder.left' || joint === 'shoulder.right' ? 12 : 0), y];
    const off = Math.abs(trunkLean(fitted(evidenceOf(upright, noise)).stance, up) - trunkLean(quiet.stance, up));
    expect(off).toBeGreaterThan(0.2 * u);
    expect(off).toBeLessThan(8 * u);
    // Depth is hardly seen from the front: a lean toward the camera is told less surely than one across.
    expect(quiet.sigmaOf((s) => trunkStoop(s, up))).toBeGreaterThan(u);
  });
  it('of a cellist goes by the cello that leans on the breastbone: how far away ear and peg are', () => {
    // A trunk drawn small by the network, as one that bends to the instrument is.
    const small = (joint: StanceJoint, [x, y]: Vec2): Vec2 => [x, joint.startsWith('hip') ? y - 22 : y];
    const { instrument: _, placed: __, ...evidence } = evidenceOf(upright, small);
    const edge = inCamera([30, -100, 1232]);
    const ear = inCamera(upright['ear.left']);
    const peg: Vec3 = [ear[0] - 50, ear[1], ear[2] - 45];
    const of = (celloEdge: Vec3 | undefined) => {
      const fit = fitStance({ camera, evidence: { ...evidence, celloEdge }, stature: { value: 1700, sigma: 90 }, up, upSigmaDeg: 1 })!;
      return { off: Math.abs(pegToEar(fit.stance, peg) - distance(ear, peg)), u: fit.sigmaOf((s) => pegToEar(s, peg)) };
    };
    const [leaning, without] = [of(edge), of(undefined)];
    expect(leaning.off).toBeLessThan(2 * leaning.u);
    expect(leaning.off).toBeLessThan(without.off);
    expect(leaning.u).toBeLessThan(0.7 * without.u);
  });
  it('tells nothing from a close-up, nor without the trunk', () => {
    const near = evidenceOf(upright);
    expect(fitStance({ camera: { ...camera, height: 240 }, evidence: near, stature: { value: 1700, sigma: 90 }, up, upSigmaDeg: 1 })).toBeUndefined();
    const { 'hip.left': _, ...seen } = near.seen;
    expect(fitStance({ camera, evidence: { ...near, seen }, stature: { value: 1700, sigma: 90 }, up, upSigmaDeg: 1 })).toBeUndefined();
  });
  it('stands with legs nobody saw', () => {
    const evidence = evidenceOf(upright);
    const seen = Object.fromEntries(Object.entries(evidence.seen).filter(([j]) => !/knee|ankle/.test(j)));
    const { stance } = fitted({ ...evidence, seen });
    for (const joint of STANCE_JOINTS) expect(stance[joint].every(Number.isFinite)).toBe(true);
  });
});

import { describe, expect, it } from 'vitest';
import { leftWristBend, leftWristSeen } from '../../src/core/body/leftWrist';
import { lumbarArch, lumbarArchSeen } from '../../src/core/body/lumbarArch';
import { torsoAxes } from '../../src/core/body/torso';
import { project } from '../../src/core/geometry/camera';
import { toOuter } from '../../src/core/geometry/pose';
import { multiply, rotate } from '../../src/core/geometry/rotation';
import { scale, type Vec2, type Vec3 } from '../../src/core/geometry/vec3';
import { Phone } from '../camera/phone';
import { buildInstrument } from '../instrument/build';
import { Performance } from '../motion/performance';
import { withFaults } from '../presets/faults';
import { scenarioOf } from '../presets/presets';
import type { View } from '../presets/scenario';
import { backOf, jointsAt } from './joints';

/** Left wrist and back of a student as they are, and as they are told from their places in the picture. */
function seenFrom(view: View, size: string, seed: number, strength: number) {
  const scenario = withFaults(scenarioOf('straight', seed, { view, size }), [
    { id: 'left-wrist-collapsed', strength },
    { id: 'back-hollow', strength },
  ]);
  const build = buildInstrument(scenario);
  const performance = new Performance(scenario, build);
  const moment = performance.at(1);
  const joints = jointsAt(moment, build, performance.stature, scenario.posture);
  const { camera, poseAt } = ((phone) => ({ camera: phone.camera, poseAt: phone.poseAt(1) }))(new Phone(scenario, performance.stature, performance.middle));
  const at = (p: Vec3): Vec2 => {
    const [x, y] = project(camera, toOuter(poseAt, p))!;
    return [x, y];
  };
  const nutHigh = build.model.landmarks['instrument.nut.high'];
  const arm = { elbow: joints.elbowLeft, wrist: joints.wristLeft, knuckle: joints.handLeft.joints[9]! };
  const back = backOf(joints, performance.stature);
  const { forward } = torsoAxes(joints.shoulderRight, joints.shoulderLeft, [0, 0, 1]);
  return {
    wrist: leftWristBend(arm, scale(rotate(moment.instrument.rotation, [0, 1, 0]), Math.sign(nutHigh[1]))),
    wristSeen: leftWristSeen({
      camera,
      pose: { rotation: multiply(poseAt.rotation, moment.instrument.rotation), translation: toOuter(poseAt, moment.instrument.translation) },
      stringLength: build.model.stringLength,
      nutHigh,
      marked: { elbow: at(arm.elbow), wrist: at(arm.wrist), knuckle: at(arm.knuckle) },
      // The height is only guessed from the size of the instrument.
      stature: { value: 1.05 * performance.stature, sigma: 0.05 * performance.stature },
    }),
    arch: lumbarArch(back, forward),
    archSeen: lumbarArchSeen(
      camera,
      { upper: at(back.upper), small: at(back.small), seat: at(back.seat) },
      rotate(poseAt.rotation, forward),
      rotate(poseAt.rotation, [0, 0, 1]),
      toOuter(poseAt, joints.waist),
    ),
  };
}

const STUDENTS = ['4/4', '1/2'].flatMap((size) => [1, 2, 3].map((seed) => [size, seed] as const));

describe('the left wrist of the synthetic student', () => {
  it.each(['front-above', 'scroll-side', 'whole-body', 'left-hand'] as const)('bent back is told from %s, a straight one within its doubt', (view) => {
    for (const [size, seed] of STUDENTS) {
      const bent = seenFrom(view, size, seed, 1);
      expect(bent.wrist).toBeLessThan(-55);
      expect(Math.abs(bent.wristSeen!.value - bent.wrist)).toBeLessThan(1.2 * bent.wristSeen!.u);
      const good = seenFrom(view, size, seed, 0);
      if (good.wristSeen) expect(Math.abs(good.wristSeen.value - good.wrist)).toBeLessThan(1.2 * good.wristSeen.u);
    }
  });
});

describe("the synthetic student's back", () => {
  it('is told from the side, hollow or not, and from nowhere else', () => {
    for (const [size, seed] of STUDENTS)
      for (const strength of [0, 1]) {
        const { arch, archSeen } = seenFrom('profile', size, seed, strength);
        expect(Math.abs(archSeen!.value - arch)).toBeLessThan(archSeen!.u);
        expect(seenFrom('front-above', size, seed, strength).archSeen).toBeUndefined();
      }
  });
});

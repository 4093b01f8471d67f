import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { fromAxes, rotate } from '../geometry/rotation';
import { add, addScaled, normalize, RADIANS, scale, type Vec2, type Vec3 } from '../geometry/vec3';
import type { LeftHand } from './leftHand';
import { leftWristBend } from './leftWrist';
import { type BackPoint, lumbarArch, lumbarArchSeen } from './lumbarArch';

const camera = cameraFromFieldOfView(1280, 720, 65);
const seen = (p: Vec3): Vec2 => {
  const at = project(camera, p)!;
  return [at[0], at[1]];
};

describe('the left wrist', () => {
  /** A violin seen from beyond its scroll, camera axes (y down). */
  const pose: Pose = { rotation: fromAxes(normalize([0.35, -0.05, -1]), normalize([-1, -0.3, -0.3])), translation: [-120, -60, 1900] };
  const stringLength = 325;
  const nutHigh: Vec3 = [325, -12, 20];
  const outward = scale(rotate(pose.rotation, [0, 1, 0]), -1);
  const knuckle = toOuter(pose, [0.85 * stringLength, nutHigh[1] - 15, nutHigh[2] - 26]);
  /** A hand bent by `bend` degrees at the wrist on a forearm that rises to it. */
  const armOf = (bend: number): LeftHand<Vec3> => {
    const hand = normalize(addScaled(rotate(pose.rotation, [0, 0, 1]), outward, 0.15));
    const wrist = addScaled(knuckle, hand, -89);
    const side = normalize(addScaled(outward, hand, -(outward[0] * hand[0] + outward[1] * hand[1] + outward[2] * hand[2])));
    const forearm = add(scale(hand, Math.cos(bend * RADIANS)), scale(side, Math.sin(bend * RADIANS)));
    return { elbow: addScaled(wrist, normalize(forearm), -252), wrist, knuckle };
  };
  it('in line with the forearm is 0, bent back is negative, by the angle it is bent', () => {
    fc.assert(
      fc.property(fc.double({ min: -80, max: 60, noNaN: true }), (bend) => {
        expect(leftWristBend(armOf(bend), outward)).toBeCloseTo(bend, 6);
      }),
    );
  });
});

describe('the small of the back', () => {
  const back = (depth: number, turn: number): Record<BackPoint, Vec3> & { ahead: Vec3 } => {
    const ahead: Vec3 = [Math.cos(turn * RADIANS), 0, Math.sin(turn * RADIANS)];
    const at = (down: number, forward: number): Vec3 => addScaled([-100, -200 + down, 2600], ahead, forward);
    return { upper: at(0, 0), small: at(300, depth * 400), seat: at(400, 0), ahead };
  };
  it('is as deep as it lies before the line, a share of the line', () => {
    expect(lumbarArch(back(0.14, 0), [1, 0, 0])).toBeCloseTo(0.14, 9);
    expect(lumbarArch(back(-0.05, 0), [1, 0, 0])).toBeCloseTo(-0.05, 9);
  });
  it('is told from the side, within its doubt, and not from the front', () => {
    for (const turn of [0, 20, -25, 180])
      for (const depth of [0, 0.08, 0.18]) {
        const b = back(depth, turn);
        const m = lumbarArchSeen(camera, { upper: seen(b.upper), small: seen(b.small), seat: seen(b.seat) }, b.ahead, [0, -1, 0], [-100, 0, 2600])!;
        expect(Math.abs(m.value - depth)).toBeLessThan(Math.max(0.01, m.u));
        expect(m.u).toBeLessThan(0.04);
      }
    const front = back(0.15, 70);
    expect(lumbarArchSeen(camera, { upper: seen(front.upper), small: seen(front.small), seat: seen(front.seat) }, front.ahead, [0, -1, 0], [-100, 0, 2600])).toBeUndefined();
  });
});

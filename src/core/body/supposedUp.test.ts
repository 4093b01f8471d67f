import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import type { Pose } from '../geometry/pose';
import { fromRotationVector, type Mat3, multiply, rotate } from '../geometry/rotation';
import { DEGREES, dot, RADIANS, scale, type Vec3 } from '../geometry/vec3';
import { sigmaByUp, type Zenith } from '../geometry/zenith';
import { normal, seededRandom } from '../random';
import { supposedUp } from './supposedUp';

const camera = cameraFromFieldOfView(960, 540);
const angle = (a: Vec3, b: Vec3) => Math.acos(Math.min(1, dot(a, b))) * DEGREES;
const about = (axis: Vec3, degrees: number): Mat3 => fromRotationVector(axis.map((v) => v * degrees * RADIANS) as unknown as Vec3);

/** A phone that looks down and leans before an instrument at this heading, pitch and roll: up, and a pose of the instrument. */
function held(down: number, lean: number, heading: number, pitch: number, roll: number): { up: Vec3; pose: Pose } {
  const phone = multiply(about([0, 0, 1], lean), about([1, 0, 0], down));
  // In the room as a level phone sees it: y down. Flat, scroll to the right, high-string side toward the phone.
  const flat: Mat3 = [1, 0, 0, 0, 0, -1, 0, 1, 0];
  const room = multiply(about([0, -1, 0], heading), multiply(flat, multiply(about([0, 1, 0], -pitch), about([1, 0, 0], roll))));
  return { up: rotate(phone, [0, -1, 0]), pose: { rotation: multiply(phone, room), translation: [0, 0, 1200] } };
}

describe('up where nothing of the room tells it', () => {
  it('is that of a phone which looks a little down, the more so the more the instrument seems to droop', () => {
    const none = supposedUp([]);
    expect(angle(none.direction, held(15, 0, 0, 0, 0).up)).toBeLessThan(0.01);
    expect(none.sigmaDeg).toBeCloseTo(10, 1);
    // The scroll points at the phone: looked down upon by 30 degrees, the strings rise by as much in its picture.
    const { pose } = held(30, 0, -90, 0, 25);
    const told = supposedUp([pose]);
    expect(-Math.asin(told.direction[2]) * DEGREES).toBeGreaterThan(20);
    expect(told.sigmaDeg).toBeLessThan(none.sigmaDeg);
  });

  it('is surer the one way that a single plumb line tells, and not the other', () => {
    const { up, pose } = held(15, 6, -60, 0, 25);
    // A line through the middle of the picture tells how the phone leans, and nothing of how far it looks down.
    const plumb = { a: project(camera, [0, 0, 2000])!, b: project(camera, scale(up, 300).map((v, k) => v + [0, 0, 2000][k]!) as unknown as Vec3)! };
    const without = supposedUp([pose]);
    const told = supposedUp([pose], { camera, plumb });
    const lean = (of: Vec3) => Math.atan2(of[0], -of[1]) * DEGREES;
    expect(Math.abs(lean(told.direction) - lean(up))).toBeLessThan(0.6);
    expect(Math.abs(lean(without.direction) - lean(up))).toBeGreaterThan(3);
    const doubt = (z: Zenith) => sigmaByUp(z, lean);
    expect(doubt(told)).toBeLessThan(1.2);
    expect(doubt(without)).toBeGreaterThan(3);
    expect(Math.abs(sigmaByUp(told, ([, , z]) => Math.asin(z) * DEGREES) / sigmaByUp(without, ([, , z]) => Math.asin(z) * DEGREES) - 1)).toBeLessThan(0.15);
  });

  it('is off as it says, for phones and holds as they come', () => {
    const random = seededRandom(11);
    const ratios = Array.from({ length: 300 }, () => {
      const { up, pose } = held(15 + 10 * normal(random), 4 * normal(random), -140 + 110 * random(), 9 * normal(random), 25 + 14 * normal(random));
      const { direction, sigmaDeg } = supposedUp([pose]);
      return angle(direction, up) / sigmaDeg;
    });
    const within = (times: number) => ratios.filter((r) => r < times).length / ratios.length;
    expect(within(1)).toBeGreaterThan(0.5);
    expect(within(2)).toBeGreaterThan(0.9);
    expect(within(1)).toBeLessThan(0.9);
  });
});

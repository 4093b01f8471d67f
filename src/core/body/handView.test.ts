import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { fromRotationVector, rotate } from '../geometry/rotation';
import { add, cross, dot, normalize, scale, type Vec3 } from '../geometry/vec3';
import { bowAsSeen, deeper, HAND_MIDDLE, handMiddle } from './handView';

const angle = fc.double({ min: -1.4, max: 1.4, noNaN: true });
const turn = fc.tuple(angle, angle, angle);
const axesOf = (v: Vec3): [Vec3, Vec3, Vec3] => {
  const r = fromRotationVector(v);
  return [rotate(r, [1, 0, 0]), rotate(r, [0, 1, 0]), rotate(r, [0, 0, 1])];
};

describe('how the bow lies to whoever looks at the hand', () => {
  it('is the same wherever in the picture the hand is', () => {
    fc.assert(
      fc.property(turn, angle, angle, (v, yaw, pitch) => {
        const axes = axesOf(v as Vec3);
        const straight = bowAsSeen([0, 0, 700], axes);
        // Turned about the eye, first down or up and then sideways, hand and bow look the same along the line of sight.
        const tilted = fromRotationVector([0.6 * pitch, 0, 0]);
        const turned = fromRotationVector([0, 0.6 * yaw, 0]);
        const about = (p: Vec3) => rotate(turned, rotate(tilted, p));
        const seen = bowAsSeen(about([0, 0, 700]), axes.map(about) as [Vec3, Vec3, Vec3]);
        seen.flat().forEach((x, i) => void expect(x).toBeCloseTo(straight.flat()[i]!, 6));
        expect(Math.hypot(...seen[0])).toBeCloseTo(1, 9);
        expect(dot(seen[0], seen[1])).toBeCloseTo(0, 9);
      }),
    );
  });
  it('points where the bow points in the picture', () => {
    const camera = cameraFromFieldOfView(960, 540);
    const middle: Vec3 = [0, 0, 600];
    const axes = axesOf([0.3, -0.2, 0.5]);
    const [along] = bowAsSeen(middle, axes);
    const [a, b] = [middle, add(middle, scale(axes[0], 1))].map((p) => project(camera, p)!);
    expect(Math.atan2(b![1] - a![1], b![0] - a![0])).toBeCloseTo(Math.atan2(along[1], along[0]), 2);
  });
});

describe('the middle of the hand', () => {
  it('lies off the frog as hands do, and depth counts from it along the line of sight', () => {
    const along = normalize([1, 0.1, 0.2] as Vec3);
    const off = normalize(cross(along, [0, 0.3, 1]));
    const axes: [Vec3, Vec3, Vec3] = [along, cross(off, along), off];
    const middle = handMiddle([40, -20, 500], axes, 0.8);
    expect(Math.hypot(middle[0] - 40, middle[1] + 20, middle[2] - 500)).toBeCloseTo(0.8 * Math.hypot(...HAND_MIDDLE), 9);
    expect(deeper(add(middle, scale(normalize(middle), 12)), middle)).toBeCloseTo(12, 9);
    expect(deeper(middle, middle)).toBe(0);
  });
});

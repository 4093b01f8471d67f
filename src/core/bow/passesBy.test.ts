import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Camera, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { fromRotationVector } from '../geometry/rotation';
import type { Vec2 } from '../geometry/vec3';
import { dimensionsOf } from '../instrument/dimensions';
import { instrumentModel } from '../instrument/landmarks';
import { onString, stringLevels, stringLines } from '../instrument/strings';
import { hairLine } from './bowState';
import { PLAYABLE, passesBy } from './passesBy';

const camera: Camera = { width: 960, height: 540, focal: 800 };
const model = instrumentModel(dimensionsOf('violin', '4/4'));
const strings = stringLines(model, 'violin');
const levels = stringLevels(model, 'violin');
const context = { camera, strings };
const pose: Pose = { rotation: fromRotationVector([2.5, 0.4, 0.5]), translation: [-60, -60, 1500] };
const seen = (p: Parameters<typeof toOuter>[1]): Vec2 => project(camera, toOuter(pose, p))!;

describe('a line that passes by the strings', () => {
  it('is never that of a bow that lies on one of them', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 3 }),
        fc.double({ min: PLAYABLE.from + 0.02, max: PLAYABLE.to - 0.02, noNaN: true }),
        fc.double({ min: -25, max: 25, noNaN: true }),
        fc.double({ min: 0.05, max: 0.95, noNaN: true }),
        (string, share, skew, position) => {
          const line = strings[string]!;
          const { frog, tip } = hairLine({ contact: share * line.nut[0], skew, inclination: levels.natural[string]!, position }, line, 640, 1);
          expect(passesBy(context, pose, seen(frog), seen(tip))).toBeLessThan(0.5);
        },
      ),
    );
  });
  it('passes by as far as it is moved beyond the last place a bow can touch', () => {
    const string = strings[1]!;
    const [bridge, last] = [seen(string.bridge), seen(onString(string, PLAYABLE.to * string.nut[0]))];
    const n = Math.hypot(last[0] - bridge[0], last[1] - bridge[1]);
    const u: Vec2 = [(last[0] - bridge[0]) / n, (last[1] - bridge[1]) / n];
    for (const px of [0, 3, 12]) {
      const ends = [-80, 50].map((s): Vec2 => [last[0] + px * u[0] - s * u[1], last[1] + px * u[1] + s * u[0]]);
      expect(passesBy({ camera, strings: [string] }, pose, ends[0]!, ends[1]!)).toBeCloseTo(px, 6);
      expect(passesBy({ camera, strings: [string] }, pose, ends[1]!, ends[0]!)).toBeCloseTo(px, 6);
    }
  });
  it('passes by one that lies along a string beside them all', () => {
    const from = seen(strings[3]!.bridge);
    const to = seen(strings[3]!.nut);
    const inward = seen(strings[0]!.bridge);
    const side: Vec2 = [from[0] - inward[0], from[1] - inward[1]];
    expect(passesBy(context, pose, [from[0] + side[0], from[1] + side[1]], [to[0] + side[0], to[1] + side[1]])).toBeGreaterThan(4);
  });
  it('is not told where no string can be seen', () => {
    const behind: Pose = { ...pose, translation: [0, 0, -1500] };
    expect(passesBy(context, behind, [0, 0], [100, 100])).toBeUndefined();
  });
});

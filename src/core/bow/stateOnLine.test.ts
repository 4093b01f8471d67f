import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { fromRotationVector } from '../geometry/rotation';
import { dimensionsOf } from '../instrument/dimensions';
import { instrumentModel } from '../instrument/landmarks';
import { stringLevels, stringLines } from '../instrument/strings';
import { hairLine } from './bowState';
import { chooseStrings } from './chooseStrings';
import type { BowContext } from './residuals';
import { stateOnLine } from './stateOnLine';

const model = instrumentModel(dimensionsOf('violin', '4/4'));
const context: BowContext = {
  camera: cameraFromFieldOfView(1280, 720),
  strings: stringLines(model, 'violin'),
  levels: stringLevels(model, 'violin'),
  hair: 650,
  side: 1,
  lengthSigma: 0.02,
};
const pose: Pose = { rotation: fromRotationVector([2.5, 0.4, 0.5]), translation: [60, -20, 1150] };

describe('a bow from its image line', () => {
  it('comes back from the picture of any bow, either end being known', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 5, max: 70, noNaN: true }),
        fc.double({ min: -25, max: 25, noNaN: true }),
        fc.double({ min: 0.05, max: 0.95, noNaN: true }),
        fc.integer({ min: 0, max: 3 }),
        fc.constantFrom('frog' as const, 'tip' as const),
        (contact, skew, position, string, which) => {
          const inclination = context.levels.natural[string]!;
          const line = hairLine({ contact, skew, inclination, position }, context.strings[string]!, 650, 1);
          const [frog, tip] = [line.frog, line.tip].map((p) => project(context.camera, toOuter(pose, p))!) as [readonly [number, number], readonly [number, number]];
          const found = stateOnLine(context, pose, [frog, tip], string, inclination, { which, point: which === 'frog' ? frog : tip })!;
          expect(found.contact).toBeCloseTo(contact, 4);
          expect(found.skew).toBeCloseTo(skew, 4);
          expect(found.position).toBeCloseTo(position, 5);
        },
      ),
    );
  });

  it('says nothing of a line along the string', () => {
    const s = context.strings[1]!;
    const [a, b] = [s.bridge, s.nut].map((p) => project(context.camera, toOuter(pose, p))!) as [readonly [number, number], readonly [number, number]];
    expect(stateOnLine(context, pose, [a, b], 1, 0, { which: 'tip', point: b })).toBeUndefined();
  });
});

describe('doubt about the string', () => {
  const clip = (skew: number, seconds: number) =>
    Array.from({ length: Math.round(seconds * 25) }, (_, i) => {
      const line = hairLine({ contact: 28, skew, inclination: context.levels.natural[2]!, position: 0.5 }, context.strings[2]!, 650, 1);
      const [a, b] = [line.frog, line.tip].map((p) => project(context.camera, toOuter(pose, p))!) as [readonly [number, number], readonly [number, number]];
      // Neither end recognised: only the line is left to tell the string by.
      return { t: i / 25, pose, sighting: { line: { a, b, sigmaA: 0.5, sigmaB: 0.5, shareA: 0, shareB: 1 }, frog: undefined, tip: undefined, score: 0.8 } };
    });

  it('is small for a square bow of some seconds and large where two strings would fit alike', () => {
    const square = chooseStrings(context, clip(0, 4));
    expect(new Set(square.strings)).toEqual(new Set([2]));
    expect(square.others[10]!.probability).toBeLessThan(0.1);
    // A bow turned half way toward what a neighbour's level would explain.
    const other = square.others[10]!.state.skew;
    const between = chooseStrings(context, clip(-other / 2, 4));
    expect(between.others[10]!.probability).toBeGreaterThan(0.2);
  });

  it('grows the shorter a string is heard of', () => {
    const p = (seconds: number) => chooseStrings(context, clip(0, seconds)).others[2]!.probability;
    expect(p(0.4)).toBeGreaterThan(p(3));
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { fromRotationVector } from '../geometry/rotation';
import type { Vec2 } from '../geometry/vec3';
import { dimensionsOf } from '../instrument/dimensions';
import { instrumentModel } from '../instrument/landmarks';
import { bowContextFor } from '../measures/measureFrames';
import { type BowState, hairLine } from './bowState';
import type { BowSighting } from './sighting';
import { solveFrame } from './solveFrame';

const dimensions = dimensionsOf('violin', '4/4');
const context = bowContextFor(cameraFromFieldOfView(1280, 720), instrumentModel(dimensions), 'violin', dimensions);
/** Seen from in front and well above. */
const pose: Pose = { rotation: fromRotationVector([2.4, 0.3, 0.4]), translation: [-60, -40, 1300] };

/** A bow as it would be seen, to a tenth of a pixel. */
function seen(state: BowState, string: number): BowSighting {
  const line = hairLine(state, context.strings[string]!, context.hair, context.side);
  const [frog, tip] = [line.frog, line.tip].map((p) => project(context.camera, toOuter(pose, p))!) as [Vec2, Vec2];
  const sigma = 0.1;
  return { line: { a: frog, b: tip, shareA: 0, shareB: 1, sigmaA: sigma, sigmaB: sigma }, frog: { point: frog, sigma }, tip: { point: tip, sigma }, lengthKnown: true, score: 1 };
}
const start = (string: number): BowState => ({ contact: 30, skew: 0, inclination: context.levels.natural[string]!, position: 0.5 });
const anyState = (string: number) =>
  fc.record({
    contact: fc.double({ min: 18, max: 42, noNaN: true }),
    skew: fc.double({ min: -12, max: 12, noNaN: true }),
    inclination: fc.double({ min: context.levels.natural[string]! - 3, max: context.levels.natural[string]! + 3, noNaN: true }),
    position: fc.double({ min: 0.05, max: 0.95, noNaN: true }),
  });

describe('the bow of one frame', () => {
  it('is found again from its picture, on the string it was on', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 3 }).chain((string) => fc.tuple(fc.constant(string), anyState(string))),
        ([string, state]) => {
          const found = solveFrame(context, pose, seen(state, string), string, start(string)).state;
          expect(Math.abs(found.skew - state.skew)).toBeLessThan(1);
          expect(Math.abs(found.contact - state.contact)).toBeLessThan(1.5);
          // Where the view hardly shows it, it stays at the string's own level.
          expect(Math.abs(found.inclination - state.inclination)).toBeLessThan(Math.abs(state.inclination - context.levels.natural[string]!) + 1);
          expect(Math.abs(found.position - state.position)).toBeLessThan(0.01);
        },
      ),
      { numRuns: 60, seed: 11 },
    );
  });
  it('costs most on the strings it does not lie on', () => {
    for (const string of [0, 1, 2, 3]) {
      const sighting = seen({ ...start(string), position: 0.4 }, string);
      const costs = [0, 1, 2, 3].map((s) => solveFrame(context, pose, sighting, s, start(s)).cost);
      expect(costs.indexOf(Math.min(...costs))).toBe(string);
    }
  });
  it('keeps to what is expected where nothing was seen', () => {
    const expected: BowState = { contact: 24, skew: 6, inclination: -9, position: 0.7 };
    const sigma: BowState = { contact: 0.1, skew: 0.1, inclination: 0.1, position: 0.001 };
    const { state } = solveFrame(context, pose, { line: undefined, frog: undefined, tip: undefined, score: 0 }, 2, expected, { state: expected, sigma });
    expect(state.skew).toBeCloseTo(6, 1);
    expect(state.contact).toBeCloseTo(24, 1);
    expect(state.position).toBeCloseTo(0.7, 2);
  });
  it('is not led far astray by one end taken for another thing', () => {
    const truth = start(2);
    const sighting = seen(truth, 2);
    const wrong = { ...sighting, tip: { point: [sighting.tip!.point[0] + 60, sighting.tip!.point[1]] as Vec2, sigma: 2.5 }, lengthKnown: false };
    const { state } = solveFrame(context, pose, wrong, 2, truth);
    expect(Math.abs(state.skew)).toBeLessThan(2);
    expect(Math.abs(state.position - truth.position)).toBeLessThan(0.03);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { fromRotationVector } from '../geometry/rotation';
import { dot, length, mix, subtract, type Vec2 } from '../geometry/vec3';
import { dimensionsOf } from '../instrument/dimensions';
import { sideSign } from '../instrument/family';
import { instrumentModel } from '../instrument/landmarks';
import { stringLevels, stringLines } from '../instrument/strings';
import { normal, seededRandom } from '../random';
import { type BowState, bowStateOf, hairDirection, hairLine, inclinationOf, skewOf } from './bowState';
import { type BowFrame, chooseStrings } from './chooseStrings';
import { type BowContext, LENGTH_SIGMA } from './residuals';
import { NO_BOW } from './sighting';
import { smoothBow } from './smoothBow';

const model = instrumentModel(dimensionsOf('violin', '4/4'));
const strings = stringLines(model, 'violin');
const camera = cameraFromFieldOfView(1280, 720);
const context: BowContext = { camera, strings, levels: stringLevels(model, 'violin'), hair: 650, side: 1, lengthSigma: LENGTH_SIGMA };
/** From in front and above, the bow across the picture. */
const pose: Pose = { rotation: fromRotationVector([2.5, 0.4, 0.5]), translation: [60, -20, 1150] };

describe('definitions of skew and inclination', () => {
  it('skew is + with the tip to the scroll, for every family', () => {
    for (const side of [1, -1] as const) {
      expect(hairDirection(12, 0, side)[0]).toBeGreaterThan(0);
      expect(skewOf(hairDirection(12, -8, side), side)).toBeCloseTo(12, 9);
      expect(inclinationOf(hairDirection(12, -8, side), side)).toBeCloseTo(-8, 9);
    }
  });
  it('the tip of a square violin bow points to the low strings, of a cello bow to the high strings', () => {
    expect(hairDirection(0, 0, sideSign('violin'))[1]).toBeCloseTo(1, 9);
    expect(hairDirection(0, 0, sideSign('cello'))[1]).toBeCloseTo(-1, 9);
  });
  it('on the lowest violin string the frog is higher above the plate than the tip, on the cello lower', () => {
    const onG = hairLine({ contact: 30, skew: 0, inclination: 23.9, position: 0.5 }, strings[0]!, 650, 1);
    expect(onG.frog[2]).toBeGreaterThan(onG.tip[2]);
    const cello = stringLines(instrumentModel(dimensionsOf('cello', '4/4')), 'cello');
    const onC = hairLine({ contact: 60, skew: 0, inclination: 20, position: 0.5 }, cello[0]!, 600, -1);
    expect(onC.frog[2]).toBeLessThan(onC.tip[2]);
  });
  it('the hair lies on the string, half a string and half a ribbon over its middle, on whichever side the bow is held', () => {
    for (const side of [1, -1] as const) {
      for (const [string, inclination] of [24, 8, -8, -24].entries()) {
        const { frog, tip, contact } = hairLine({ contact: 30, skew: 12, inclination, position: 0.4 }, strings[string]!, 650, side);
        const off = subtract(mix(frog, tip, 0.4), contact);
        expect(off[2]).toBeGreaterThan(0);
        // Between half the thinnest string with a thin ribbon and half the thickest with a full one (common practice, no source).
        expect(length(off)).toBeGreaterThan(0.2);
        expect(length(off)).toBeLessThan(0.9);
        expect(dot(off, subtract(tip, frog))).toBeCloseTo(0, 6);
        expect(dot(off, subtract(strings[string]!.nut, strings[string]!.bridge))).toBeCloseTo(0, 6);
      }
    }
  });
  it('the four numbers come back from the ends of the hair', () => {
    fc.assert(
      fc.property(
        fc.record({
          contact: fc.double({ min: 2, max: 70, noNaN: true }),
          skew: fc.double({ min: -35, max: 35, noNaN: true }),
          inclination: fc.double({ min: -30, max: 30, noNaN: true }),
          position: fc.double({ min: 0.02, max: 0.98, noNaN: true }),
        }),
        fc.integer({ min: 0, max: 3 }),
        fc.constantFrom(1 as const, -1 as const),
        (state, string, side) => {
          const { frog, tip } = hairLine(state, strings[string]!, 650, side);
          expect(length(subtract(tip, frog))).toBeCloseTo(650, 6);
          const back = bowStateOf(frog, tip, strings[string]!, side);
          expect(back.contact).toBeCloseTo(state.contact, 5);
          expect(back.skew).toBeCloseTo(state.skew, 6);
          expect(back.inclination).toBeCloseTo(state.inclination, 6);
          expect(back.position).toBeCloseTo(state.position, 6);
        },
      ),
    );
  });
});

/** Frames as a camera would see a given bowing, with noise in pixels. */
function film(course: (t: number) => { state: BowState; string: number }, seed: number, noise = 0.4, frames = 120): BowFrame[] {
  const random = seededRandom(seed);
  return Array.from({ length: frames }, (_, i): BowFrame => {
    const t = i / 25;
    const { state, string } = course(t);
    const line = hairLine(state, strings[string]!, 650, 1);
    const image = (share: number): Vec2 => project(camera, toOuter(pose, mix(line.frog, line.tip, share)))!;
    const jitter = (p: Vec2, s: number): Vec2 => [p[0] + s * normal(random), p[1] + s * normal(random)];
    return {
      t,
      pose,
      sighting: {
        line: { a: jitter(image(0.05), noise), b: jitter(image(0.95), noise), sigmaA: noise, sigmaB: noise, shareA: 0, shareB: 1 },
        frog: { point: jitter(image(0), 3), sigma: 4 },
        tip: { point: jitter(image(1), 2), sigma: 2.5 },
        score: 0.8,
      },
    };
  });
}

const stroking = (t: number): BowState => ({
  contact: 28 + 6 * Math.sin(t),
  skew: 3 + 6 * Math.sin(2 * t),
  inclination: -7.7 + 0.5 * Math.sin(3 * t),
  position: 0.5 - 0.42 * Math.cos(2.2 * t),
});

describe('estimate over a clip', () => {
  it('finds a bowing on one string, with honest uncertainty', () => {
    const frames = film((t) => ({ state: stroking(t), string: 2 }), 1);
    const result = smoothBow(context, frames);
    expect(new Set(result.strings)).toEqual(new Set([2]));
    let inside = 0;
    frames.forEach((f, i) => {
      const truth = stroking(f.t);
      expect(Math.abs(result.states[i]!.contact - truth.contact)).toBeLessThan(3);
      expect(Math.abs(result.states[i]!.position - truth.position)).toBeLessThan(0.03);
      if (Math.abs(result.states[i]!.skew - truth.skew) <= 2 * result.sigma[i]!.skew) inside++;
    });
    expect(inside / frames.length).toBeGreaterThan(0.9);
  });

  it('follows a crossing from string to string at its time', () => {
    const course = (t: number) => {
      const string = t < 1.6 ? 1 : t < 3.2 ? 2 : 3;
      return { state: { ...stroking(t), skew: 1, inclination: context.levels.natural[string]! }, string };
    };
    const frames = film(course, 3);
    const { strings: found } = smoothBow(context, frames);
    const right = frames.filter((f, i) => found[i] === course(f.t).string).length;
    expect(right / frames.length).toBeGreaterThan(0.95);
  });

  it('carries a short gap and grows unsure in it', () => {
    const frames = film((t) => ({ state: stroking(t), string: 2 }), 5).map((f, i) => (i >= 60 && i < 72 ? { ...f, sighting: NO_BOW } : f));
    const result = smoothBow(context, frames);
    expect(result.sigma[66]!.contact).toBeGreaterThan(1.5 * result.sigma[30]!.contact);
    expect(result.sigma[66]!.position).toBeGreaterThan(1.5 * result.sigma[30]!.position);
  });

  it('keeps unseen frames without a state of their own and stands a clip in which nothing is seen', () => {
    const none = film((t) => ({ state: stroking(t), string: 2 }), 5).map((f) => ({ ...f, sighting: NO_BOW }));
    expect(chooseStrings(context, none).states.every((s) => s === undefined)).toBe(true);
    expect(Number.isFinite(smoothBow(context, none).states[0]!.skew)).toBe(true);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { elbowAngle } from '../src/core/body/arm';
import { bowStateOf } from '../src/core/bow/bowState';
import { insidePicture, project } from '../src/core/geometry/camera';
import { toInner, toOuter } from '../src/core/geometry/pose';
import { distance } from '../src/core/geometry/vec3';
import { sideSign } from '../src/core/instrument/family';
import { levelMargin, sectorOf } from '../src/core/instrument/strings';
import { Phone } from './camera/phone';
import { bowArm, jointsAt } from './figure/joints';
import { GOOD_POSTURE } from './figure/posture';
import { buildInstrument } from './instrument/build';
import { courseAt, minimumJerk } from './motion/course';
import { Performance } from './motion/performance';
import { readyLength } from './motion/ready';
import { PRESETS, scenarioOf } from './presets/presets';
import { bowedSound, SAMPLE_RATE, soundTakeOf } from './sound/bowedString';
import { TruthBook } from './truth/truth';

const setUp = (preset: string, seed: number) => {
  const scenario = scenarioOf(preset, seed);
  const build = buildInstrument(scenario);
  const performance = new Performance(scenario, build);
  return { scenario, build, performance, phone: new Phone(scenario, performance.stature, performance.middle) };
};
const names = Object.keys(PRESETS);

describe('motion', () => {
  it('courses pass through their four values', () => {
    fc.assert(
      fc.property(
        fc.tuple(
          fc.float({ noNaN: true, min: -20, max: 20 }),
          fc.float({ noNaN: true, min: -20, max: 20 }),
          fc.float({ noNaN: true, min: -20, max: 20 }),
          fc.float({ noNaN: true, min: -20, max: 20 }),
        ),
        (course) => {
          course.forEach((v, i) => {
            expect(courseAt(course, i / 3)).toBeCloseTo(v, 4);
          });
        },
      ),
    );
  });
  it('a minimum-jerk movement starts and ends at rest (Flash and Hogan 1985: peak speed 1.875 of the mean, from memory)', () => {
    expect([minimumJerk(0), minimumJerk(1), minimumJerk(0.5)]).toEqual([0, 1, 0.5]);
    expect((minimumJerk(0.5005) - minimumJerk(0.4995)) / 0.001).toBeCloseTo(1.875, 3);
  });
});

describe('the synthetic student', () => {
  it.each(names)('%s: truth agrees with the definitions, measured back from the room', (preset) => {
    const { scenario, build, performance } = setUp(preset, 2);
    const begun = readyLength(scenario.ready);
    for (const since of [0.3, 0.9, 1.7, 2.4]) {
      const m = performance.at(begun + since);
      const back = bowStateOf(toInner(m.instrument, m.frog), toInner(m.instrument, m.tip), performance.strings[m.string]!, sideSign(scenario.family));
      expect(back.skew).toBeCloseTo(m.bow.skew, 5);
      expect(back.inclination).toBeCloseTo(m.bow.inclination, 5);
      expect(back.contact).toBeCloseTo(m.bow.contact, 4);
      expect(distance(m.frog, m.tip)).toBeCloseTo(build.hair, 5);
      if (m.soundingString !== undefined) {
        expect(sectorOf(performance.levels, m.bow.inclination)).toBe(m.string);
        expect(levelMargin(performance.levels, m.string, m.bow.inclination)).toBeGreaterThan(2);
      }
    }
  });

  it.each(names)('%s: the bridge is in the picture and the joints keep their lengths', (preset) => {
    const { build, performance, phone } = setUp(preset, 3);
    const m = performance.at(1.1);
    const bridge = project(phone.camera, toOuter(phone.poseAt(1.1), m.contact))!;
    expect(insidePicture(phone.camera, bridge, 40)).toBe(true);
    const j = jointsAt(m, build, performance.stature, GOOD_POSTURE);
    expect(distance(j.shoulderRight, j.elbowRight) / performance.stature).toBeCloseTo(0.18, 2);
    expect(elbowAngle(bowArm(j))).toBeGreaterThan(25);
    expect(elbowAngle(bowArm(j))).toBeLessThan(181);
  });

  it('is the same for the same seed and different for another', () => {
    const at = (seed: number) => setUp('straight', seed).performance.at(1).frog;
    expect(at(4)).toEqual(at(4));
    expect(distance(at(4), at(5))).toBeGreaterThan(1);
  });

  it('writes truth rows and marks near the true places', () => {
    const { scenario, build, performance, phone } = setUp('arc-to-fingerboard', 2);
    const book = new TruthBook(scenario, build, performance, phone);
    for (let i = 0; i < 40; i++) book.add(i, performance.at(i / 25), i % 5 === 0 ? () => true : undefined);
    expect(book.truthCsv().trim().split('\n')).toHaveLength(41);
    const marks = book.marks();
    const frame = marks.frames[0]!;
    const m = performance.at(frame.t);
    const truth = project(phone.camera, toOuter(phone.poseAt(frame.t), toOuter(m.instrument, build.model.landmarks['instrument.nut.low'])))!;
    const [u, v] = frame.points['instrument.nut.low']!;
    expect(Math.hypot(u - truth[0], v - truth[1])).toBeLessThan(5);
  });

  it('refuses unknown presets', () => {
    expect(() => scenarioOf('nobody', 1)).toThrow(/Known: straight/);
  });
});

describe('sound', () => {
  it('is at the pitch of the open A', () => {
    const { scenario, build, performance } = setUp('straight', 1);
    const sound = bowedSound(performance, scenario.family, 1, build.model.fingerboardEndX, soundTakeOf(scenario));
    const from = Math.round(0.9 * SAMPLE_RATE);
    const part = sound.subarray(from, from + 8192);
    const power = (hz: number) => {
      let re = 0;
      let im = 0;
      part.forEach((x, i) => {
        re += x * Math.cos((2 * Math.PI * hz * i) / SAMPLE_RATE);
        im += x * Math.sin((2 * Math.PI * hz * i) / SAMPLE_RATE);
      });
      return re * re + im * im;
    };
    expect(power(440)).toBeGreaterThan(20 * Math.max(power(415), power(466), power(330)));
  });
});

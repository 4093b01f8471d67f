import { describe, expect, it } from 'vitest';
import { elbowAngle } from '../../src/core/body/arm';
import { project } from '../../src/core/geometry/camera';
import { toOuter } from '../../src/core/geometry/pose';
import { rotationDistance } from '../../src/core/geometry/rotation';
import { distance, dot, normalize, subtract } from '../../src/core/geometry/vec3';
import { Phone } from '../camera/phone';
import { bowArm, jointsAt } from '../figure/joints';
import { buildInstrument } from '../instrument/build';
import { scenarioOf } from '../presets/presets';
import { TruthBook } from '../truth/truth';
import { Performance } from './performance';
import { readinessAt, readyHolds, readyLength } from './ready';

const setUp = (size: string) => {
  const scenario = scenarioOf('ready', 1, { size });
  const build = buildInstrument(scenario);
  const performance = new Performance(scenario, build);
  return { scenario, spec: scenario.ready!, build, performance, joints: (t: number) => jointsAt(performance.at(t), build, performance.stature, scenario.posture) };
};

describe('the ready sequence', () => {
  it.each(['4/4', '1/4'])('at size %s goes from under the arm to the string without a jump', (size) => {
    const { performance, spec, joints } = setUp(size);
    const step = 0.01;
    const end = readyLength(spec) + 0.5;
    for (let t = 0; t + step < end; t += step) {
      const [a, b] = [performance.at(t), performance.at(t + step)];
      const [j, l] = [joints(t), joints(t + step)];
      // Nothing goes faster than an arm is swung, some 5 m/s; a hand that lets go or takes hold turns at once.
      for (const part of ['frog', 'tip'] as const) expect(distance(a[part], b[part])).toBeLessThan(50);
      for (const part of ['wristRight', 'elbowRight', 'wristLeft', 'head'] as const) expect(distance(j[part], l[part])).toBeLessThan(50);
      expect(distance(a.instrument.translation, b.instrument.translation)).toBeLessThan(30);
      expect(rotationDistance(a.instrument.rotation, b.instrument.rotation)).toBeLessThan(0.08);
    }
  });
  it('has the instrument under the bow arm at rest, top outward and scroll ahead, and the bow hanging from its hand', () => {
    const { performance, joints } = setUp('4/4');
    const [m, j] = [performance.at(0.8), joints(0.8)];
    const axis = (a: readonly [number, number, number]) => subtract(toOuter(m.instrument, a), m.instrument.translation);
    expect(axis([0, 0, 1])[0]).toBeLessThan(-0.8);
    expect(axis([1, 0, 0])[1]).toBeLessThan(-0.8);
    const { translation } = m.instrument;
    expect(translation[2]).toBeLessThan(j.shoulderRight[2]);
    expect(translation[2]).toBeGreaterThan(j.elbowRight[2]);
    expect(m.tip[2]).toBeLessThan(m.frog[2] - 500);
    expect(elbowAngle(bowArm(j))).toBeLessThan(135);
    expect(distance(j.shoulderRight, j.elbowRight) / performance.stature).toBeCloseTo(0.18, 3);
    expect(j.wristLeft[2]).toBeLessThan(j.hipLeft[2] + 60);
  });
  it('keeps the bow square to what the hand takes for off, and its length', () => {
    const { performance, build, spec } = setUp('1/2');
    for (let t = 0; t < readyLength(spec) + 1; t += 0.17) {
      const { frog, tip, bowOff } = performance.at(t);
      expect(distance(frog, tip)).toBeCloseTo(build.hair, 5);
      expect(dot(bowOff, normalize(subtract(tip, frog)))).toBeCloseTo(0, 8);
    }
  });
  it('writes down nothing of a bow that is not on the string, and when which hold was meant', () => {
    const { scenario, performance, build, spec } = setUp('4/4');
    const phone = new Phone(scenario, performance.stature, performance.middle);
    const book = new TruthBook(scenario, build, performance, phone);
    const times = [0.5, 4, readyLength(spec) - 0.1, readyLength(spec) + 0.2];
    times.forEach((t, i) => {
      book.add(i, performance.at(t), () => true);
    });
    const [head, ...rows] = book
      .truthCsv()
      .trim()
      .split('\n')
      .map((line) => line.split(','));
    const column = (name: string) => rows.map((r) => r[head!.indexOf(name)] !== '');
    for (const name of ['skew_deg', 'contact_mm', 'inclination_deg', 'bow_position', 'arm_bow_gap_deg', 'string']) expect(column(name)).toEqual([false, false, false, true]);
    expect(column('left_wrist_deg')).toEqual([false, false, true, true]);
    expect(column('elbow_angle_deg')).toEqual([true, true, true, true]);
    expect(book.marks().frames[0]!.t).toBeCloseTo(times[3]!, 3);
    expect(JSON.parse(book.scoreJson()).holds.map((h: { kind: string }) => h.kind)).toEqual(['rest', 'hands-free', 'playing']);
    // All of it is in the whole-body picture.
    for (const t of times) {
      const at = project(phone.camera, toOuter(phone.poseAt(t), performance.at(t).frog))!;
      expect(at[0]).toBeGreaterThan(0);
      expect(at[1]).toBeLessThan(scenario.height);
    }
  });
  it('without letting go is rest and then playing position', () => {
    const spec = { rest: 1, raise: 1, hold: 2, place: 1, handsFree: false };
    expect(readyHolds(spec, 9)).toEqual([
      { kind: 'rest', from: 0, to: 1 },
      { kind: 'playing', from: 2, to: 9 },
    ]);
    expect(readinessAt(spec, 3)).toEqual({ lifted: 1, onString: 0, leftAway: 0 });
    expect(readinessAt(undefined, 0)).toEqual({ lifted: 1, onString: 1, leftAway: 0 });
  });
});

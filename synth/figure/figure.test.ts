import { describe, expect, it } from 'vitest';
import { fingerBends, HAND_POINTS, middleCrossing } from '../../src/core/body/hand';
import { toInner } from '../../src/core/geometry/pose';
import { addScaled, distance, dot, length, normalize, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import { onString } from '../../src/core/instrument/strings';
import { buildInstrument } from '../instrument/build';
import { Performance } from '../motion/performance';
import { scenarioOf } from '../presets/presets';
import { childlike, growthAt } from './growth';
import { fingerJoints, handScale, REST_PALM, reach, restHand } from './hand';
import { bowArm, jointsAt } from './joints';
import { looksOf } from './looks';
import { GOOD_POSTURE } from './posture';

const PLAYERS = ['straight', 'crossings', 'half-size', 'quarter-size', 'viola', 'cello'] as const;

function playing(preset: string, seed: number) {
  const scenario = scenarioOf(preset, seed);
  const build = buildInstrument(scenario);
  const performance = new Performance(scenario, build);
  return Array.from({ length: 20 }, (_, i) => {
    const m = performance.at(0.2 + i * 0.15);
    return { m, build, performance, j: jointsAt(m, build, performance.stature, GOOD_POSTURE) };
  });
}

describe('growth', () => {
  it('heads grow less than bodies: a quarter less of the stature from four years to grown up', () => {
    const shares = [1030, 1160, 1280, 1390, 1500, 1620, 1720].map((h) => growthAt(h).headHeight / h);
    for (let i = 1; i < shares.length; i++) expect(shares[i]!).toBeLessThan(shares[i - 1]!);
    expect(shares[shares.length - 1]! / shares[0]!).toBeCloseTo(0.73, 1);
    // About seven and a half heads to a grown body (common practice of figure drawing, no source).
    expect(1 / shares[shares.length - 1]!).toBeCloseTo(7.7, 0);
  });
  it('goes on evenly between its rows and stops at its ends', () => {
    expect(growthAt(1445).age).toBeCloseTo(11, 6);
    expect(growthAt(900).age).toBe(4);
    expect(childlike(growthAt(2000).age)).toBe(0);
  });
});

describe('hands', () => {
  const s = handScale(1600);
  it('a finger reaches a place within its length', () => {
    for (const target of [
      [120, 20, -40],
      [150, 5, -20],
      [110, -20, -50],
    ] as Vec3[]) {
      for (let finger = 0; finger < 4; finger++) {
        const joints = fingerJoints(REST_PALM, finger, reach(REST_PALM, finger, target, s), s);
        const sideways = Math.abs(target[1] - joints[0]![1]) > 35;
        if (!sideways) expect(distance(joints[3]!, target)).toBeLessThan(22);
      }
    }
  });
  it('the open hand has all its joints and slightly bent fingers', () => {
    const hand = restHand(s);
    expect(hand).toHaveLength(HAND_POINTS);
    expect(fingerBends(hand, 'middle', 1).pip).toBeCloseTo(26, 3);
  });

  it.each(PLAYERS)('%s: bones keep their lengths whatever is played', (preset) => {
    const all = playing(preset, 3);
    for (const which of ['handRight', 'handLeft'] as const) {
      const spans = (i: number, a: number, b: number) => distance(all[i]!.j[which].joints[a]!, all[i]!.j[which].joints[b]!);
      for (const [a, b] of [
        [2, 3],
        [3, 4],
        [5, 6],
        [7, 8],
        [9, 10],
        [17, 18],
        [19, 20],
        [0, 9],
      ] as const)
        for (let i = 1; i < all.length; i++) expect(spans(i, a, b)).toBeCloseTo(spans(0, a, b), 6);
    }
  });

  it.each(PLAYERS)('%s: the bow hand holds the stick', (preset) => {
    for (const { m, j, build } of playing(preset, 2)) {
      const { along, back, off } = j.bowAxes;
      const height = 21 * build.bowScale;
      const axis = addScaled(addScaled(m.frog, off, height * Math.cos(m.stickLean)), back, -height * Math.sin(m.stickLean));
      const toStick = (p: Vec3) => {
        const d = subtract(p, axis);
        return length(addScaled(d, along, -dot(d, along)));
      };
      const hand = j.handRight.joints;
      // Index, middle and ring lie over it, the thumb against it, the little finger on it.
      for (const tip of [4, 8, 12, 16, 20]) expect(toStick(hand[tip]!)).toBeLessThan(30);
      // In the lower half it crosses the middle finger near its end joint.
      const crossing = middleCrossing(hand, { a: axis, b: addScaled(axis, along, 100) });
      if (m.bow.position < 0.45) expect(Math.abs(crossing)).toBeLessThan(0.7);
    }
  });

  it('wrist and fingers move along the bow as a well-led arm moves them (practice: bent palmward at the frog, longer little finger at the tip)', () => {
    const all = playing('straight', 1);
    const at = (from: number, to: number) => all.filter(({ m }) => m.bow.position >= from && m.bow.position <= to);
    const little = (list: typeof all) => list.reduce((sum, { j }) => sum + fingerBends(j.handRight.joints, 'little', 1).pip, 0) / list.length;
    expect(little(at(0, 0.2))).toBeGreaterThan(55);
    expect(little(at(0.8, 1))).toBeLessThan(little(at(0, 0.2)) - 15);
  });

  it('a pressed finger of the left hand is on its string, a lifted one over it', () => {
    const scenario = { ...scenarioOf('straight', 1, { sway: 0 }), strokes: [{ string: 2, finger: 1, direction: 'down', seconds: 1, part: [0.1, 0.9], rest: 0 }] } as const;
    const build = buildInstrument(scenario);
    const performance = new Performance(scenario, build);
    const m = performance.at(0.6);
    const { joints } = jointsAt(m, build, performance.stature, GOOD_POSTURE).handLeft;
    const [index, ring] = [8, 16].map((i) => toInner(m.instrument, joints[i]!)) as [Vec3, Vec3];
    const gap = (p: Vec3) => distance(p, onString(performance.strings[2]!, p[0]));
    expect(gap(index)).toBeLessThan(12);
    expect(gap(ring)).toBeGreaterThan(gap(index));
  });
});

describe('the player', () => {
  it.each(PLAYERS)('%s: arms keep their lengths within the reach of a shoulder', (preset) => {
    for (const { j, performance } of playing(preset, 2)) {
      const arm = bowArm(j);
      expect(distance(arm.shoulder, arm.elbow) / performance.stature).toBeCloseTo(0.18, 2);
      expect(distance(arm.elbow, arm.wrist) / performance.stature).toBeCloseTo(0.148, 1);
    }
  });
  it('a cellist sits with knees near a right angle, feet on the floor', () => {
    const { j, performance } = playing('cello', 1)[0]!;
    const thigh = normalize(subtract(j.hipLeft, j.kneeLeft));
    const shin = normalize(subtract(j.ankleLeft, j.kneeLeft));
    expect((Math.acos(dot(thigh, shin)) * 180) / Math.PI).toBeGreaterThan(80);
    expect((Math.acos(dot(thigh, shin)) * 180) / Math.PI).toBeLessThan(105);
    expect(j.seat).toBeDefined();
    expect(j.ankleLeft[2]).toBeCloseTo(0.045 * performance.stature, 6);
  });
  it('looks the same for the same seed at any size, and seeds differ', () => {
    expect({ ...looksOf(1300, 5), child: 0, face: 0 }).toEqual({ ...looksOf(1700, 5), child: 0, face: 0 });
    expect(new Set(Array.from({ length: 30 }, (_, i) => looksOf(1500, i + 1).hairdo)).size).toBeGreaterThan(4);
    expect(new Set(Array.from({ length: 30 }, (_, i) => looksOf(1500, i + 1).skin)).size).toBeGreaterThan(3);
  });
});

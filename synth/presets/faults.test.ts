import { describe, expect, it } from 'vitest';
import { armBowGap, elbowAngle, elbowBehind, elbowRise } from '../../src/core/body/arm';
import { fingerBends, handOpening, littleToStick, middleCrossing, thumbBends, tipGap, wristBend } from '../../src/core/body/hand';
import { kneeAngle } from '../../src/core/body/stance';
import { rotate } from '../../src/core/geometry/rotation';
import { DEGREES, distance, length, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import { stickAxis } from '../figure/bowHold';
import { bowArm, type Joints, jointsAt, stanceOf } from '../figure/joints';
import { buildInstrument } from '../instrument/build';
import { type Moment, Performance } from '../motion/performance';
import { FAULTS, withFaults } from './faults';
import { scenarioOf } from './presets';

const UP: Vec3 = [0, 0, 1];
const still = { sway: 0, wander: 0 } as const;

interface Look {
  readonly m: Moment;
  readonly j: Joints;
}

/** The player every fortieth of a second, faults of that strength played. */
function looks(faults: readonly { id: string; strength: number }[], preset = 'crossings'): Look[] {
  const scenario = withFaults(scenarioOf(preset, 1, still), faults);
  const build = buildInstrument(scenario);
  const performance = new Performance(scenario, build);
  return Array.from({ length: 300 }, (_, i) => {
    const m = performance.at(0.2 + i * 0.025);
    return { m, j: jointsAt(m, build, performance.stature, scenario.posture) };
  });
}

const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / list.length;
const near = (from: number, to: number) => (l: Look) => l.m.bow.position >= from && l.m.bow.position <= to;
const average =
  (f: (l: Look) => number, where: (l: Look) => boolean = () => true) =>
  (all: Look[]) =>
    mean(all.filter(where).map(f));
const range = (f: (l: Look) => number) => (all: Look[]) => Math.max(...all.map(f)) - Math.min(...all.map(f));

const hand = (l: Look) => l.j.handRight.joints;
const axis = (l: Look, v: Vec3) => rotate(l.m.instrument.rotation, v);
const stick = (l: Look) => {
  const at = (x: number) => stickAxis({ frog: l.m.frog, ...l.j.bowAxes }, l.m.stickLean, 1, x);
  return { a: at(0), b: at(100) };
};
const pitch = average((l) => Math.asin(axis(l, [1, 0, 0])[2]) * DEGREES);
const roll = average((l) => Math.atan2(axis(l, [0, 1, 0])[2], axis(l, [0, 0, 1])[2]) * DEGREES);
const heading = average((l) => l.m.headingToTorso);
const gap = average((l) => armBowGap(bowArm(l.j), subtract(l.m.tip, l.m.frog), UP));
const skewAt = (from: number, to: number) => average((l) => l.m.bow.skew, near(from, to));
const contactAt = (from: number, to: number) => average((l) => l.m.bow.contact, near(from, to));
const littlePip = average((l) => fingerBends(hand(l), 'little', 1).pip);
const positions = range((l) => l.m.bow.position);

/** For each fault the quantity it is about, and by how much it moves at strength 1 at least (with its sign). */
const OWN: Record<string, readonly [quantity: (all: Look[]) => number, by: number]> = {
  'scroll-droops': [pitch, -15],
  'scroll-too-high': [pitch, 15],
  'instrument-in-front': [heading, -20],
  'instrument-too-far-left': [heading, 20],
  'instrument-too-flat': [roll, -12],
  'instrument-too-steep': [roll, 20],
  'instrument-moves': [range((l) => l.m.headingToTorso), 6],
  'left-elbow-on-ribs': [average((l) => l.j.elbowLeft[0]), -40],
  'left-wrist-collapsed': [average((l) => wristBend(l.j.handLeft.joints, subtract(l.j.wristLeft, l.j.elbowLeft), -1).flexion), -5],
  'back-hollow': [average((l) => l.j.waist[1]), -40],
  leaning: [average((l) => l.j.shoulderLeft[0] - l.j.hipLeft[0]), 60],
  'shoulder-raised': [average((l) => l.j.shoulderLeft[2]), 30],
  'head-clamped': [average((l) => l.j.crown[0]), 0.2],
  'head-over-turned': [average((l) => Math.atan2(l.j.face[0], -l.j.face[1]) * DEGREES), 20],
  'feet-not-set': [average((l) => distance(l.j.ankleLeft, l.j.ankleRight)), -100],
  'thumb-straight': [average((l) => thumbBends(hand(l), 1).ip), -28],
  'thumb-bent-back': [average((l) => thumbBends(hand(l), 1).ip), -50],
  'cello-seat-height': [average((l) => kneeAngle(stanceOf(l.j))), 15],
  'cello-feet-not-set': [average((l) => distance(l.j.ankleLeft, l.j.ankleRight)), -200],
  'cello-leaning-off': [pitch, 15],
  'hand-closed': [average((l) => handOpening(hand(l))), -0.15],
  'little-straight': [littlePip, -30],
  'little-collapsed': [littlePip, -45],
  'little-off-stick': [average((l) => littleToStick(hand(l), stick(l))), 0.5],
  'fingers-perched': [average((l) => middleCrossing(hand(l), stick(l))), -0.1],
  'fingers-too-deep': [average((l) => middleCrossing(hand(l), stick(l))), 0.15],
  'fingers-bunched': [average((l) => tipGap(hand(l), 'index', 'middle') + tipGap(hand(l), 'ring', 'little')), -0.4],
  'fingers-spread': [average((l) => tipGap(hand(l), 'index', 'middle') + tipGap(hand(l), 'ring', 'little')), 0.4],
  'index-stretched': [average((l) => tipGap(hand(l), 'index', 'middle')), 0.5],
  'hand-rigid': [range((l) => fingerBends(hand(l), 'little', 1).pip), -15],
  'wrist-bent': [average((l) => wristBend(hand(l), subtract(l.j.wristRight, l.j.elbowRight), 1).flexion), 15],
  'tip-to-scroll': [skewAt(0.7, 1), 8],
  'tip-to-player': [skewAt(0.7, 1), -7],
  'crooked-at-frog': [skewAt(0, 0.25), 7],
  'bow-arcs': [range((l) => l.m.bow.skew), 15],
  'elbow-behind': [average((l) => elbowBehind(bowArm(l.j), l.j.shoulderLeft, [0, -1, 0], UP)), 0.08],
  'on-fingerboard': [contactAt(0, 1), 20],
  'at-bridge': [contactAt(0, 1), -15],
  'contact-drifts': [range((l) => l.m.bow.contact), 14],
  'contact-jumps': [range((l) => l.m.bow.contact), 12],
  'elbow-too-low': [gap, -10],
  'elbow-too-high': [gap, 9],
  'levels-not-distinct': [range((l) => armBowGap(bowArm(l.j), subtract(l.m.tip, l.m.frog), UP)), 12],
  'level-lost': [average((l) => l.m.bow.inclination, near(0.8, 1)), 2.5],
  'crossing-late': [average((l) => Math.abs(armBowGap(bowArm(l.j), subtract(l.m.tip, l.m.frog), UP))), 0.25],
  'crossing-early': [average((l) => Math.abs(armBowGap(bowArm(l.j), subtract(l.m.tip, l.m.frog), UP))), 0.25],
  'neighbour-touched': [average((l) => l.m.bow.inclination), 6],
  'uneven-shares': [average((l) => l.m.bow.position), 0.05],
  'small-part-of-bow': [positions, -0.5],
  'right-angle-missed': [average((l) => elbowAngle(bowArm(l.j)), near(0.42, 0.58)), 15],
  'stroke-from-shoulder': [average((l) => elbowAngle(bowArm(l.j)), near(0.85, 1)), -30],
  'elbow-wrist-apart': [average((l) => elbowRise(bowArm(l.j), UP), near(0.35, 0.65)), -10],
  'arm-not-parallel': [range((l) => armBowGap(bowArm(l.j), subtract(l.m.tip, l.m.frog), UP)), 8],
  airy: [contactAt(0, 1), 12],
  glassy: [contactAt(0, 1), -8],
  scratchy: [average((l) => Math.abs(l.m.speed)), -200],
  'two-strings': [average((l) => l.m.bow.inclination), 6],
  'runs-out-of-bow': [average((l) => l.m.bow.position, near(0.9, 1)), 0.03],
  'speed-collapses': [average((l) => Math.abs(l.m.speed), near(0.44, 0.54)), -200],
  'slow-recovery': [range((l) => l.m.bow.contact), 14],
  'extra-noise-at-start': [range((l) => l.m.press), 0.7],
  'stops-between-strokes': [average((l) => Math.abs(l.m.speed)), -50],
};

/** Faults that leave bow and instrument as they are. */
const OF_THE_BODY = Object.keys(FAULTS).filter(
  (id) =>
    !id.startsWith('cello') && id !== 'stroke-from-shoulder' && /^left|back-hollow|shoulder|head-|feet|thumb|hand|little|fingers|index|wrist|elbow-too|levels|crossing/.test(id),
);

describe('faults', () => {
  const good = looks([]);
  const seated = looks([], 'cello');
  it.each(Object.keys(FAULTS))('%s moves its own quantity', (id) => {
    const [quantity, by] = OWN[id]!;
    const cello = id.startsWith('cello');
    const change = quantity(looks([{ id, strength: 1 }], cello ? 'cello' : 'crossings')) - quantity(cello ? seated : good);
    expect(change / by).toBeGreaterThan(1);
  });

  it.each(OF_THE_BODY)('%s leaves bow and instrument where they are', (id) => {
    looks([{ id, strength: 1 }]).forEach(({ m }, i) => {
      expect(length(subtract(m.frog, good[i]!.m.frog))).toBeLessThan(1e-9);
      expect(length(subtract(m.tip, good[i]!.m.tip))).toBeLessThan(1e-9);
    });
  });

  it('leaning takes shoulders, head and instrument along, and turns neither bow nor instrument', () => {
    looks([{ id: 'leaning', strength: 1 }]).forEach(({ m, j }, i) => {
      const aside = subtract(m.instrument.translation, good[i]!.m.instrument.translation);
      expect(aside[0]).toBeGreaterThan(60);
      expect(length(subtract(subtract(j.shoulderLeft, good[i]!.j.shoulderLeft), aside))).toBeLessThan(1e-6);
      expect(length(subtract(subtract(j.head, good[i]!.j.head), aside))).toBeLessThan(1e-6);
      expect(length(subtract(subtract(m.tip, m.frog), subtract(good[i]!.m.tip, good[i]!.m.frog)))).toBeLessThan(1e-9);
    });
  });

  it.each(['tip-to-scroll', 'on-fingerboard', 'level-lost', 'scroll-droops'])('%s leaves the shape of the hold as it is', (id) => {
    looks([{ id, strength: 1 }]).forEach((l, i) => {
      for (const finger of ['index', 'little'] as const) expect(Math.abs(fingerBends(hand(l), finger, 1).pip - fingerBends(hand(good[i]!), finger, 1).pip)).toBeLessThan(3);
    });
  });

  it('of strength 0 change nothing; together they add up', () => {
    expect(looks(Object.keys(FAULTS).map((id) => ({ id, strength: 0 })))[100]!.m.tip).toEqual(good[100]!.m.tip);
    const both = looks([
      { id: 'scroll-droops', strength: 1 },
      { id: 'thumb-straight', strength: 1 },
    ]);
    expect(pitch(both)).toBeLessThan(pitch(good) - 15);
    expect(mean(both.map((l) => thumbBends(hand(l), 1).ip))).toBeLessThan(10);
  });

  it('refuses an unknown one', () => {
    expect(() => withFaults(scenarioOf('straight', 1), [{ id: 'nothing', strength: 1 }])).toThrow(/Known: scroll-droops/);
  });
});

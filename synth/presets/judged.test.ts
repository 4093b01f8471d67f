import { describe, expect, it } from 'vitest';
import { strokesWithArm } from '../../src/core/body/strokesWithArm';
import { strokesWithHand } from '../../src/core/body/strokesWithHand';
import { soundEvents } from '../../src/core/crossings/soundEvents';
import { FAULTS as CATALOGUE } from '../../src/core/findings/faults';
import type { Finding } from '../../src/core/findings/finding';
import { judge } from '../../src/core/findings/judge';
import { sideSign } from '../../src/core/instrument/family';
import type { MarksSolution } from '../../src/core/instrument/solveMarks';
import type { FrameMeasures, Quantity } from '../../src/core/measures/measures';
import { FINGERBOARD_SIDE, LEVEL_WRIST, LOW_ARM, MIDDLE_OF_STRIP, PARALLEL_ARM, type Rubric } from '../../src/core/rubric/rubric';
import { hear, listen } from '../../src/core/sound/hear';
import { segmentStrokes } from '../../src/core/strokes/segment';
import { bowArm, jointsAt } from '../figure/joints';
import { buildInstrument } from '../instrument/build';
import { Performance } from '../motion/performance';
import { bowedSound, SAMPLE_RATE, soundTakeOf } from '../sound/bowedString';
import { TruthBook } from '../truth/truth';
import { FAULTS, withFaults } from './faults';
import { scenarioOf } from './presets';
import type { Scenario } from './scenario';

/** Standard uncertainties as a fit view has them. */
const U: Partial<Record<string, number>> = {
  skew_deg: 1,
  contact_fraction: 0.03,
  bow_position: 0.01,
  elbow_behind: 0.03,
  shoulder_lift: 0.04,
  stance_width: 0.1,
  left_elbow_gap: 0.05,
  middle_crossing: 0.15,
  gap_index_middle: 0.15,
  little_to_stick: 0.2,
  hand_opening: 0.1,
  lumbar_arch: 0.02,
};

/** What would be found if every number were measured truly, with the sound heard or without: catalogue and synthetic student against each other. */
function judgedIn(scenario: Scenario, rubric: Rubric, withSound = false): readonly Finding[] {
  const build = buildInstrument(scenario);
  const performance = new Performance(scenario, build);
  const book = new TruthBook(scenario, build, performance, undefined as never);
  const count = Math.floor(performance.duration * 25);
  for (let i = 0; i < count; i++) book.add(i, performance.at(i / 25), undefined);
  const [head, ...rows] = book
    .truthCsv()
    .trim()
    .split('\n')
    .map((line) => line.split(','));
  const frames = rows.map((row, frame): FrameMeasures => {
    const values = Object.fromEntries(head!.slice(2, -1).map((name, k) => [name, { value: Number(row[k + 2]), u: U[name] ?? 2 }]));
    return { frame, t: Number(row[1]), ...(row.at(-1) ? { string: row.at(-1)! } : {}), values: values as Partial<Record<Quantity, { value: number; u: number }>> };
  });
  const arms = frames.map(({ frame, t }) => {
    const joints = jointsAt(performance.at(t), build, performance.stature, scenario.posture);
    return { ...bowArm(joints), otherShoulder: joints.shoulderLeft, frame, t, sigma: { elbow: 10, wrist: 10 } };
  });
  const strokes = strokesWithHand(strokesWithArm(segmentStrokes(frames), frames, arms), frames, new Set(frames.map((f) => f.frame)));
  const heard = withSound
    ? listen(bowedSound(performance, scenario.family, build.model.frame.scale, build.model.fingerboardEndX, soundTakeOf(scenario)), SAMPLE_RATE, scenario.family)
    : undefined;
  const turns = strokes.slice(1).map((s) => s.from + scenario.soundLate);
  const sound = heard && { heard: hear(heard, { turns }), late: { value: scenario.soundLate, u: 0.01 } };
  const events = soundEvents({ family: scenario.family, solution: { model: build.model } as MarksSolution, frames, strokes, sound });
  const motion = { poses: frames.map((f) => performance.at(f.t).instrument), side: sideSign(scenario.family) };
  return judge({ frames, strokes, rubric, stage: 'later', family: scenario.family, events, motion }).findings;
}

const foundIn = (...[scenario, rubric, withSound]: Parameters<typeof judgedIn>): string[] => judgedIn(scenario, rubric, withSound).map((f) => f.fault);

const playing = (preset: string, fault?: string, seed = 1) => {
  const plain = scenarioOf(preset, seed);
  return fault ? withFaults(plain, [{ id: fault, strength: 1 }]) : plain;
};

/** Faults seen only while strings change. */
const CROSSING = ['levels-not-distinct', 'crossing-late', 'crossing-early', 'elbow-too-low', 'elbow-too-high'];
/** Faults that need a sound or a film, one that at full strength is told beside the tip's turning (judged below), and two that the figure's joints allow only by half: its elbow neither sinks 15 degrees under the bow nor passes the back line. */
const NOT_HERE = [
  'airy',
  'glassy',
  'scratchy',
  'two-strings',
  'elbow-wrist-apart',
  'arm-not-parallel',
  'bow-arcs',
  'neighbour-touched',
  'extra-noise-at-start',
  'instrument-moves',
  'elbow-too-low',
  'elbow-behind',
];
/** What a fault brings with it by its nature: the bow's path decides the contact point, a hand's shape more than one joint. */
const WITH: Record<string, readonly string[]> = {
  'tip-to-scroll': ['bow-arcs', 'contact-drifts', 'on-fingerboard'],
  'tip-to-player': ['bow-arcs', 'contact-drifts', 'on-fingerboard'],
  'stroke-from-shoulder': ['tip-to-scroll', 'bow-arcs', 'contact-drifts', 'on-fingerboard', 'right-angle-missed', 'wrist-bent'],
  'contact-drifts': ['on-fingerboard'],
  'on-fingerboard': [],
  'contact-jumps': ['on-fingerboard', 'at-bridge', 'contact-drifts'],
  'instrument-too-steep': ['elbow-too-high'],
  'thumb-bent-back': ['thumb-straight'],
  'little-collapsed': ['little-straight'],
  'hand-closed': ['fingers-too-deep', 'fingers-perched', 'wrist-bent'],
  'fingers-too-deep': ['hand-closed'],
  'instrument-in-front': ['left-elbow-on-ribs', 'right-angle-missed', 'wrist-bent'],
  'instrument-too-far-left': ['wrist-bent'],
  'right-angle-missed': ['wrist-bent'],
  'wrist-bent': ['little-straight'],
  'level-lost': ['elbow-too-low', 'elbow-too-high'],
  'slow-recovery': ['on-fingerboard', 'contact-drifts'],
  'levels-not-distinct': ['elbow-too-low', 'elbow-too-high', 'wrist-bent'],
  'crossing-late': ['elbow-too-low', 'elbow-too-high'],
  'crossing-early': ['elbow-too-low', 'elbow-too-high'],
};

describe('clean players', () => {
  it.each([
    ['straight', MIDDLE_OF_STRIP],
    ['straight', FINGERBOARD_SIDE],
    ['straight', PARALLEL_ARM],
    ['crossings', PARALLEL_ARM],
    ['crossings', MIDDLE_OF_STRIP],
    ['viola', MIDDLE_OF_STRIP],
    ['cello', MIDDLE_OF_STRIP],
    ['short-strokes', LOW_ARM],
  ] as const)('%s raises nothing under its own rubric', (preset, rubric) => {
    for (const seed of [1, 2, 3]) expect(foundIn(playing(preset, undefined, seed), rubric)).toEqual([]);
  });
  it('of one school raise the known difference under another', () => {
    const plain = playing('crossings');
    const high = { ...plain, posture: { ...plain.posture, elbowLevel: 20 } };
    expect(foundIn(high, PARALLEL_ARM)).toContain('elbow-too-high');
    expect(foundIn(high, LOW_ARM)).toEqual([]);
    const nearFingerboard = { ...playing('straight'), contact: [0.74, 0.74, 0.74, 0.74] as const };
    expect(foundIn(nearFingerboard, FINGERBOARD_SIDE)).toEqual([]);
    expect(foundIn(nearFingerboard, MIDDLE_OF_STRIP)).toEqual(['on-fingerboard']);
  });
});

describe('a fault played by the synthetic student', () => {
  const presetOf = (id: string) => (CROSSING.includes(id) ? 'crossings' : id.startsWith('cello-') ? 'cello' : 'straight');
  const both = CATALOGUE.map((f) => f.id).filter((id) => id in FAULTS && !NOT_HERE.includes(id));
  it.each(both)('%s is found, and nothing that does not come with it', (id) => {
    const found = foundIn(playing(presetOf(id), id), PARALLEL_ARM);
    expect(found).toContain(id);
    expect(found.filter((f) => f !== id && !(WITH[id] ?? []).includes(f))).toEqual([]);
  });
  it.each([
    ['tip-to-scroll', 'arm-swung'],
    ['tip-to-player', 'arm-swung'],
    ['crooked-at-frog', 'arm-swung'],
    ['right-angle-missed', 'instrument-too-large'],
    ['levels-not-distinct', 'wrist-only-crossing'],
    ['level-lost', 'arm-level-wrong'],
    ['crossing-late', 'arm-late'],
    ['crossing-early', 'arm-early'],
  ])('%s is laid to %s', (id, cause) => {
    expect(judgedIn(playing(presetOf(id), id), PARALLEL_ARM).find((f) => f.fault === id)!.cause).toBe(cause);
  });
  it.each([
    ['on-fingerboard', 'scroll-droops', 'scroll-sank'],
    ['thumb-straight', 'hand-rigid', 'squeezing'],
  ])('%s together with %s is laid to %s, and not without', (id, other, cause) => {
    const causeWith = (...ids: string[]) =>
      judgedIn(
        withFaults(
          scenarioOf('straight', 1),
          ids.map((fault) => ({ id: fault, strength: 1 })),
        ),
        MIDDLE_OF_STRIP,
      ).find((f) => f.fault === id)!.cause;
    expect(causeWith(id, other)).toBe(cause);
    expect(causeWith(id)).toBeUndefined();
  });
  it('an elbow that hangs is a fault of the level with the wrist where that school asks for it', () => {
    expect(foundIn(playing('crossings', 'elbow-wrist-apart'), LEVEL_WRIST)).toContain('elbow-wrist-apart');
    expect(foundIn(playing('crossings', 'elbow-wrist-apart'), LOW_ARM)).not.toContain('elbow-wrist-apart');
  });
  it('bow-arcs is told beside the end that leaves its band, and by itself where neither does', () => {
    const arc = (strength: number) => foundIn(withFaults(scenarioOf('straight', 1), [{ id: 'bow-arcs', strength }]), PARALLEL_ARM);
    expect(arc(1)).toEqual(['tip-to-scroll', 'bow-arcs']);
    expect(arc(0.6)).toEqual(['bow-arcs']);
  });
  it('a bow that is crooked at one end alone does not travel in a curve', () => {
    const ends = (skew: Scenario['skew']) => foundIn({ ...playing('straight'), skew }, PARALLEL_ARM);
    for (const skew of [
      [0, 0, 0, 40],
      [-26, 0, 0, 0],
    ] as const) {
      expect(ends(skew)).toContain(skew[3] ? 'tip-to-scroll' : 'crooked-at-frog');
      expect(ends(skew)).not.toContain('bow-arcs');
    }
  });
});

describe('with the sound heard too', () => {
  it.each(['straight', 'crossings', 'viola', 'cello', 'short-strokes'])('a clean player (%s) raises nothing', (preset) => {
    for (const seed of [1, 2]) expect(foundIn(playing(preset, undefined, seed), MIDDLE_OF_STRIP, true)).toEqual([]);
  });
  it.each(['straight', 'crossings', 'viola', 'cello'])('notes that begin with a crunch are found (%s)', (preset) => {
    expect(foundIn(playing(preset, 'extra-noise-at-start'), MIDDLE_OF_STRIP, true)).toEqual(['extra-noise-at-start']);
    expect(foundIn(playing(preset, 'stops-between-strokes'), MIDDLE_OF_STRIP, true)).not.toContain('extra-noise-at-start');
  });
  it('a bow over the fingerboard sounds it, and one at the bridge; each is one finding', () => {
    expect(foundIn(playing('straight', 'airy'), MIDDLE_OF_STRIP, true)).toEqual(['on-fingerboard']);
    expect(foundIn(playing('straight', 'glassy'), MIDDLE_OF_STRIP, true)).toEqual(['at-bridge']);
  });
  it('a touched neighbour is found', () => {
    expect(foundIn(playing('straight', 'neighbour-touched'), MIDDLE_OF_STRIP, true)).toEqual(['neighbour-touched']);
  });
});

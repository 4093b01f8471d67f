import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { dimensionsOf } from '../instrument/dimensions';
import { instrumentModel } from '../instrument/landmarks';
import { stringLevels } from '../instrument/strings';
import { levelTable } from '../levels/levelTable';
import type { FrameMeasures } from '../measures/measures';
import { normal, seededRandom } from '../random';
import type { HeardNote } from '../sound/heard';
import { segmentStrokes } from '../strokes/segment';
import { bowedNotes, gapEvenness } from '../strokes/strokeKinds';
import { armLag } from './armLag';
import { crossingPairs } from './crossingPairs';
import { crossingsOf } from './crossings';
import { straysOf } from './strays';

const NAMES = ['G', 'D', 'A', 'E'];
const levels = stringLevels(instrumentModel(dimensionsOf('violin', '4/4')), 'violin');
const ORDER = [0, 1, 2, 3, 2, 1, 0];

/** G D A E A D G, a bow a second: inclination changes over 0.14 s about each whole second, the arm `late` seconds after it; with `stretched` a straight arm at the tip goes with the bow. */
function crossingClip({ late = 0, share = 1, noise = 0, seed = 1, stretched = false }): FrameMeasures[] {
  const random = seededRandom(seed);
  const inclination = (t: number) => {
    const k = Math.max(1, Math.min(ORDER.length - 1, Math.round(t)));
    const s = Math.min(1, Math.max(0, (t - k + 0.07) / 0.14));
    return levels.natural[ORDER[k - 1]!]! + (levels.natural[ORDER[k]!]! - levels.natural[ORDER[k - 1]!]!) * s * s * (3 - 2 * s);
  };
  return Array.from({ length: 175 }, (_, frame): FrameMeasures => {
    const t = frame / 25;
    const value = inclination(t);
    const index = levels.boundary.findIndex((b) => value >= b);
    const position = Math.abs(((t / 2) % 1) * 2 - 1) * 0.8 + 0.1;
    const straight = stretched && position > 0.65;
    return {
      frame,
      t,
      string: NAMES[index < 0 ? 3 : index]!,
      values: {
        inclination_deg: { value, u: 0.5 },
        bow_position: { value: position, u: 0.01 },
        elbow_angle_deg: { value: straight ? 150 : 90, u: 5 },
        upper_arm_elevation_deg: { value: -30 + share * inclination(straight ? t : t - late) + 8 * position + noise * normal(random), u: 6 },
      },
    };
  });
}

const note = (from: number, string: number, to = from + 0.9, again = false): HeardNote => ({
  from,
  to,
  string,
  stop: 0,
  hz: 440,
  confidence: 1,
  again,
  tone: { brightness: 1, noise: 0 },
});

describe('the lag of the arm over a clip', () => {
  it('is found to a frame, whatever it is', () => {
    fc.assert(
      fc.property(fc.integer({ min: -20, max: 30 }), fc.integer({ min: 1, max: 50 }), (hundredths, seed) => {
        const lag = armLag({ frames: crossingClip({ late: hundredths / 100, noise: 2, seed }) })!;
        expect(Math.abs(lag.value - hundredths / 100)).toBeLessThan(0.045);
        expect(Math.abs(lag.value - hundredths / 100)).toBeLessThan(3 * lag.u);
      }),
      { numRuns: 30 },
    );
  });
  it('is told by the pictures in which the arm was seen, a few of them with the arm lost; rarely withheld', () => {
    const cases = [-0.2, -0.1, 0, 0.1, 0.2].flatMap((late) => Array.from({ length: 10 }, (_, k) => ({ late, seed: k + 1 })));
    const told = cases.flatMap(({ late, seed }) => {
      const frames = crossingClip({ late, noise: 4, seed });
      const random = seededRandom(seed);
      const arms = frames.filter((_, i) => i % 3 === 0).map((f) => ({ t: f.t, seenLevel: random() < 0.1 ? -80 : f.values.upper_arm_elevation_deg!.value }));
      const lag = armLag({ frames: withoutArm(frames), arms });
      return lag ? [{ off: Math.abs(lag.value - late), u: lag.u }] : [];
    });
    expect(told.length).toBeGreaterThan(0.9 * cases.length);
    for (const { off, u } of told) expect(off).toBeLessThan(Math.min(0.12, 3 * u));
  });
  it('is that of the bent arm: a straight one goes with the bow', () => {
    const lag = armLag({ frames: crossingClip({ late: -0.25, noise: 2, stretched: true }) })!;
    expect(Math.abs(lag.value + 0.25)).toBeLessThan(0.05);
  });
  it('says nothing on one string, without an arm, or where the arm does not follow', () => {
    expect(armLag({ frames: crossingClip({}).map((f) => ({ ...f, values: { ...f.values, inclination_deg: { value: 7.7, u: 0.5 } } })) })).toBeUndefined();
    expect(armLag({ frames: withoutArm(crossingClip({})) })).toBeUndefined();
    expect(armLag({ frames: crossingClip({ share: 0.05, noise: 2 }) })).toBeUndefined();
  });

  it('is not told from the course along the bow where the arm was out of sight or straight at the crossings', () => {
    const frames = crossingClip({ late: -0.25, noise: 2 });
    const seen = (unseen: readonly number[]) =>
      frames.map((f) => (unseen.some((k) => Math.abs(f.t - k) < 0.45) ? { ...f, values: { ...f.values, upper_arm_elevation_deg: undefined } } : f) as FrameMeasures);
    expect(armLag({ frames: seen([1, 2, 3]) })!.value).toBeCloseTo(-0.25, 1);
    expect(armLag({ frames: seen([1, 2, 3, 4, 5]) })).toBeUndefined();
  });
});

describe('crossings', () => {
  const frames = crossingClip({ late: 0.1 });
  it('carry the note that starts on the new string near them', () => {
    const notes = [note(0.05, 0), note(1.03, 1), note(2.1, 2), note(3.5, 3)];
    const crossings = crossingsOf(frames, NAMES, levels, notes);
    expect(crossings.map((c) => c.leaves + c.reaches)).toEqual(['GD', 'DA', 'AE', 'EA', 'AD', 'DG']);
    expect(crossings.map((c) => c.tNote)).toEqual([1.03, 2.1, undefined, undefined, undefined, undefined]);
    expect(crossings[0]!.tBow).toBeCloseTo(1, 1);
  });
  it('tell the elbow only where it is known well enough', () => {
    const known = (u: number) => frames.map((f) => ({ ...f, values: { ...f.values, upper_arm_elevation_deg: { ...f.values.upper_arm_elevation_deg!, u } } }));
    expect(crossingsOf(known(20), NAMES, levels, []).every((c) => c.tElbow === undefined)).toBe(true);
    const [first] = crossingsOf(known(1), NAMES, levels, []);
    expect(first!.tElbow!.value - first!.tBow).toBeCloseTo(0.1, 1);
  });
});

const withoutArm = (frames: readonly FrameMeasures[]) => frames.map(({ values: { upper_arm_elevation_deg: _, ...values }, ...f }) => ({ ...f, values }));

describe('stray strings', () => {
  const frames = crossingClip({});
  const notes = [note(0.05, 0), note(1, 1), note(2, 2)];
  const crossings = crossingsOf(frames, NAMES, levels, notes);
  const why = (family: 'violin' | 'cello', from: number, to: number, string: number, beside: number) =>
    straysOf(family, frames, notes, [{ from, to, string, beside, level: -6, confidence: 0.8 }], crossings)[0]!;
  it('inside a string say on which side the arm is off, the other way round on the cello', () => {
    expect(why('violin', 1.45, 1.6, 0, 1)).toMatchObject({ string: 'G', why: 'too-high', inCrossing: false });
    expect(why('violin', 1.45, 1.6, 2, 1)).toMatchObject({ string: 'A', why: 'too-low', inCrossing: false });
    expect(why('cello', 1.45, 1.6, 0, 1)).toMatchObject({ string: 'C', why: 'too-low' });
  });
  it('about a crossing say whether the bow came early or left late', () => {
    expect(why('violin', 0.8, 0.97, 1, 0)).toMatchObject({ why: 'early', inCrossing: true });
    expect(why('violin', 1.03, 1.2, 0, 1)).toMatchObject({ why: 'late', inCrossing: true });
  });
  it('carry the place on the bow', () => {
    expect(why('violin', 1.45, 1.55, 0, 1).position).toBeCloseTo(0.5, 1);
  });
});

describe('levels', () => {
  it('are told string by string, with the share of each step that bow and arm make', () => {
    const frames = crossingClip({ share: 0.5 });
    const { levels: found, steps, missing, doubled } = levelTable(frames, segmentStrokes(frames), NAMES, levels);
    expect([missing, doubled]).toEqual([[], []]);
    expect(found.map((l) => l.string)).toEqual(NAMES);
    found.forEach((l, i) => {
      expect(l.bow.value).toBeCloseTo(levels.natural[i]!, 0);
    });
    for (const step of steps) {
      expect(step.bowShare).toBeCloseTo(1, 1);
      expect(step.armStep!.value / step.bowStep).toBeCloseTo(0.5, 1);
    }
  });
});

describe('crossings by pair and direction', () => {
  it('tell how long the bow takes, when the note comes, and who made the step', () => {
    const frames = crossingClip({ share: 1 }).map((f) => ({ ...f, values: { ...f.values, upper_arm_elevation_deg: { ...f.values.upper_arm_elevation_deg!, u: 2 } } }));
    const crossings = crossingsOf(frames, NAMES, levels, [note(1.05, 1)]);
    const { steps } = levelTable(frames, segmentStrokes(frames), NAMES, levels);
    const pairs = crossingPairs(frames, crossings, steps, NAMES, levels);
    expect(pairs.map((p) => p.leaves + p.reaches)).toEqual(['GD', 'DA', 'AE', 'EA', 'AD', 'DG']);
    // Smooth step over 0.14 s: from a tenth to nine tenths in 0.61 of it.
    expect(pairs[1]!.seconds).toBeCloseTo(0.085, 1);
    expect(pairs[0]!.noteLag).toBeCloseTo(0.05, 1);
    expect(pairs.every((p) => p.who === 'shoulder')).toBe(true);
    const byWrist = levelTable(crossingClip({ share: 0.05 }), segmentStrokes(frames), NAMES, levels).steps.map((s) => ({ ...s, armStep: { ...s.armStep!, u: 2 } }));
    expect(crossingPairs(frames, crossings, byWrist, NAMES, levels).every((p) => p.who === 'wrist')).toBe(true);
  });
});

describe('notes of a bow', () => {
  const frames = crossingClip({});
  const strokes = segmentStrokes(frames);
  const at = (t: number) => frames[Math.min(frames.length - 1, Math.round(t * 25))]!.values.bow_position!.value;
  const [stroke] = strokes;
  it('are a slur when the pitch changes within it, and share the bow as they lie in it', () => {
    const middle = (stroke!.from + stroke!.to) / 2;
    const [bow] = bowedNotes([stroke!], [note(stroke!.from, 0, middle), note(middle, 1, stroke!.to)], at);
    expect(bow!.kind).toBe('slurred');
    expect(bow!.shares[0]).toBeCloseTo(0.5, 1);
    expect(bow!.shares[0]! + bow!.shares[1]!).toBeCloseTo(1, 6);
  });
  it('are separate with a small gap and stopped with a long one', () => {
    const kinds = (gap: number) =>
      bowedNotes(
        strokes,
        strokes.map((s) => note(s.from + gap / 2, 0, s.to - gap / 2)),
        at,
      ).map((b) => b.kind);
    expect(kinds(0.04)[0]).toBe('separate');
    expect(kinds(0.3)[0]).toBe('stopped');
    const bows = bowedNotes(
      strokes,
      strokes.map((s) => note(s.from + 0.02, 0, s.to - 0.02)),
      at,
    );
    expect(gapEvenness(bows)).toBeLessThan(0.5);
    expect(gapEvenness(bows.map((b, i) => ({ ...b, gap: i % 2 ? 0.4 : 0.05 })))).toBeGreaterThan(0.6);
    expect(gapEvenness(bows.slice(0, 2))).toBeUndefined();
  });
});

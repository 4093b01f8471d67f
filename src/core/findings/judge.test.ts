import { describe, expect, it } from 'vitest';
import { eventsToText } from '../formats/eventsJson';
import { findingsToText } from '../formats/findingsJson';
import { fromRotationVector } from '../geometry/rotation';
import { dimensionsOf } from '../instrument/dimensions';
import { instrumentModel } from '../instrument/landmarks';
import type { MarksSolution } from '../instrument/solveMarks';
import type { FrameMeasures } from '../measures/measures';
import { bandsFor, FINGERBOARD_SIDE, LEVEL_WRIST, MIDDLE_OF_STRIP, PARALLEL_ARM } from '../rubric/rubric';
import { segmentStrokes } from '../strokes/segment';
import { rowOf } from './faults';
import { fitnessOf, judge } from './judge';

const PER_STROKE = 40;

/** A take of whole bows whose skew and contact follow the bow position. */
function take(strokes: number, skew: (p: number, stroke: number) => number, contact: (p: number) => number, u = 1.2): FrameMeasures[] {
  return Array.from({ length: strokes * PER_STROKE + 1 }, (_, i): FrameMeasures => {
    const p = 0.5 - 0.45 * Math.cos((Math.PI * i) / PER_STROKE);
    return {
      frame: i,
      t: i / 25,
      string: 'A',
      values: {
        bow_position: { value: p, u: 0.01 },
        skew_deg: { value: skew(p, Math.floor(i / PER_STROKE)), u },
        inclination_deg: { value: -7.7, u: 1 },
        contact_fraction: { value: contact(p), u: 0.03 },
      },
    };
  });
}

const found = (frames: FrameMeasures[], stage: 'first-term' | 'first-year' | 'later' = 'later', rubric = MIDDLE_OF_STRIP) =>
  judge({ frames, strokes: segmentStrokes(frames), rubric, stage });
const ids = (frames: FrameMeasures[], stage: 'first-term' | 'first-year' | 'later' = 'later', rubric = MIDDLE_OF_STRIP) =>
  found(frames, stage, rubric).findings.map((f) => f.fault);

describe('judging', () => {
  it('finds nothing on straight bows', () => {
    expect(
      found(
        take(
          5,
          () => 1,
          () => 0.5,
        ),
      ),
    ).toMatchObject({ findings: [], oneOffs: [], unjudged: [] });
  });

  it('finds the tip that turns to the scroll past the middle, in every bow', () => {
    const { findings } = found(
      take(
        5,
        (p) => 20 * p - 4,
        () => 0.5,
      ),
    );
    expect(findings.map((f) => f.fault)).toEqual(['tip-to-scroll', 'bow-arcs']);
    expect(findings[0]).toMatchObject({ fault: 'tip-to-scroll', third: 'tip', share: 1, string: 'A', fitness: 'fit' });
    expect(findings[0]!.value.value).toBeGreaterThan(10);
    expect(findings[0]!.confidence).toBeGreaterThan(0.95);
  });

  it('tells tip to the player apart from tip to the scroll', () => {
    expect(
      ids(
        take(
          4,
          (p) => 4 - 20 * p,
          () => 0.5,
        ),
      ),
    ).toEqual(['tip-to-player', 'bow-arcs']);
  });

  it('lists what happens in one or two bows apart', () => {
    const { findings, oneOffs } = found(
      take(
        8,
        (p, stroke) => (stroke === 2 ? 22 * p : 1),
        () => 0.5,
      ),
    );
    expect(findings).toHaveLength(0);
    expect(oneOffs.map((f) => f.fault)).toEqual(['tip-to-scroll']);
  });

  it('does not flag an excess smaller than its uncertainty', () => {
    expect(
      ids(
        take(
          5,
          (p) => 12.5 * p,
          () => 0.5,
          2.4,
        ),
      ),
    ).toEqual([]);
  });

  it('is gentler in the first term, and spares the last tenth of the bow there', () => {
    const frames = take(
      5,
      (p) => 15 * p,
      () => 0.5,
    );
    expect(ids(frames, 'later')).toEqual(['tip-to-scroll']);
    expect(ids(frames, 'first-term')).toEqual([]);
    expect(
      ids(
        take(
          5,
          (p) => (p > 0.905 ? 25 : 0),
          () => 0.5,
        ),
        'first-term',
      ),
    ).toEqual([]);
  });

  it('judges contact by the school', () => {
    const frames = take(
      4,
      () => 0,
      () => 0.72,
    );
    expect(ids(frames)).toEqual(['on-fingerboard']);
    expect(ids(frames, 'later', FINGERBOARD_SIDE)).toEqual([]);
    expect(
      ids(
        take(
          4,
          () => 0,
          () => 0.2,
        ),
      ),
    ).toEqual(['at-bridge']);
  });

  it('leaves bowing behind the bridge alone: it is an exercise', () => {
    expect(
      ids(
        take(
          4,
          () => 0,
          () => -0.3,
        ),
      ),
    ).toEqual([]);
  });

  it('sees the contact point wander within a stroke, and where', () => {
    const drift = found(
      take(
        4,
        () => 0,
        (p) => (p > 0.6 ? 0.42 + (p - 0.6) * 0.9 : 0.42),
      ),
    ).findings.find((f) => f.fault === 'contact-drifts');
    expect(drift).toMatchObject({ third: 'tip', share: 1 });
  });

  it('says that a quantity cannot be judged rather than guessing', () => {
    const { findings, unjudged } = found(
      take(
        5,
        (p) => 30 * p,
        () => 0.5,
        7,
      ),
    );
    expect(findings).toEqual([]);
    expect(unjudged.map((u) => u.quantity)).toEqual(['skew_deg']);
    expect(unjudged[0]!.why).toMatch(/Film from in front/);
    expect([fitnessOf(1.5, 5), fitnessOf(3, 5), fitnessOf(6, 5)]).toEqual(['fit', 'doubtful', undefined]);
  });

  it('names the arm when the bow turned in the room, the instrument when that turned', () => {
    const frames = take(
      4,
      (p) => 20 * p - 4,
      () => 0.5,
    );
    const strokes = segmentStrokes(frames);
    const still = frames.map(() => ({ rotation: fromRotationVector([2.5, 0.4, 0.5]), translation: [0, 0, 1000] as const }));
    const byArm = judge({ frames, strokes, rubric: MIDDLE_OF_STRIP, stage: 'later', motion: { poses: still, side: 1 } });
    expect(byArm.findings[0]!.cause).toBe('arm-swung');
    // The bow keeps its direction in the room; the instrument turns under it by the same angle.
    const turning = frames.map((f) => ({ rotation: fromRotationVector([0, 0, (f.values.skew_deg!.value * Math.PI) / 180]), translation: [0, 0, 1000] as const }));
    const byInstrument = judge({ frames, strokes, rubric: MIDDLE_OF_STRIP, stage: 'later', motion: { poses: turning, side: 1 } });
    expect(byInstrument.findings[0]!.cause).toBe('instrument-turned');
    expect(byInstrument.findings[0]!.evidence).toHaveLength(2);
  });

  it('widens two-sided bands by the stage', () => {
    expect(bandsFor(MIDDLE_OF_STRIP, 'first-term').skew).toEqual({ middle: 0, good: 7.5, fault: 15 });
  });
});

describe('files', () => {
  it('write findings and bows without nulls, rounded, with their format named', () => {
    const frames = take(
      5,
      (p) => 20 * p - 4,
      () => 0.5,
    );
    const text = findingsToText(found(frames), MIDDLE_OF_STRIP, 'later');
    const json = JSON.parse(text);
    expect(json.format).toBe('gestometra-findings/1');
    expect(json.rubric).toEqual({ id: 'middle-of-strip', stage: 'later', version: 1 });
    expect(json.findings[0]).toMatchObject({ fault: 'tip-to-scroll', third: 'tip', band: [-5, 5] });
    expect('cause' in json.findings[0]).toBe(false);
    expect(text).not.toContain('null');
    const model = instrumentModel(dimensionsOf('violin', '4/4'));
    const events = eventsToText({ family: 'violin', solution: { model } as MarksSolution, tracked: [], frames, strokes: segmentStrokes(frames) });
    const read = JSON.parse(events);
    expect(read.strokes).toHaveLength(5);
    expect(read.strokes[0]).toMatchObject({ share: 0.897, thirds: { frog: {}, middle: {}, tip: {} } });
    expect(read.strokes[0].recovery_s).toBeUndefined();
    expect(events).not.toContain('null');
  });
});

/** A take on which a posture quantity is laid, from one time to another. */
function posed(
  quantity: 'wrist_flexion_deg' | 'wrist_deviation_deg' | 'instrument_pitch_deg' | 'instrument_heading_deg' | 'arm_bow_gap_deg' | 'elbow_rise_deg' | 'peg_ear_mm',
  value: (t: number, p: number) => number,
  u = 1.5,
): FrameMeasures[] {
  return take(
    6,
    () => 0,
    () => 0.5,
  ).map((f) => ({ ...f, values: { ...f.values, [quantity]: { value: value(f.t, f.values.bow_position!.value), u } } }));
}

describe('postures and the bow arm', () => {
  it('a drooping scroll is found by its share of the time, and needs a third of it', () => {
    const { findings } = found(posed('instrument_pitch_deg', () => -18));
    expect(findings).toMatchObject([{ fault: 'scroll-droops', share: 1, third: 'all', band: [-10, 10] }]);
    expect(ids(posed('instrument_pitch_deg', (t) => (t < 2 ? -18 : 0)))).toEqual([]);
    expect(ids(posed('instrument_pitch_deg', () => -11))).toEqual([]);
  });
  it('doubt as wide as the band leaves it unjudged', () => {
    expect(ids(posed('instrument_heading_deg', () => 5, 14))).toEqual(['instrument-in-front']);
    expect(ids(posed('instrument_heading_deg', () => 5, 16))).toEqual([]);
  });
  it('the level of the arm is asked for by its school only, the wrist level in the middle of the bow only', () => {
    const low = posed('arm_bow_gap_deg', () => -28, 4);
    expect(ids(low, 'later', PARALLEL_ARM)).toEqual(['elbow-too-low']);
    expect(ids(low, 'later', LEVEL_WRIST)).toEqual([]);
    // Above it in some bows, below it in others: neither is a habit, both together are.
    const neither = posed('arm_bow_gap_deg', (t) => (t < 2 ? 28 : t < 4 ? -28 : 0), 4);
    expect(ids(neither, 'later', PARALLEL_ARM)).toEqual(['arm-not-parallel']);
    const folded = posed('elbow_rise_deg', (_, p) => (p < 0.3 ? -50 : 0), 4);
    expect(ids(folded, 'later', LEVEL_WRIST)).toEqual([]);
    expect(
      ids(
        posed('elbow_rise_deg', () => -30, 4),
        'later',
        LEVEL_WRIST,
      ),
    ).toEqual(['elbow-wrist-apart']);
    expect(
      ids(
        posed('elbow_rise_deg', () => 30, 4),
        'later',
        LEVEL_WRIST,
      ),
    ).toEqual(['elbow-wrist-apart']);
  });
  it('a wrist bent up, down or sideways in the middle of the bow is one fault, told in what shows it', () => {
    for (const [quantity, value] of [
      ['wrist_flexion_deg', -34],
      ['wrist_deviation_deg', 34],
    ] as const) {
      const { findings } = found(posed(quantity, () => value, 5));
      expect(findings).toMatchObject([{ fault: 'wrist-bent', quantity }]);
      expect(rowOf(findings[0]!)!.quantity).toBe(quantity);
    }
    // At the frog it bends as it should.
    expect(ids(posed('wrist_deviation_deg', (_, p) => (p < 0.25 ? 42 : 0), 5))).toEqual([]);
  });
  it('a cello whose pegs are far from the ear leans off, however it leans, and a violin is not asked', () => {
    const at = (lean: number, peg: number, family: 'cello' | 'violin' = 'cello') => {
      const frames = posed('peg_ear_mm', () => peg, 20).map((f) => ({ ...f, values: { ...f.values, cello_lean_deg: { value: lean, u: 2 } } }));
      return judge({ frames, strokes: segmentStrokes(frames), rubric: MIDDLE_OF_STRIP, stage: 'later', family }).findings;
    };
    const [far] = at(30, 260);
    expect(far).toMatchObject({ fault: 'cello-leaning-off', quantity: 'peg_ear_mm', band: [0, 140] });
    expect(rowOf(far!)).toMatchObject({ unit: 'mm' });
    expect(at(30, 100)).toEqual([]);
    expect(at(80, 260)).toMatchObject([{ fault: 'cello-leaning-off', quantity: 'cello_lean_deg' }]);
    expect(at(30, 260, 'violin')).toEqual([]);
  });
  it('no cello is judged by how a violin is held up', () => {
    const frames = posed('instrument_pitch_deg', () => 70);
    expect(judge({ frames, strokes: segmentStrokes(frames), rubric: MIDDLE_OF_STRIP, stage: 'later', family: 'cello' }).findings).toEqual([]);
  });
  it('an instrument that swings with the bow is told, at every stage alike', () => {
    const frames = take(
      4,
      () => 0,
      () => 0.5,
    );
    const swinging = (degrees: number) => segmentStrokes(frames).map((s) => ({ ...s, instrumentSwing: { value: degrees, u: 0.5 } }));
    const faults = (degrees: number) => judge({ frames, strokes: swinging(degrees), rubric: MIDDLE_OF_STRIP, stage: 'first-term' }).findings.map((f) => f.fault);
    expect(faults(7)).toEqual(['instrument-moves']);
    expect(faults(6.3)).toEqual([]);
  });
  it('shows a fault below its band where it is lowest', () => {
    const frames = take(
      4,
      () => 0,
      () => 0.5,
    );
    const shares = [0.3, 0.1, 0.25, 0.3];
    const strokes = segmentStrokes(frames).map((s, i) => ({ ...s, forearmShare: { value: shares[i]!, u: 0.15 } }));
    const [finding] = judge({ frames, strokes, rubric: MIDDLE_OF_STRIP, stage: 'later' }).findings;
    expect(finding!.fault).toBe('stroke-from-shoulder');
    expect(finding!.from).toBe(strokes[1]!.from);
    const doubtful = strokes.map((s) => ({ ...s, forearmShare: { value: 0.5, u: 0.2 } }));
    expect(judge({ frames, strokes: doubtful, rubric: MIDDLE_OF_STRIP, stage: 'later' }).findings).toEqual([]);
  });
});

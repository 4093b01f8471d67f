import { describe, expect, it } from 'vitest';
import type { SoundEvents } from '../crossings/soundEvents';
import type { FrameMeasures, Measured, Quantity } from '../measures/measures';
import { MIDDLE_OF_STRIP, type Rubric } from '../rubric/rubric';
import { segmentStrokes } from '../strokes/segment';
import type { Stroke } from '../strokes/stroke';
import { explain } from './explain';
import type { Finding } from './finding';

const RATE = 25;
type Values = Partial<Record<Quantity, Measured>>;

/** Long bows of two seconds, frog to tip and back, with what `values` tells at a time and a bow position. */
function played(seconds: number, values: (t: number, p: number) => Values): { frames: FrameMeasures[]; strokes: Stroke[]; rubric: Rubric } {
  const frames = Array.from({ length: seconds * RATE }, (_, i): FrameMeasures => {
    const t = i / RATE;
    const p = 0.5 - 0.45 * Math.cos((Math.PI * t) / 2);
    return { frame: i, t, string: 'A', values: { bow_position: { value: p, u: 0.01 }, ...values(t, p) } };
  });
  return { frames, strokes: segmentStrokes(frames), rubric: MIDDLE_OF_STRIP };
}

const finding = (fault: string, all: { strokes: readonly Stroke[] }, value = 0, more: Partial<Finding> = {}): Finding => ({
  fault,
  from: 0,
  to: 8,
  strokes: all.strokes.map((s) => s.index),
  third: 'all',
  quantity: 'x',
  value: { value, u: 1 },
  band: [0, 1],
  share: 1,
  eligible: all.strokes.length,
  evidence: [],
  fitness: 'fit',
  confidence: 1,
  stretches: [{ from: 0, to: 8, stroke: 0 }],
  ...more,
});

describe('a drooping scroll', () => {
  const droops = (values: (t: number, p: number) => Values) => {
    const all = played(8, values);
    return explain(finding('scroll-droops', all, -18), all);
  };
  it('comes of a stooping trunk, where the side was seen', () => {
    const told = droops(() => ({ trunk_stoop_deg: { value: 16, u: 4 }, instrument_pitch_deg: { value: -18, u: 2 } }));
    expect(told.cause).toBe('slouching');
    expect(told.evidence[0]!.says).toBe('the trunk leans 16° forward');
  });
  it('comes of a tired arm when it sinks on the way', () => {
    expect(droops((t) => ({ instrument_pitch_deg: { value: -10 - 1.5 * t, u: 2 } })).cause).toBe('left-arm-tired');
    expect(droops((t) => ({ instrument_pitch_deg: { value: -10 + 1.5 * t, u: 2 } })).cause).toBeUndefined();
  });
  it('is told without a cause, but with what was looked at, when neither is clear', () => {
    const told = droops(() => ({ trunk_stoop_deg: { value: 9, u: 5 }, instrument_pitch_deg: { value: -18, u: 2 } }));
    expect(told.cause).toBeUndefined();
    expect(told.evidence).toHaveLength(1);
    expect(droops(() => ({})).evidence).toEqual([]);
  });
});

describe('a tip that turns to the scroll', () => {
  const turned: Partial<Finding> = { third: 'tip', cause: 'arm-swung', evidence: [{ quantity: 'bow_rotation_deg', value: 20, u: 1, says: 'the bow turned 20° in the room' }] };
  const tip = (values: (t: number, p: number) => Values, more = turned) => {
    const all = played(8, values);
    return explain(finding('tip-to-scroll', all, 16, more), all);
  };
  it('is laid to an elbow behind the back, or to an arm at its end', () => {
    expect(tip(() => ({ elbow_behind: { value: 0.25, u: 0.06 } })).cause).toBe('elbow-went-behind');
    expect(tip((_, p) => ({ elbow_angle_deg: { value: 70 + 100 * p, u: 6 } })).cause).toBe('stick-too-long');
    expect(tip(() => ({ elbow_behind: { value: 0.25, u: 0.06 } })).evidence).toHaveLength(2);
  });
  it('stays what it was where the arm tells nothing surely, and never overrules a turned instrument', () => {
    expect(tip(() => ({ elbow_behind: { value: 0.15, u: 0.12 } })).cause).toBe('arm-swung');
    expect(tip(() => ({ elbow_behind: { value: 0.3, u: 0.05 } }), { ...turned, cause: 'instrument-turned' }).cause).toBe('instrument-turned');
  });
});

describe('other faults', () => {
  it('a stretched arm in mid-bow and at the tip speaks for a large instrument, a folded one does not', () => {
    const all = played(8, (_, p) => ({ elbow_angle_deg: { value: 75 + 110 * p, u: 6 } }));
    expect(explain(finding('right-angle-missed', all, 128), all).cause).toBe('instrument-too-large');
    expect(explain(finding('right-angle-missed', all, 60), all).evidence).toEqual([]);
  });
  it('a bow that arcs is laid to a wrist that does not give', () => {
    const all = (gives: number) => played(8, (_, p) => ({ wrist_deviation_deg: { value: 40 - gives * p, u: 8 } }));
    const [locked, giving] = [all(5), all(90)];
    expect(explain(finding('bow-arcs', locked), locked).cause).toBe('wrist-locked');
    expect(explain(finding('bow-arcs', giving), giving).cause).toBeUndefined();
  });
  it('a lost level is laid to the arm only where the arm went with it', () => {
    const all = (sinks: number) => played(8, (_, p) => ({ upper_arm_elevation_deg: { value: -20 - sinks * Math.max(0, p - 0.6), u: 3 } }));
    const [sinking, keeping] = [all(30), all(0)];
    expect(explain(finding('level-lost', sinking), sinking).cause).toBe('arm-level-wrong');
    expect(explain(finding('level-lost', keeping), keeping).cause).toBeUndefined();
  });
});

describe('a hold', () => {
  const thumb = (values: (t: number, p: number) => Values, mobility?: number) => {
    const all = played(8, values);
    const strokes = mobility === undefined ? all.strokes : all.strokes.map((s) => ({ ...s, handMobility: { value: mobility, u: 0.8 } }));
    return explain(finding('thumb-straight', all, 2, { quantity: 'thumb_ip_deg', band: [15, 90] }), { ...all, strokes });
  };
  it('that was round at first and is not at the end has slipped', () => {
    const told = thumb((t) => ({ thumb_ip_deg: { value: 42 - 6 * t, u: 5 } }));
    expect(told.cause).toBe('hold-slipped');
    expect(told.evidence[0]!.says).toBe('at the beginning it was 34°, at the end 2°');
    expect(thumb((t) => ({ thumb_ip_deg: { value: 2 + t, u: 5 } })).cause).toBeUndefined();
  });
  it('that never gives along the bow is squeezed', () => {
    expect(thumb(() => ({ thumb_ip_deg: { value: 2, u: 5 } }), 1).cause).toBe('squeezing');
    const gives = thumb(() => ({ thumb_ip_deg: { value: 2, u: 5 } }), 12);
    expect([gives.cause, gives.evidence.length]).toEqual([undefined, 1]);
  });
});

describe('a bow on the fingerboard', () => {
  it('has slid down to a scroll that hangs, where it does', () => {
    const told = (pitch: number) => {
      const all = played(8, () => ({ instrument_pitch_deg: { value: pitch, u: 2 } }));
      return explain(finding('on-fingerboard', all, 0.9), all);
    };
    expect(told(-19).cause).toBe('scroll-sank');
    expect(told(-8)).toMatchObject({ evidence: [{ quantity: 'instrument_pitch_deg' }] });
    expect(told(-8).cause).toBeUndefined();
    expect(told(2).evidence).toEqual([]);
  });
});

describe('a second witness', () => {
  const all = played(8, () => ({}));
  const events = (hints: readonly string[]) =>
    ({ notes: hints.map((_, i) => ({ from: 2 * i, to: 2 * i + 1.9 })), tones: hints.map((hint) => ({ hint, confidence: 0.5 })) }) as unknown as SoundEvents;
  const onBoard = finding('on-fingerboard', all, 0.9, { stretches: [{ from: 0, to: 8, stroke: 0 }] });
  it('says that it heard it too, in the words of the teacher', () => {
    const told = explain(onBoard, { ...all, events: events(['airy', 'airy', 'centred', 'airy']), rubric: { words: { airy: 'foggy' } } });
    expect(told.evidence.map((e) => e.says)).toEqual(['3 of 4 notes sound foggy there']);
    expect(told.cause).toBeUndefined();
  });
  it('is silent where it heard something else, or nothing', () => {
    expect(explain(onBoard, { ...all, events: events(['centred', 'glassy', 'airy', 'centred']) }).evidence).toEqual([]);
    expect(explain(onBoard, all).evidence).toEqual([]);
  });
});

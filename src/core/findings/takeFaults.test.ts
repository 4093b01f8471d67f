import { describe, expect, it } from 'vitest';
import type { Crossing } from '../crossings/crossings';
import type { SoundEvents } from '../crossings/soundEvents';
import type { Stray } from '../crossings/strays';
import type { FrameMeasures } from '../measures/measures';
import { MIDDLE_OF_STRIP, type Rubric, type Stage } from '../rubric/rubric';
import { segmentStrokes } from '../strokes/segment';
import type { Task } from '../take/task';
import { faultById } from './faults';
import { judge } from './judge';

/** Six bows a second and a half each on the A string, contact where given. */
const frames = (contact = 0.5): FrameMeasures[] =>
  Array.from({ length: 225 }, (_, frame) => {
    const t = frame / 25;
    const position = 0.5 - 0.4 * Math.cos((Math.PI * t) / 1.5);
    return {
      frame,
      t,
      string: 'A',
      values: { bow_position: { value: position, u: 0.01 }, skew_deg: { value: 0, u: 1 }, inclination_deg: { value: -7.7, u: 1 }, contact_fraction: { value: contact, u: 0.02 } },
    };
  });

const quiet: SoundEvents = { notes: [], crossings: [], strays: [], lag: undefined, levels: { levels: [], steps: [], missing: [], doubled: [] }, pairs: [], bows: [], tones: [] };
const crossing = (tBow: number): Crossing => ({ leaves: 'D', reaches: 'A', tBow });
const stray = (from: number, why: Stray['why'], inCrossing = false, confidence = 0.8): Stray => ({ from, to: from + 0.2, string: 'D', position: 0.5, inCrossing, why, confidence });
const note = { from: 0, to: 9, string: 2, stop: 0, hz: 440, confidence: 1, again: false, tone: { brightness: 1, noise: 0 } };

const judged = (events: Partial<SoundEvents>, { stage = 'later', task, contact, words }: { stage?: Stage; task?: Task; contact?: number; words?: Rubric['words'] } = {}) => {
  const measured = frames(contact);
  return judge({
    frames: measured,
    strokes: segmentStrokes(measured),
    rubric: { ...MIDDLE_OF_STRIP, ...(words ? { words } : {}) },
    stage,
    events: { ...quiet, ...events },
    ...(task ? { task } : {}),
  });
};

describe('crossings in time', () => {
  const crossings = [1.5, 3, 4.5].map(crossing);
  const ids = (ms: number, u = 30, stage: Stage = 'later') => judged({ crossings, lag: { value: ms / 1000, u: u / 1000 } }, { stage }).findings.map((f) => f.fault);
  it('are late or early beyond 80 ms, by more than the doubt (edge: measurement reference, ours)', () => {
    expect(ids(200)).toEqual(['crossing-late']);
    expect(ids(-180)).toEqual(['crossing-early']);
    expect(ids(60)).toEqual([]);
    expect(ids(100, 40)).toEqual([]);
    expect(ids(115, 30, 'first-term')).toEqual([]);
  });
  it('name the cause and show every crossing', () => {
    const [finding] = judged({ crossings, lag: { value: 0.2, u: 0.03 } }).findings;
    expect(finding).toMatchObject({ cause: 'arm-late', quantity: 'elbow_lag_ms', eligible: 3 });
    expect(finding!.stretches).toHaveLength(3);
    expect(finding!.evidence[0]!.says).toContain('200 ms after');
  });
});

describe('levels', () => {
  const steps = (share: number) => ({
    levels: [],
    missing: [],
    doubled: [],
    steps: [{ lower: 'D', higher: 'A', bowShare: 1, bowStep: 15.4, armStep: { value: 15.4 * share, u: 4 } }],
  });
  const ids = (share: number) => judged({ crossings: [crossing(3)], levels: steps(share) }).findings.map((f) => f.fault);
  it('are not distinct when the arm makes hardly any of the step', () => {
    expect(ids(0.05)).toEqual(['levels-not-distinct']);
    expect(ids(0.6)).toEqual([]);
    expect(ids(1.3)).toEqual([]);
  });
});

describe('a touched neighbour', () => {
  const each = (times: readonly number[], why: Stray['why'] = 'too-high') => judged({ notes: [note], strays: times.map((t) => stray(t, why)) });
  it('is a habit in three bows and a third of them, a one-off in one', () => {
    expect(each([0.7, 2.2, 3.7]).findings[0]).toMatchObject({ fault: 'neighbour-touched', cause: 'arm-level-wrong', strokes: [0, 1, 2], share: 0.5 });
    expect(each([0.7]).findings).toEqual([]);
  });
  it('says which way the arm is off only when it mostly is', () => {
    const mixed = judged({ notes: [note], strays: [stray(0.7, 'too-high'), stray(2.2, 'too-low'), stray(3.7, 'too-high'), stray(5.2, 'too-low')] });
    expect(mixed.findings[0]!.cause).toBeUndefined();
    expect(each([0.7, 2.2, 3.7], 'too-low').findings[0]!.evidence[0]!.says).toContain('too low');
  });
  it('does not count crossings, nor what is hardly heard', () => {
    const times = [0.7, 2.2, 3.7, 5.2];
    expect(judged({ notes: [note], strays: times.map((t) => stray(t, 'late', true)) }).findings).toEqual([]);
    expect(judged({ notes: [note], strays: times.map((t) => stray(t, 'too-high', false, 0.1)) }).findings).toEqual([]);
  });
});

describe('exercises off the path', () => {
  it('leave aside what they are not about, and say so', () => {
    const strays = [0.7, 2.2, 3.7].map((t) => stray(t, 'too-high'));
    const of = (task?: Task) => judged({ notes: [note], strays }, { contact: 0.95, ...(task ? { task } : {}) });
    expect(of().findings.map((f) => f.fault)).toEqual(['on-fingerboard', 'neighbour-touched']);
    const behind = of('behind-the-bridge');
    expect(behind.findings).toEqual([]);
    expect(behind.unjudged[0]!.why).toContain('Behind the bridge');
  });
});

/** Four notes in the first four bows, each heard as `hint`. */
const toned = (hint: 'airy' | 'glassy' | 'scratchy' | 'centred', startNoise?: number): Partial<SoundEvents> => ({
  notes: [0, 1, 2, 3, 4, 5].map((i) => ({
    ...note,
    from: 1.5 * i + 0.05,
    to: 1.5 * i + 1.45,
    tone: { brightness: 1, noise: 0, ...(startNoise === undefined ? {} : { startNoise }) },
  })),
  tones: Array.from({ length: 6 }, () => ({ hint, confidence: 0.5 })),
});

describe('what is heard', () => {
  const ids = (events: Partial<SoundEvents>, contact = 0.5) => judged(events, { contact }).findings.map((f) => f.fault);
  it('is told only where the picture shows why: never alone', () => {
    for (const hint of ['airy', 'glassy', 'scratchy'] as const) expect(ids(toned(hint))).toEqual([]);
    expect(ids(toned('airy'), 0.64)).toEqual(['airy']);
    expect(ids(toned('glassy'), 0.36)).toEqual(['glassy']);
    expect(ids(toned('glassy'), 0.64)).toEqual([]);
    expect(ids(toned('centred'), 0.64)).toEqual([]);
  });
  it("is called by the rubric's own word", () => {
    const title = (words?: Rubric['words']) => {
      const [finding] = judged(toned('airy'), { contact: 0.64, ...(words ? { words } : {}) }).findings;
      return faultById(finding!.fault)!.title(finding!.third, finding!.word);
    };
    expect(title({ airy: 'foggy' })).toBe('Toward the fingerboard, notes turn foggy.');
    expect(title()).toBe('Toward the fingerboard, notes turn airy.');
  });
  it('is not told a second time where the place of the bow is a finding itself', () => {
    expect(ids(toned('airy'), 0.8)).toEqual(['on-fingerboard']);
    expect(ids(toned('glassy'), 0.2)).toEqual(['at-bridge']);
  });
  it('of two strings at once needs a bow seen at the edge of its level', () => {
    const crossing = [0.7, 2.2, 3.7].map((t) => stray(t, 'late', true));
    const margin = (degrees: number) => {
      const measured = frames().map((f) => ({ ...f, values: { ...f.values, level_margin_deg: { value: degrees, u: 1 } } }));
      return judge({
        frames: measured,
        strokes: segmentStrokes(measured),
        rubric: MIDDLE_OF_STRIP,
        stage: 'later',
        events: { ...quiet, notes: [note], strays: crossing },
      }).findings.map((f) => f.fault);
    };
    expect(margin(0.8)).toEqual(['two-strings']);
    expect(margin(6)).toEqual([]);
  });
  it('of a crunch at the start of the bows is a habit from three bows on, the first left out', () => {
    const [finding] = judged(toned('centred', 12)).findings;
    expect(finding).toMatchObject({ fault: 'extra-noise-at-start', cause: 'squeezing', strokes: [1, 2, 3, 4, 5] });
    expect(finding!.evidence[0]!.says).toContain('5 times');
    expect(ids(toned('centred', 4))).toEqual([]);
    expect(judged(toned('centred', 12), { task: 'silent' }).findings).toEqual([]);
  });
});

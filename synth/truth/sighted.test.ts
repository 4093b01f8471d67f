import { beforeAll, describe, expect, it } from 'vitest';
import { measureHand } from '../../src/core/body/measureHand';
import type { Vec2 } from '../../src/core/geometry/vec3';
import type { Quantity } from '../../src/core/measures/measures';
import { MIDDLE_OF_STRIP } from '../../src/core/rubric/rubric';
import { quantile } from '../../src/core/statistics';
import { judgeTake } from '../../src/core/take/analyse';
import { readyHolds } from '../motion/ready';
import { withFaults } from '../presets/faults';
import { scenarioOf } from '../presets/presets';
import { measureSighted } from './sighted';

type Sighted = ReturnType<typeof measureSighted>;

/** Errors of a quantity where both measure and truth have it: their sizes, how many lie within 2 u, and how much of the truth was measured. */
function errorsOf({ take, truth }: Sighted, quantity: Quantity) {
  const known = truth.flatMap((row, i) => (row[quantity] ? [{ i, value: Number(row[quantity]) }] : []));
  const measured = known.flatMap(({ i, value }) => {
    const m = take.frames[i]!.values[quantity];
    return m ? [{ size: Math.abs(m.value - value), u: m.u }] : [];
  });
  const sizes = measured.map((m) => m.size);
  return {
    coverage: measured.length / Math.max(1, known.length),
    median: quantile(sizes, 0.5),
    p95: quantile(sizes, 0.95),
    within2u: measured.filter((m) => m.size <= 2 * m.u).length / Math.max(1, measured.length),
  };
}

function expectNear(sighted: Sighted, limits: Partial<Record<Quantity, number>>, coverage = 0.95) {
  for (const [quantity, limit] of Object.entries(limits) as [Quantity, number][]) {
    const errors = errorsOf(sighted, quantity);
    expect(errors.coverage, `coverage of ${quantity}`).toBeGreaterThanOrEqual(coverage);
    expect(errors.median, `median error of ${quantity}`).toBeLessThan(limit);
    expect(errors.within2u, `${quantity} within 2 u`).toBeGreaterThanOrEqual(0.9);
  }
}

const CLIPS = [
  ['straight', 5],
  ['crossings', 7],
  ['scroll-side', 8],
  ['bow-side', 9],
  ['half-size', 10],
  ['viola', 12],
  ['strong-sway', 13],
  ['whole-body', 14],
] as const;

describe.each(CLIPS)('a student seen well, %s %i', (preset, seed) => {
  let sighted: Sighted;
  beforeAll(() => {
    sighted = measureSighted(scenarioOf(preset, seed));
  });

  it('is measured near the truth: bow and string', () => {
    const { take, truth } = sighted;
    expectNear(sighted, { skew_deg: 2.5, inclination_deg: 1.5, bow_position: 0.02 });
    // From so far away a pixel is many millimetres: what is not withheld must be right.
    expectNear(sighted, { contact_mm: 3.5 }, preset === 'whole-body' ? 0.2 : 0.95);
    const named = take.frames.flatMap((f, i) => (f.string && truth[i]!.string ? [f.string === truth[i]!.string] : []));
    expect(named.filter(Boolean).length / named.length).toBeGreaterThanOrEqual(0.98);
    expect(take.strokes).toHaveLength(scenarioOf(preset, seed).strokes.length);
  });
  it('is measured near the truth: instrument, arm and trunk', () => {
    expectNear(sighted, { instrument_pitch_deg: 1.5, instrument_roll_deg: 1.5, trunk_lean_deg: 4 });
    expectNear(sighted, { elbow_angle_deg: 8, elbow_rise_deg: 5, upper_arm_elevation_deg: 5, arm_bow_gap_deg: 5, instrument_heading_deg: 8 }, 0.85);
  });
  it('is found fault with for nothing it does not do', () => {
    const found = judgeTake(sighted.take, MIDDLE_OF_STRIP, 'later').findings.map((f) => f.fault);
    // Who sways so strongly moves the instrument.
    expect(found.filter((fault) => preset !== 'strong-sway' || fault !== 'instrument-moves')).toEqual([]);
  });
});

describe('what a student does wrong', () => {
  it.each([
    ['tip-to-scroll', 'straight', 21],
    ['on-fingerboard', 'straight', 22],
    ['at-bridge', 'bow-side', 23],
    ['contact-drifts', 'straight', 24],
    ['scroll-droops', 'scroll-side', 25],
    ['leaning', 'whole-body', 26],
  ] as const)('%s is found, seen well from %s', (fault, preset, seed) => {
    const { take } = measureSighted(withFaults(scenarioOf(preset, seed), [{ id: fault, strength: 1.3 }]));
    expect(judgeTake(take, MIDDLE_OF_STRIP, 'later').findings.map((f) => f.fault)).toContain(fault);
  });
});

describe('how a student holds the instrument', () => {
  it('is told from rest to playing; the bow and its arm are not measured before it is on the string', () => {
    const scenario = scenarioOf('ready', 31);
    const { take } = measureSighted(scenario);
    const [rest, free, playing] = readyHolds(scenario.ready!, take.frames.at(-1)!.t);
    const length = ({ from, to }: { from: number; to: number }) => to - from;
    // Raised, it is in playing position for a moment before the left hand lets go.
    expect(take.holds![0]!.kind).toBe('rest');
    expect(Math.abs(length(take.holds![0]!) - length(rest!))).toBeLessThan(0.6);
    const told = take.holds!.filter((h) => h.kind === 'hands-free');
    expect(told).toHaveLength(1);
    expect(Math.abs(length(told[0]!) - length(free!))).toBeLessThan(0.7);
    expect(take.holds!.at(-1)!.kind).toBe('playing');
    expect(Math.abs(take.holds!.at(-1)!.from - playing!.from)).toBeLessThan(0.7);
    const begun = take.tracked.find((f) => f.sighting.line)!.t;
    for (const { t, values } of take.frames.filter((f) => f.t < begun - 0.5)) {
      expect(values.skew_deg, `skew at ${t}`).toBeUndefined();
      expect(values.elbow_angle_deg, `elbow at ${t}`).toBeUndefined();
    }
    expect(take.strokes).toHaveLength(scenario.strokes.length);
  });
  it('without the left hand is told through the whole take, with it never', () => {
    expect(measureSighted(scenarioOf('hands-free', 32)).take.holds!.map((h) => h.kind)).toEqual(['hands-free']);
    expect(measureSighted(scenarioOf('straight', 33)).take.holds!.map((h) => h.kind)).toEqual(['playing']);
  });
});

describe('a bow hand from close by', () => {
  let sighted: Sighted;
  beforeAll(() => {
    sighted = measureSighted(scenarioOf('hand-front', 34));
  });

  it('shows its long fingers, and the little one and the thumb only where they were marked', () => {
    expectNear(sighted, { index_pip_deg: 12, middle_pip_deg: 12, ring_pip_deg: 12 }, 0.6);
    for (const quantity of ['little_pip_deg', 'thumb_ip_deg', 'thumb_slant_deg'] as const) expect(errorsOf(sighted, quantity).coverage).toBe(0);
  });
  it('tells nothing where something else was taken for it, but what the teacher placed', () => {
    const { take } = sighted;
    const bodies = take.bodies!;
    const hands = bodies.filter((b) => b.bowHand);
    const lost = new Set(hands.slice(Math.floor(hands.length / 3), Math.floor(hands.length / 3) + 2).map((b) => b.frame));
    // Its points in another order are no hand.
    const shuffled = bodies.map((b) => (lost.has(b.frame) ? { ...b, bowHand: b.bowHand!.map((_, i, all) => all[(i * 8) % all.length]!) } : b));
    const told = (marked?: ReadonlyMap<number, ReadonlyMap<number, Vec2>>) =>
      measureHand({ ...take, bodies: shuffled, arms: take.arms!, marked }).frames.filter((f, i) => lost.has(take.frames[i]!.frame) && f.index_pip_deg).length;
    expect(told()).toBe(0);
    const placed = new Map(bodies.filter((b) => lost.has(b.frame)).map((b) => [b.frame, new Map(b.bowHand!.map((p, i) => [i, p]))]));
    expect(told(placed)).toBe(lost.size);
  });
});

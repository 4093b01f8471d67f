import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { FAMILIES, type Family } from '../../instrument/family';
import type { FrameMeasures, Quantity } from '../../measures/measures';
import { type Band, beyond, goodEdges } from '../../rubric/band';
import { bandsFor, RUBRICS, type Rubric, STAGES, type Stage } from '../../rubric/rubric';
import { segmentStrokes } from '../../strokes/segment';
import { THIRDS } from '../../strokes/stroke';
import { judge } from '../judge';
import { FAULTS, faultById, ROWS, rowOf } from '.';
import { beyondOf, type FrameFault, type PostureFault } from './fault';

const STROKES = 5;
const PER_STROKE = 30;

/** Whole bows with everything where it should be but one quantity, which stands at a value throughout. */
function held(quantity: Quantity, value: number, u: number): FrameMeasures[] {
  return Array.from({ length: STROKES * PER_STROKE + 1 }, (_, i) => ({
    frame: i,
    t: i / 25,
    string: 'A',
    values: {
      bow_position: { value: 0.5 - 0.48 * Math.cos((Math.PI * i) / PER_STROKE), u: 0.01 },
      skew_deg: { value: 0, u: 0.5 },
      contact_fraction: { value: 0.5, u: 0.02 },
      [quantity]: { value, u },
    },
  }));
}

type Steady = FrameFault | PostureFault;
const steadyRows = ROWS.filter((f): f is Steady => f.kind === 'frame' || f.kind === 'posture');
const familiesOf = (row: Steady): readonly Family[] => row.families ?? FAMILIES;
/** A school that asks for the row's band. */
const schoolOf = (row: Steady): Rubric => RUBRICS.find((rubric) => row.band(rubric.bands))!;

/** Values on the scale at which the row is this fault, clear of its edge by `by` of the scale; none where the scale ends before. */
function valuesBeyond(row: Steady, band: Band, by: number): number[] {
  const [low, high] = row.scale.range;
  const off = beyondOf(row, band);
  return Array.from({ length: 201 }, (_, i) => low + ((high - low) * i) / 200).filter((v) => off(v) > by * (high - low));
}
const doubtOf = (row: Steady) => (row.scale.range[1] - row.scale.range[0]) * 0.01;
const foundIn = (row: Steady, value: number, options: { rubric?: Rubric; stage?: Stage; family?: Family; u?: number } = {}) => {
  const frames = held(row.quantity, value, options.u ?? doubtOf(row));
  const { rubric = schoolOf(row), stage = 'later', family = familiesOf(row)[0]! } = options;
  return judge({ frames, strokes: segmentStrokes(frames), rubric, stage, family }).findings;
};

describe('the catalogue of faults', () => {
  it('names every fault once, in words of its own, with an exercise', () => {
    expect(new Set(FAULTS.map((f) => f.id)).size).toBe(FAULTS.length);
    expect(new Set(FAULTS.map((f) => f.title('all'))).size).toBe(FAULTS.length);
    for (const fault of FAULTS) {
      expect(fault.id, fault.id).toMatch(/^[a-z]+(-[a-z]+)*$/);
      expect(fault.exercises.length, fault.id).toBeGreaterThan(0);
      for (const third of [...THIRDS, 'all'] as const) expect(fault.title(third), fault.id).toMatch(/^[A-Z].*\.$/);
      expect(faultById(fault.id)).toBe(fault);
    }
    for (const row of ROWS) expect(rowOf({ fault: row.id, quantity: row.quantity })).toEqual(row);
  });

  it('gives way only to other faults that there are', () => {
    const order = FAULTS.map((f) => f.id);
    for (const fault of FAULTS)
      for (const other of fault.unless ?? []) {
        expect(order, `${fault.id} unless ${other}`).toContain(other);
        expect(other).not.toBe(fault.id);
      }
  });

  it('draws every band whole, with room beyond each edge that is a fault', () => {
    for (const rubric of RUBRICS)
      for (const stage of STAGES)
        for (const row of ROWS) {
          const band = row.band(bandsFor(rubric, stage));
          if (!band) continue;
          const [low, high] = row.scale.range;
          const [least] = goodEdges(band);
          const says = `${row.id} of ${rubric.name}, ${stage}`;
          expect(high, says).toBeGreaterThan(low);
          expect(Math.max(beyond(band, row.side, low), beyond(band, row.side, high)), says).toBeGreaterThan(0);
          expect(least, says).toBeLessThan(high);
        }
  });

  it.each(steadyRows.map((row) => [row.id, row.quantity, row] as const))('finds %s by %s, in every family it is judged in and in no other', (id, _, row) => {
    const band = row.band(bandsFor(schoolOf(row), 'later'))!;
    const values = valuesBeyond(row, band, 0.05);
    expect(values.length).toBeGreaterThan(0);
    for (const value of [values[0]!, values[values.length >> 1]!, values.at(-1)!])
      for (const family of FAMILIES) {
        const ids = foundIn(row, value, { family }).map((f) => f.fault);
        if (familiesOf(row).includes(family))
          expect(
            ids.filter((f) => f === id || row.unless?.includes(f)),
            `${value} on the ${family}`,
          ).not.toEqual([]);
        else expect(ids, `${value} on the ${family}`).not.toContain(id);
      }
  });

  it.each(steadyRows.map((row) => [row.id, row.quantity, row] as const))('does not find %s by %s in what is good, nor by a number as unsure as it is far out', (id, _, row) => {
    const band = row.band(bandsFor(schoolOf(row), 'later'))!;
    const [low, high] = goodEdges(band);
    const out = valuesBeyond(row, band, 0.02);
    fc.assert(
      fc.property(fc.double({ min: 0.02, max: 0.98, noNaN: true }), fc.nat(out.length - 1), fc.double({ min: 1.1, max: 3, noNaN: true }), (share, k, times) => {
        const good = foundIn(row, low + share * (high - low));
        expect(good.filter((f) => f.fault === id && f.quantity === row.quantity)).toEqual([]);
        const u = (times * beyondOf(row, band)(out[k]!)) / (row.kind === 'posture' ? (row.excess ?? 1) : 1);
        expect(foundIn(row, out[k]!, { u }).map((f) => f.fault)).not.toContain(id);
      }),
      { numRuns: 12 },
    );
  });

  it('asks no more of a beginner than of an advanced student', () => {
    fc.assert(
      fc.property(fc.constantFrom(...steadyRows), fc.integer({ min: 0, max: 200 }), fc.constantFrom(...RUBRICS), (row, part, rubric) => {
        const [low, high] = row.scale.range;
        const value = low + (part / 200) * (high - low);
        const [first, year, later] = STAGES.map((stage) => foundIn(row, value, { rubric, stage }).some((f) => f.quantity === row.quantity));
        if (first) expect(year).toBe(true);
        if (year) expect(later).toBe(true);
      }),
      { numRuns: 250 },
    );
  });

  it('says where, how far and how surely: the value is beyond the edge, the good band is given, the stretches lie in the take', () => {
    for (const row of steadyRows) {
      const band = row.band(bandsFor(schoolOf(row), 'later'))!;
      const value = valuesBeyond(row, band, 0.05)[0]!;
      const told = foundIn(row, value).filter((f) => f.fault === row.id);
      // Not told where another fault says it already.
      if (!row.unless) expect(told, row.id).toHaveLength(1);
      for (const finding of told) {
        expect(finding.value.value, row.id).toBeCloseTo(value, 6);
        expect(finding.band).toEqual(goodEdges(band));
        expect(finding.confidence).toBeGreaterThan(0.95);
        expect(finding.share).toBeGreaterThan(0.9);
        for (const s of finding.stretches) {
          expect(s.from).toBeLessThan(s.to);
          expect(s.to).toBeLessThanOrEqual((STROKES * PER_STROKE) / 25 + 1e-9);
        }
      }
    }
  });
});

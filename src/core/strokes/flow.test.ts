import { describe, expect, it } from 'vitest';
import { fromRotationVector } from '../geometry/rotation';
import { RADIANS } from '../geometry/vec3';
import type { FrameMeasures } from '../measures/measures';
import { splitSkewChange, strokeMotions } from './armOrInstrument';
import { evennessOf, strokeFlows } from './flow';
import { segmentStrokes } from './segment';

/** A bow whose place is given over time, measured at 50 frames a second. */
function bowing(position: (t: number) => number, seconds: number, skew: (t: number) => number = () => 0): FrameMeasures[] {
  const dt = 1 / 50;
  return Array.from({ length: Math.round(seconds / dt) }, (_, i): FrameMeasures => {
    const t = i * dt;
    return {
      frame: i,
      t,
      string: 'A',
      values: {
        bow_position: { value: position(t), u: 0.01 },
        bow_speed_mm_s: { value: (650 * (position(t + dt) - position(t - dt))) / (2 * dt), u: 5 },
        skew_deg: { value: skew(t), u: 1 },
        inclination_deg: { value: -7.7, u: 1 },
      },
    };
  });
}
const upAndDown = (t: number) => 0.5 - 0.45 * Math.cos(Math.PI * t);

describe('the flow of strokes', () => {
  it('has no stops in an even bow, and recovers early', () => {
    const frames = bowing(upAndDown, 4);
    const flows = strokeFlows(frames, segmentStrokes(frames));
    expect(flows.flatMap((f) => f.stops)).toEqual([]);
    // A sine reaches 60 % of its median speed (0.707 of its peak) after asin(0.424) / pi of a stroke of 1 s.
    for (const f of flows.slice(1)) expect(f.recovery).toBeCloseTo(Math.asin(0.6 * Math.SQRT1_2) / Math.PI, 1);
  });

  it('finds a halt in the middle of a stroke, with its place', () => {
    const frames = bowing((t) => (t < 1 ? 0.05 + 0.4 * t : t < 1.3 ? 0.45 : 0.45 + 0.4 * (t - 1.3)), 2.4);
    const stops = strokeFlows(frames, segmentStrokes(frames)).flatMap((f) => f.stops);
    expect(stops).toHaveLength(1);
    expect(stops[0]!.from).toBeCloseTo(1, 1);
    expect(stops[0]!.to).toBeCloseTo(1.3, 1);
    expect(stops[0]!.position).toBeCloseTo(0.45, 2);
  });

  it('tells even from uneven shares of the bow', () => {
    const even = segmentStrokes(bowing(upAndDown, 4));
    expect(evennessOf(even)!.shares).toBeLessThan(0.02);
    const uneven = even.map((s, i) => (i % 2 ? { ...s, toPosition: (s.fromPosition + s.toPosition) / 2 } : s));
    expect(evennessOf(uneven)!.shares).toBeGreaterThan(0.3);
    expect(evennessOf(even.slice(0, 2))).toBeUndefined();
  });
});

describe('arm or instrument', () => {
  const turned = (deg: number) => ({ rotation: fromRotationVector([0, 0, deg * RADIANS]), translation: [0, 0, 1000] as const });

  it('gives all to the bow while the instrument rests, all to the instrument while the bow rests', () => {
    // An instrument that turns by +6 degrees about its own normal under a bow that rests in the room.
    const rest = { poses: [turned(0), turned(0)], side: 1 as const };
    const frames = bowing(upAndDown, 0.04, (t) => (t > 0 ? 9 : 1));
    const still = splitSkewChange(frames, rest, 0, 1)!;
    expect(still.bow).toBeCloseTo(8, 6);
    expect(still.instrument).toBeCloseTo(0, 6);
    const level = frames.map((f, i) => ({ ...f, values: { ...f.values, skew_deg: { value: i ? 6 : 0, u: 1 }, inclination_deg: { value: 0, u: 1 } } }));
    const swung = splitSkewChange(level, { poses: [turned(0), turned(6)], side: 1 as const }, 0, 1)!;
    expect(swung.bow).toBeCloseTo(0, 6);
    expect(swung.instrument).toBeCloseTo(6, 6);
  });

  it('parts always add up to the change, and the swing is the widest angle', () => {
    const frames = bowing(upAndDown, 2, (t) => 10 * t);
    const poses = frames.map((_, i) => turned(3 * Math.sin(i / 9)));
    const motions = strokeMotions(frames, segmentStrokes(frames), { poses, side: 1 });
    expect(motions.length).toBeGreaterThan(0);
    for (const [k, m] of motions.entries()) {
      const s = segmentStrokes(frames)[k]!;
      const change = frames[s.last]!.values.skew_deg!.value - frames[s.first]!.values.skew_deg!.value;
      expect(m.split!.bow + m.split!.instrument).toBeCloseTo(change, 6);
      expect(m.swing).toBeCloseTo(6, 0);
    }
  });

  it('says nothing where nothing was measured', () => {
    expect(splitSkewChange(bowing(upAndDown, 0.1), { poses: [undefined, turned(0)], side: 1 }, 0, 1)).toBeUndefined();
  });
});

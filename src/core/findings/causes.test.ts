import { describe, expect, it } from 'vitest';
import { hairDirection, inclinationOf, skewOf } from '../bow/bowState';
import type { Pose } from '../geometry/pose';
import { fromRotationVector, rotate, rotateBack } from '../geometry/rotation';
import { RADIANS } from '../geometry/vec3';
import type { FrameMeasures } from '../measures/measures';
import type { Stroke } from '../strokes/stroke';
import { armOrInstrument, withForearm } from './causes';
import type { Excess } from './excess';

const FRAMES = 26;
const INCLINATION = -7;
/** A stroke that begins square, in which the bow turns in the room by so many degrees and the instrument about its own top by so many. */
function turned(bow: number, instrument: number, u = 1) {
  const flat = (degrees: number) => fromRotationVector([0, 0, degrees * RADIANS]);
  const poses = Array.from({ length: FRAMES }, (_, i): Pose => ({ rotation: flat((instrument * i) / (FRAMES - 1)), translation: [0, 0, 1500] }));
  const frames = poses.map((pose, i): FrameMeasures => {
    const inRoom = rotate(flat((bow * i) / (FRAMES - 1)), hairDirection(0, INCLINATION, 1));
    const b = rotateBack(pose.rotation, inRoom);
    return { frame: i, t: i / 25, values: { skew_deg: { value: skewOf(b, 1), u }, inclination_deg: { value: inclinationOf(b, 1), u } } };
  });
  const stroke = { index: 0, first: 0, last: FRAMES - 1, from: 0, to: 1 } as Stroke;
  const excess: Excess = { stroke: 0, from: 0.6, to: 1, value: { value: 10, u }, seconds: { frog: 0, middle: 0, tip: 0.4 } };
  return armOrInstrument(frames, [stroke], [excess], { poses, side: 1 });
}
const part = (cause: ReturnType<typeof turned>, quantity: string) => cause.evidence.find((e) => e.quantity === quantity)!;

describe('arm or instrument', () => {
  it('names the arm where the bow turned in the room', () => {
    const cause = turned(-14, 0);
    expect(cause.cause).toBe('arm-swung');
    expect(part(cause, 'bow_rotation_deg').value).toBeCloseTo(14, 0);
    expect(part(cause, 'instrument_rotation_deg').value).toBeCloseTo(0, 6);
    expect(part(cause, 'bow_rotation_deg').says).toBe('the bow turned 14° in the room');
  });
  it('names the instrument where it turned under a still bow', () => {
    const cause = turned(0, 12);
    expect(cause.cause).toBe('instrument-turned');
    expect(Math.abs(part(cause, 'instrument_rotation_deg').value)).toBeCloseTo(12, 0);
    expect(part(cause, 'bow_rotation_deg').value).toBeCloseTo(0, 6);
  });
  it('names neither where both turned alike, where the turn is within its doubt, or where nothing was measured', () => {
    expect(turned(-7, 7).cause).toBeUndefined();
    expect(turned(-7, 7).evidence).toHaveLength(2);
    expect(turned(-2, 0, 4).cause).toBeUndefined();
    expect(armOrInstrument([], [], [], { poses: [], side: 1 })).toEqual({ evidence: [] });
  });
  it('does not blame an instrument that turned the other way', () => {
    expect(turned(-20, -6).cause).toBe('arm-swung');
  });
});

describe('shoulder or elbow', () => {
  const strokes = (value: number, u: number) => [{ forearmShare: { value, u } }, { forearmShare: { value, u } }] as Stroke[];
  const swung = turned(-14, 0);
  it('names the shoulder where the elbow surely opened too little', () => {
    const cause = withForearm(swung, strokes(0.3, 0.1));
    expect(cause.cause).toBe('shoulder-opened');
    expect(cause.evidence.at(-1)!.says).toBe("the elbow's opening made 30 % of the hand's way");
  });
  it('leaves the arm where the elbow did its share, or too little is sure', () => {
    expect(withForearm(swung, strokes(0.8, 0.1)).cause).toBe('arm-swung');
    expect(withForearm(swung, strokes(0.45, 0.1)).cause).toBe('arm-swung');
    expect(withForearm(swung, [{} as Stroke])).toBe(swung);
  });
  it('does not make a shoulder of an instrument that turned', () => {
    expect(withForearm(turned(0, 12), strokes(0.2, 0.05)).cause).toBe('instrument-turned');
  });
});

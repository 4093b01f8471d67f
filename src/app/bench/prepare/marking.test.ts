import { describe, expect, it } from 'vitest';
import type { Marks } from '../../../core/formats/marks';
import { POINT_NAMES } from '../../../core/formats/marks';
import { missingForMeasure } from '../../../core/take/missingForMeasure';
import { acceptPoints, carriedOver, frameMarks, nudgePoint, placePoint, removePoint, toggleGuessed } from './marking';
import { ASKED } from './points';

const empty: Marks = { format: 'gestometra-marks/1', video: { width: 1280, height: 720 }, instrument: { family: 'violin', size: '4/4' }, frames: [] };
const placed = (names: readonly string[], t = 1) => names.reduce((m, name, i) => placePoint(m, t, name, [100 + i, 50]), empty);

describe('marking', () => {
  it('keeps frames in order of time and points by name', () => {
    const marks = placePoint(placePoint(empty, 2, 'bow.tip', [10.126, 20]), 1, 'bow.frog', [5, 6]);
    expect(marks.frames.map((f) => f.t)).toEqual([1, 2]);
    expect(frameMarks(marks, 2)!.points['bow.tip']).toEqual([10.13, 20]);
    expect(empty.frames).toEqual([]);
  });
  it('takes a point away, and its frame with the last one', () => {
    const marks = toggleGuessed(placed(['bow.frog', 'bow.tip']), 1, 'bow.frog');
    expect(frameMarks(marks, 1)!.guessed).toEqual(['bow.frog']);
    const less = removePoint(marks, 1, 'bow.frog');
    expect(frameMarks(less, 1)).toEqual({ t: 1, points: { 'bow.tip': [101, 50] } });
    expect(removePoint(less, 1, 'bow.tip').frames).toEqual([]);
  });
  it('says a point is guessed and takes it back', () => {
    const once = toggleGuessed(placed(['bow.frog']), 1, 'bow.frog');
    expect(toggleGuessed(once, 1, 'bow.frog').frames[0]!.guessed).toBeUndefined();
  });
  it('says what is still wanted before measuring', () => {
    const body = ['instrument.nut.low', 'instrument.nut.high', 'instrument.bridge.low', 'instrument.bridge.high'];
    expect(missingForMeasure(empty)).toBe('4 more points of the instrument in one frame');
    expect(missingForMeasure(placed(body.slice(0, 3)))).toBe('1 more point of the instrument in one frame');
    expect(missingForMeasure(placed(body))).toMatch(/an end of the bow hair/);
    expect(missingForMeasure(placed([...body, 'bow.tip']))).toBeUndefined();
    expect(missingForMeasure(placed([...body, 'bow.frog', 'bow.tip']))).toBeUndefined();
    // The bow in another frame than the instrument is not enough to begin.
    expect(missingForMeasure(placePoint(placePoint(placed(body), 2, 'bow.frog', [1, 1]), 2, 'bow.tip', [2, 2]))).toMatch(/in the frame of the instrument/);
  });
  it('drops the frames that agreed with what was found once a hand has changed it', () => {
    const frame = { t: 1, points: { 'instrument.nut.low': [10, 10] as [number, number] }, found: ['instrument.nut.low'] };
    const found = { ...placePoint(empty, 1, 'instrument.nut.low', [10, 10]), frames: [frame], agreeing: [{ ...frame, t: 2 }] };
    expect(nudgePoint(found, 1, 'instrument.nut.low', [1, 0]).agreeing).toBeUndefined();
    expect(placePoint(found, 3, 'bow.tip', [5, 5]).agreeing).toBeUndefined();
    expect(found.agreeing).toHaveLength(1);
  });

  it('takes over offered points as guesses, never over marks, until they are moved', () => {
    const before = placed(['bow.frog']);
    const t = before.frames[0]!.t;
    const after = acceptPoints(before, t, { 'bow.frog': [99, 99], 'bow.tip': [50.128, 60] });
    expect(after.frames[0]!.points['bow.frog']).toEqual(before.frames[0]!.points['bow.frog']);
    expect(after.frames[0]).toMatchObject({ points: { 'bow.tip': [50.13, 60] }, guessed: ['bow.tip'] });
    expect(placePoint(after, t, 'bow.tip', [51, 61]).frames[0]!.guessed).toBeUndefined();
    const nudged = nudgePoint(after, t, 'bow.tip', [0.1, -1]).frames[0]!;
    expect(nudged).toMatchObject({ points: { 'bow.tip': [50.23, 59] }, guessed: ['bow.tip'] });
  });
  it('lays the marks of another take over this one as guesses', () => {
    const last = placePoint(placed(['instrument.nut.low', 'bow.tip', 'hand.bow.3'], 4), 5, 'instrument.scroll', [7, 8]);
    const { frames } = carriedOver(empty, last, 1.5);
    expect(frames).toEqual([{ t: 1.5, points: { 'instrument.nut.low': [100, 50], 'bow.tip': [101, 50] }, guessed: ['instrument.nut.low', 'bow.tip'] }]);
  });
  it('asks only for points that a marks file may hold', () => {
    expect(ASKED.filter((a) => !POINT_NAMES.has(a.name))).toEqual([]);
    expect(ASKED.filter((a) => !a.optional)).toHaveLength(8);
  });
});

import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import type { MarksSolution } from '../instrument/solveMarks';
import { solutionFromMarks } from '../take/marksToSolution';
import { marksToText, parseMarks, withNotedZoom } from './marks';

const demo = readFileSync('demo/ilvi-tube-glide.marks.json', 'utf8');
const altered = (change: (marks: ReturnType<typeof parseMarks>) => void): string => {
  const marks = parseMarks(demo);
  change(marks);
  return JSON.stringify(marks);
};

describe('marks files', () => {
  it('come back as they were written', () => {
    expect(parseMarks(marksToText(parseMarks(demo)))).toEqual(parseMarks(demo));
  });
  it('say with which lens the film was taken, and the instrument stands further off accordingly', () => {
    const at = (zoom: number) => solutionFromMarks(parseMarks(altered((m) => Object.assign(m.video, { zoom }))));
    const [once, twice] = [at(1), at(2)].map((s) => s.solution) as [MarksSolution, MarksSolution];
    const [near, far] = [once, twice].map((s) => s.poses[0]!.translation[2]) as [number, number];
    expect(twice.camera.focal / once.camera.focal).toBeGreaterThan(1.5);
    expect(far / near).toBeGreaterThan(1.5);
  });
  it('take the zoom from the film’s notes only where they do not say it', () => {
    const said = parseMarks(altered((m) => Object.assign(m.video, { zoom: 2 })));
    expect(withNotedZoom(parseMarks(demo), 0.5).video.zoom).toBe(0.5);
    expect(withNotedZoom(said, 0.5)).toBe(said);
    expect(withNotedZoom(parseMarks(demo), undefined)).toEqual(parseMarks(demo));
  });
  it('keep the frames that agree with a found one, and look at them as closely', () => {
    const withMore = altered((m) => Object.assign(m, { agreeing: [{ ...m.frames[0]!, t: 3, found: Object.keys(m.frames[0]!.points) }] }));
    expect(parseMarks(marksToText(parseMarks(withMore))).agreeing).toHaveLength(1);
    const outside = altered((m) => Object.assign(m, { agreeing: [{ t: 3, points: { 'instrument.scroll': [5000, 20] } }] }));
    expect(() => parseMarks(outside)).toThrow(/outside the picture/);
  });
  it.each([
    ['text that is no JSON', 'hello', /not readable as JSON/],
    ['another format', '{"format":"other/1"}', /not a marks file/],
    ['a missing part', '{"format":"gestometra-marks/1"}', /incomplete/],
    ['an unknown size', altered((m) => Object.assign(m.instrument, { size: '7/8' })), /no violin of size 7\/8/],
    ['an unknown point', altered((m) => Object.assign(m.frames[0]!.points, { 'instrument.pegs': [1, 1] })), /not a point that can be marked/],
    ['a zoom no phone has', altered((m) => Object.assign(m.video, { zoom: 40 })), /incomplete at "video.zoom"/],
    ['a point outside the picture', altered((m) => Object.assign(m.frames[0]!.points, { 'instrument.scroll': [5000, 20] })), /outside the picture/],
    ['an absurd measurement', altered((m) => Object.assign(m.instrument, { dimensions: { body: 1000 } })), /does not fit/],
  ])('are refused with the reason: %s', (_, text, reason) => {
    expect(() => parseMarks(text)).toThrow(reason);
  });
});

describe('marks that do not make an instrument', () => {
  it.each([
    [
      'too few points',
      altered((m) => {
        m.frames[0]!.points = Object.fromEntries(Object.entries(m.frames[0]!.points).slice(0, 3));
      }),
      /four or more/,
    ],
    [
      'low and high side swapped in part',
      altered((m) => {
        const p = m.frames[0]!.points;
        for (const part of ['nut', 'fingerboardEnd']) [p[`instrument.${part}.low`], p[`instrument.${part}.high`]] = [p[`instrument.${part}.high`]!, p[`instrument.${part}.low`]!];
      }),
      /do not fit/,
    ],
    [
      'a point far off',
      altered((m) => {
        m.frames[0]!.points['instrument.nut.low'] = [100, 600];
      }),
      /do not fit/,
    ],
  ])('are told: %s', (_, text, reason) => {
    expect(() => solutionFromMarks(parseMarks(text))).toThrow(reason);
  });
  it('solve when they are right', () => {
    expect(solutionFromMarks(parseMarks(demo)).solution.misfit).toBeLessThan(2);
  });
});

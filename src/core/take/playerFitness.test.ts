import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { parseMarks } from '../formats/marks';
import { fromRotationVector, multiply } from '../geometry/rotation';
import { solutionFromMarks } from './marksToSolution';
import { type PlayerPart, playerFitness } from './playerFitness';

/** Grades told from a demo's marks, as if the phone had stood so many times nearer. */
function grades(name: string, nearer = 1): Record<PlayerPart, string> {
  const marks = parseMarks(readFileSync(`demo/${name}.marks.json`, 'utf8'));
  const { solution, dimensions } = solutionFromMarks(marks);
  const camera = { ...solution.camera, focal: solution.camera.focal * nearer };
  return Object.fromEntries(playerFitness({ ...solution, camera }, dimensions, marks.instrument.family).map((p) => [p.part, p.grade])) as Record<PlayerPart, string>;
}

describe('what a view can judge of the player', () => {
  it('from in front: arm and trunk, not the feet', () => {
    expect(grades('ilvi-long-bows')).toMatchObject({ arm: 'fit', trunk: 'fit', feet: 'unfit' });
  });
  it('from afar: the feet too, but not the fingers', () => {
    expect(grades('oda-whole')).toMatchObject({ arm: 'fit', trunk: 'fit', feet: 'fit', hand: 'unfit' });
  });
  it('from close by: the hand, and nothing of the body', () => {
    expect(grades('ilvi-long-bows', 2.5)).toEqual({ arm: 'unfit', hand: 'fit', trunk: 'unfit', feet: 'unfit' });
  });
  it("from the frog's end of the bow: of the hand only the thumb, however near", () => {
    const marks = parseMarks(readFileSync('demo/ilvi-long-bows.marks.json', 'utf8'));
    const { solution, dimensions } = solutionFromMarks(marks);
    /** The hand's fitness, half a metre away, with the bow so many degrees from the line of sight. */
    const hand = (turn: number) => {
      const rotation = multiply(fromRotationVector([0, (turn * Math.PI) / 180, 0]), [1, 0, 0, 0, 0, -1, 0, 1, 0]);
      const poses = [{ rotation, translation: [0, 30, 500] as const }];
      return playerFitness({ ...solution, poses }, dimensions, 'violin').find((p) => p.part === 'hand')!;
    };
    expect(hand(0)).toMatchObject({ grade: 'doubtful', why: expect.stringContaining('only the thumb') });
    expect(hand(35)).toEqual({ part: 'hand', grade: 'fit' });
  });
  it('says what would help wherever something is in the way, and nothing of a cellist', () => {
    const marks = parseMarks(readFileSync('demo/oda-whole.marks.json', 'utf8'));
    const { solution, dimensions } = solutionFromMarks(marks);
    for (const part of playerFitness(solution, dimensions, 'violin')) expect(part.why === undefined).toBe(part.grade === 'fit');
    expect(playerFitness(solution, dimensions, 'cello')).toEqual([]);
  });
});

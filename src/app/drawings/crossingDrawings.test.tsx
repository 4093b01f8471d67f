import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import type { Crossing } from '../../core/crossings/crossings';
import type { Stray } from '../../core/crossings/strays';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { instrumentModel } from '../../core/instrument/landmarks';
import { stringLevels } from '../../core/instrument/strings';
import type { LevelTable, StringLevel } from '../../core/levels/levelTable';
import { CrossingSeams } from './CrossingSeams';
import { LevelsLadder } from './LevelsLadder';
import { SoundRow } from './SoundRow';
import { COLOR } from './tokens';

/** Numbers of an attribute of all elements of a kind, in the order of drawing. */
const numbersOf = (markup: string, element: string, attribute: string): number[] =>
  [...markup.matchAll(new RegExp(`<${element}[^>]* ${attribute}="(-?[\\d.]+)"`, 'g'))].map((m) => Number(m[1]));

/** How many parts of a drawing are hatched: what cannot be judged. */
const hatched = (markup: string): number => markup.match(/fill="url\(#hatch/g)?.length ?? 0;

describe('crossings as seams', () => {
  const crossing = (tBow: number, more: Partial<Crossing> = {}): Crossing => ({
    leaves: 'A',
    reaches: 'E',
    tBow,
    tNote: tBow + 0.01,
    ...more,
  });
  const draw = (crossings: readonly Crossing[], lag?: { value: number; u: number }, now = 0, width = 212) =>
    renderToStaticMarkup(<CrossingSeams width={width} height={163} crossings={crossings} lag={lag} apart={0.08} now={now} onSeek={() => undefined} label="crossings" />);

  it('are straight and without a number where bow, note and arm are together', () => {
    const seam = draw([crossing(1, { tElbow: { value: 1.02, u: 0.02 } })]);
    expect(seam).not.toContain(COLOR.rosinInk);
    expect(seam).toContain('>AE<');
  });
  it('say in milliseconds what is apart, an early arm left and a late one right', () => {
    const [early, late] = [0.88, 1.14].map((value) => draw([crossing(1, { tElbow: { value, u: 0.02 } })]));
    expect(early).toContain('>120<');
    expect(late).toContain('>140<');
    // The stitches are the thicker lines: bow, note, arm.
    const stitches = (markup: string) => [...markup.matchAll(/<line x1="([\d.]+)"[^>]*stroke-width="(?:2.6|3.4)"/g)].map((m) => Number(m[1]));
    const [bow, , arm] = stitches(early!);
    expect(arm).toBeLessThan(bow!);
    expect(stitches(late!)[2]).toBeGreaterThan(stitches(late!)[0]!);
  });
  it('hatch the clock that was not told, and dash the arm where only the clip tells it', () => {
    const { tNote: _, ...silent } = crossing(1);
    expect(hatched(draw([silent]))).toBe(2);
    const lagging = draw([silent], { value: 0.12, u: 0.02 });
    expect(hatched(lagging)).toBe(1);
    expect(lagging).toContain('stroke-dasharray="4 3"');
  });
  it('show as many as there is room for, about the moment', () => {
    const many = Array.from({ length: 30 }, (_, i) => crossing(i + 1, { leaves: String.fromCharCode(97 + (i % 26)), reaches: 'x' }));
    const names = (now: number) => [...draw(many, undefined, now).matchAll(/>([a-z])x</g)].map((m) => m[1]);
    expect(names(1)).toEqual(['a', 'b', 'c', 'd', 'e', 'f']);
    expect(names(12)).toContain('l');
    expect(names(12)).toHaveLength(6);
    expect(names(30).at(-1)).toBe('d');
  });
  it('say so where there is none', () => {
    expect(draw([])).toContain('one string only');
  });
});

describe('levels as a ladder', () => {
  const natural = stringLevels(instrumentModel(dimensionsOf('violin', '4/4')), 'violin');
  const strings = ['G', 'D', 'A', 'E'];
  const level = (string: string, bow: number, arm?: number): StringLevel => ({
    string,
    strokes: 4,
    bow: { value: bow, u: 0.5 },
    ...(arm === undefined ? {} : { arm: { value: arm, u: 2 } }),
  });
  const draw = (levels: readonly StringLevel[]) => {
    const table: LevelTable = { levels, steps: [], missing: [], doubled: [] };
    return renderToStaticMarkup(<LevelsLadder width={212} height={163} table={table} natural={natural} strings={strings} label="levels" />);
  };
  it('puts each rung of the bow on the level of its string where it is held, the lowest string on top', () => {
    const ladder = draw(strings.map((s, i) => level(s, natural.natural[i]!)));
    const letters = numbersOf(ladder, 'circle', 'cy');
    expect(letters).toHaveLength(4);
    expect([...letters].sort((a, b) => a - b)).toEqual(letters);
    // The broad lines are the instrument's own levels.
    const rungs = [...ladder.matchAll(/y1="([\d.]+)" y2="\1" stroke="[^"]+" stroke-width="9"/g)].map((m) => Number(m[1]));
    expect(rungs).toHaveLength(4);
    rungs.forEach((y, i) => {
      expect(letters[i]).toBeCloseTo(y, 6);
    });
  });
  it('draws rungs nearer together than the strings where a level is not held', () => {
    const [g, d] = [natural.natural[0]!, natural.natural[1]!];
    const apart = (levels: readonly StringLevel[]) => {
      const [a, b] = numbersOf(draw(levels), 'circle', 'cy');
      return b! - a!;
    };
    expect(apart([level('G', g), level('D', d + 0.7 * (g - d))])).toBeLessThan(0.5 * apart([level('G', g), level('D', d)]));
  });
  it('hatches the arm where it was not measured', () => {
    expect(hatched(draw([level('A', natural.natural[2]!)]))).toBe(1);
    expect(hatched(draw([level('A', natural.natural[2]!, 20)]))).toBe(0);
  });
});

describe('what was heard', () => {
  const stray = (from: number, to: number): Stray => ({ from, to, string: 'E', inCrossing: true, why: 'early', confidence: 0.9 });
  const draw = (notes: { from: number; to: number; string: string }[], strays: Stray[] = []) =>
    renderToStaticMarkup(
      <svg>
        <SoundRow notes={notes} strays={strays} left={100} T={(t) => 100 + 100 * t} />
      </svg>,
    );
  it('letters a note where its string changes, and only where there is room', () => {
    const row = draw([
      { from: 0, to: 1, string: 'A' },
      { from: 1, to: 2, string: 'A' },
      { from: 2, to: 3, string: 'D' },
      { from: 3, to: 3.1, string: 'G' },
    ]);
    expect([...row.matchAll(/>([GDAE])</g)].map((m) => m[1])).toEqual(['A', 'D']);
    expect(numbersOf(row, 'line', 'x1')).toEqual([112, 201.5, 312, 401.5]);
  });
  it('puts the letter after a bracket that lies at the beginning of the note, or leaves it out', () => {
    const [note] = [{ from: 1, to: 2, string: 'A' }];
    const after = draw([note!], [stray(1.02, 1.2)]);
    const letter = Number(/<text x="([\d.]+)"[^>]*>A</.exec(after)?.[1]);
    expect(letter).toBeGreaterThan(100 + 100 * 1.2 + 3);
    // The thread goes on beneath the bracket and after the letter.
    expect(numbersOf(after, 'line', 'x1')).toEqual([201.5, letter + 12]);
    expect(draw([note!], [stray(1, 1.9)])).not.toMatch(/>A</);
  });
  it('brackets a stray string, wide enough to be seen however short it is', () => {
    const row = draw([], [stray(1, 1.01), stray(2, 2.5)]);
    expect(numbersOf(row, 'rect', 'width')).toEqual([12, 56]);
    expect(row.match(/>E</g)).toHaveLength(1);
  });
});

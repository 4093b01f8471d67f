import { describe, expect, it } from 'vitest';
import { POINT_NAMES } from '../../../core/formats/marks';
import { missingForMeasure } from '../../../core/take/missingForMeasure';
import { ASKED, askedByName, CHAINS, GROUPS, groupOf, type PointGroup } from './points';

const groups = Object.entries(GROUPS) as [PointGroup, (typeof GROUPS)[PointGroup]][];

describe('the points asked for', () => {
  it('are names a marks file may use, each asked once, in the group its name says', () => {
    const names = groups.flatMap(([, { points }]) => points.map((p) => p.name));
    expect(new Set(names).size).toBe(names.length);
    for (const [group, { points }] of groups) {
      for (const { name, title, hint } of points) {
        expect(POINT_NAMES).toContain(name);
        expect(groupOf(name)).toBe(group);
        expect(title.length).toBeGreaterThan(3);
        expect(hint).toMatch(/\.$/);
        expect(askedByName.get(name)!.title).toBe(title);
      }
    }
  });

  it('need eight clicks or fewer before a clip is measured, and those are enough', () => {
    const needed = ASKED.filter((p) => !p.optional);
    expect(needed.length).toBeLessThanOrEqual(8);
    const points = Object.fromEntries(needed.map((p, i): [string, [number, number]] => [p.name, [10 * i, 5 * i]]));
    const marks = { format: 'gestometra-marks/1', video: { width: 960, height: 540 }, instrument: { family: 'violin', size: '4/4' }, frames: [{ t: 0, points }] } as const;
    expect(missingForMeasure({ ...marks, frames: [...marks.frames] })).toBeUndefined();
  });

  it('come before those that are enough without, so that a teacher may stop', () => {
    for (const [, { points }] of groups) {
      const first = points.findIndex((p) => p.optional);
      if (first >= 0) expect(points.slice(first).every((p) => p.optional)).toBe(true);
    }
  });

  it('are told apart by their words: no two share a title and a hint in one group', () => {
    for (const [, { points }] of groups) expect(new Set(points.map((p) => `${p.title} ${p.hint}`)).size).toBe(points.length);
  });

  it('are joined in the drawing only with their like', () => {
    for (const chain of CHAINS) {
      expect(chain.every((name) => askedByName.has(name))).toBe(true);
      expect(new Set(chain.map(groupOf)).size).toBe(1);
    }
  });
});

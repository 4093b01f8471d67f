import { describe, expect, it } from 'vitest';
import { distance } from '../../src/core/geometry/vec3';
import { bodyPoint, LOWER_CORNER } from '../../src/core/instrument/body';
import { UNLIKE, variedScenario } from '../presets/variety';
import { buildInstrument } from './build';
import { plainLooks, swollen, unlikeLooks } from './looks';

const seeds = Array.from({ length: 40 }, (_, i) => UNLIKE + i);

describe('looks of instruments', () => {
  it('are the same for the same seed, and unlike from seed to seed where asked for', () => {
    expect(unlikeLooks(7)).toEqual(unlikeLooks(7));
    const all = seeds.map(unlikeLooks);
    const spread = (values: readonly number[]) => Math.max(...values) - Math.min(...values);
    expect(spread(all.map((l) => l.plate.light))).toBeGreaterThan(30);
    expect(new Set(all.map((l) => l.neck)).size).toBeGreaterThan(3);
    expect(all.some((l) => l.purfling === undefined)).toBe(true);
    expect(all.some((l) => l.tapes.length > 0)).toBe(true);
    expect(plainLooks(7).outline).toEqual([]);
  });

  it('a plain outline is left as it is; swellings move what lies near them', () => {
    expect(swollen([], 30, 56)).toEqual([30, 56]);
    const outline = [{ u: 100, reach: 30, wider: 0.1, along: 2 }];
    expect(swollen(outline, 100, 80)[1]).toBeCloseTo(88, 6);
    expect(swollen(outline, 100, 80)[0]).toBeCloseTo(102, 6);
    expect(swollen(outline, -140, 80)[1]).toBeCloseTo(80, 6);
  });

  it('corners to be found lie where the outline has them', () => {
    for (const seed of seeds.slice(0, 8)) {
      const { model, looks, width, lengthways } = buildInstrument(variedScenario(seed));
      const [u, y] = swollen(looks.outline, LOWER_CORNER.u, LOWER_CORNER.y);
      const drawn = bodyPoint(model.frame, u * lengthways, y * width, 2);
      expect(distance(model.landmarks['instrument.lowerCorner.low'], drawn)).toBeLessThan(1e-9);
      const plain = bodyPoint(model.frame, LOWER_CORNER.u * lengthways, LOWER_CORNER.y * width, 2);
      expect(distance(plain, drawn)).toBeGreaterThan(0.05);
    }
  });

  it('players from a seed on have unlike instruments, violas and cellos more often', () => {
    const share = (from: number) => Array.from({ length: 200 }, (_, i) => variedScenario(from + i)).filter((s) => s.family !== 'violin').length / 200;
    expect(variedScenario(UNLIKE - 1).unlike).toBeUndefined();
    expect(variedScenario(UNLIKE).unlike).toBe(true);
    expect(share(UNLIKE)).toBeGreaterThan(share(1) + 0.1);
  });
});

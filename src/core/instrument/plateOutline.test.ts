import { describe, expect, it } from 'vitest';
import { distance } from '../geometry/vec3';
import { dimensionsOf } from './dimensions';
import { instrumentModel, SHAPE } from './landmarks';
import { plateOutline } from './plateOutline';

const longest = (points: ReturnType<typeof plateOutline>): number => Math.max(...points.flatMap((p) => points.map((q) => distance(p, q))));

describe('the outline of the plate', () => {
  it.each([
    ['violin', '4/4'],
    ['violin', '1/4'],
    ['cello', '4/4'],
  ] as const)('of a %s %s is as long as its body', (family, size) => {
    const dimensions = dimensionsOf(family, size);
    expect(Math.abs(longest(plateOutline(instrumentModel(dimensions))) / dimensions.body - 1)).toBeLessThan(0.01);
  });
  it('is wider where the body is', () => {
    const wide = Float64Array.from(SHAPE, (s) => (s.name === 'body width' ? 1 : 0));
    const width = (shape?: Float64Array) => Math.max(...plateOutline(instrumentModel(dimensionsOf('violin', '4/4'), shape)).map((p) => p[1]));
    expect(width(wide)).toBeGreaterThan(width() + 1);
  });
});

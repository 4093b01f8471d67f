import { describe, expect, it } from 'vitest';
import { distance } from '../geometry/vec3';
import { dimensionsOf } from './dimensions';
import { instrumentModel } from './landmarks';
import { lowestPeg } from './pegs';

describe('the peg of the lowest string', () => {
  it.each([
    ['violin', '4/4'],
    ['cello', '4/4'],
    ['cello', '1/2'],
  ] as const)('of a %s %s sits between nut and scroll, nearer the nut, on the low side, under the strings', (family, size) => {
    const model = instrumentModel(dimensionsOf(family, size));
    const { 'instrument.nut.low': low, 'instrument.nut.high': high, 'instrument.scroll': scroll } = model.landmarks;
    const peg = lowestPeg(model);
    expect(peg[0]).toBeGreaterThan(model.stringLength);
    expect(peg[0] - model.stringLength).toBeLessThan(0.5 * (scroll[0] - model.stringLength));
    expect(distance(peg, low)).toBeLessThan(distance(peg, high));
    expect(peg[2]).toBeLessThan(low[2]);
  });
});

import { describe, expect, it } from 'vitest';
import { endOnDoubt } from './endOn';

describe('a bow that points at the camera', () => {
  it('is in doubt within 20 degrees of the line of sight, whichever end is nearer, and not beyond 25', () => {
    const at = (degrees: number) => endOnDoubt(Math.cos((degrees * Math.PI) / 180));
    expect(at(90)).toBe(0);
    expect(at(25)).toBe(0);
    expect(at(10)).toBeGreaterThan(500);
    expect(at(170)).toBe(at(10));
  });
});

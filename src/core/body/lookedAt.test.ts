import { describe, expect, it } from 'vitest';
import { between } from './lookedAt';

describe('the time between looked-at frames', () => {
  const times = [0, 0.2, 0.4, 1.4];
  it('is shared by how near each is', () => {
    expect(between(times, 0.25)).toEqual({ a: 1, b: 2, share: expect.closeTo(0.25, 9) });
    expect(between(times, 0)).toMatchObject({ a: 0, b: 0, share: 0 });
    expect(between(times, 1.5)).toMatchObject({ a: 3, b: 3 });
  });
  it('says nothing far from every one of them', () => {
    expect(between(times, 0.9)).toBeUndefined();
    expect(between(times, 2)).toBeUndefined();
    expect(between([], 0)).toBeUndefined();
  });
});

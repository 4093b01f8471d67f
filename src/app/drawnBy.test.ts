import { describe, expect, it } from 'vitest';
import { FAULTS } from '../core/findings/faults';
import { drawnBy } from './drawnBy';

const drawing = (fault: string) => {
  const row = FAULTS.find((f) => f.id === fault)!;
  return drawnBy({ fault, quantity: (row as { quantity?: string }).quantity ?? '' } as Parameters<typeof drawnBy>[0]);
};

describe('the drawing a finding opens', () => {
  it('shows what it is about', () => {
    expect(drawing('tip-to-scroll')).toBe('plan');
    expect(drawing('on-fingerboard')).toBe('plan');
    expect(drawing('thumb-straight')).toBe('hand');
    expect(drawing('leaning')).toBe('body');
  });
  it('is the bows for what is judged over a whole take, and the arm for the rest', () => {
    const take = FAULTS.find((f) => f.kind === 'take')!;
    expect(drawnBy({ fault: take.id, quantity: 'something_else' } as unknown as Parameters<typeof drawnBy>[0])).toBe('bows');
    expect(drawnBy({ fault: 'tip-to-scroll', quantity: 'elbow_rise_deg' } as unknown as Parameters<typeof drawnBy>[0])).toBe('arm');
  });
});

import { describe, expect, it } from 'vitest';
import { stageOn } from './stage';

describe('the stage of a student', () => {
  it('is the first term for four months, the first year to its end, later from then on', () => {
    expect(stageOn('2026-09-14', '2026-09-14')).toBe('first-term');
    expect(stageOn('2026-09-14', '2027-01-13')).toBe('first-term');
    expect(stageOn('2026-09-14', '2027-01-14')).toBe('first-year');
    expect(stageOn('2026-09-14', '2027-09-13')).toBe('first-year');
    expect(stageOn('2026-09-14', '2027-09-14')).toBe('later');
  });
  it('of a film older than the start is the first term', () => {
    expect(stageOn('2026-09-14', '2026-05-01')).toBe('first-term');
  });
});

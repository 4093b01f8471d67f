import type { Finding } from './finding';

// For tests: a tip that turns to the scroll past the middle in four of five bows, or what is said otherwise.
export const testFinding = (fault: string, given: Partial<Finding> = {}): Finding => ({
  fault,
  from: 1,
  to: 1.6,
  strokes: [0, 1, 2, 3],
  third: 'tip',
  quantity: 'skew_deg',
  value: { value: 14.2, u: 1.8 },
  band: [-5, 5],
  share: 0.8,
  eligible: 5,
  evidence: [],
  fitness: 'fit',
  confidence: 0.99,
  stretches: [
    { from: 1, to: 1.6, stroke: 0 },
    { from: 3, to: 3.4, stroke: 1 },
  ],
  ...given,
});

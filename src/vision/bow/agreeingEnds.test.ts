import { describe, expect, it } from 'vitest';
import type { Vec2 } from '../../core/geometry/vec3';
import { agreeingEnds, type ExpectedEnds } from './agreeingEnds';
import type { FoundEnd } from './endPatch';

const scale = { along: 0.6, across: 0.6, slant: 0 };
/** A bow 300 px long, expected level in the picture, both ends marked. */
const ends = (unsure: Partial<ExpectedEnds['unsure']> = {}): ExpectedEnds => ({
  at: { frog: [100, 200], tip: [400, 200] },
  u: [1, 0],
  scales: { frog: scale, tip: scale },
  unsure: { frog: 0, tip: 0, ...unsure },
});
const found = (x: number, score: number, clear = 0.4): FoundEnd => ({ point: [x, 200], score, clear });
/** What the ends look like where they truly are, moved by so many px, and elsewhere. */
const movedBy =
  (by: number) =>
  (which: 'frog' | 'tip', [x]: Vec2) =>
    Math.abs(x - (which === 'frog' ? 100 : 400) - by) < 4 ? 0.9 : 0.1;
const which = ({ frog, tip }: { frog: FoundEnd | undefined; tip: FoundEnd | undefined }) => [frog && 'frog', tip && 'tip'].filter(Boolean).join(' ');

describe('ends that agree', () => {
  it('are both believed where they moved alike, however unlike themselves they look', () => {
    expect(which(agreeingEnds({ frog: found(120, 0.55), tip: found(422, 0.55) }, ends(), movedBy(0)))).toBe('frog tip');
  });
  it('are those whose motion suits the other end too', () => {
    const frogStayed = { frog: found(100, 0.8), tip: found(430, 0.8) };
    expect(which(agreeingEnds(frogStayed, ends(), movedBy(30)))).toBe('tip');
    expect(which(agreeingEnds(frogStayed, ends(), movedBy(0)))).toBe('frog');
  });
  it('are told by a bow that shows up to the tip by the frog’s motion', () => {
    const tipBeyond = { frog: found(100, 0.8), tip: found(440, 0.8) };
    const alike = (end: 'frog' | 'tip', [x]: Vec2) => 0.6 + (end === 'tip' && x < 410 ? 0.5 : 0);
    expect(which(agreeingEnds(tipBeyond, ends(), alike))).toBe('frog');
  });
  it('are, where nothing else tells, the marked one before the guessed, and the one that moved less', () => {
    const apart = { frog: found(104, 0.8), tip: found(430, 0.8) };
    const alike = () => 0.6;
    expect(which(agreeingEnds(apart, ends(), alike))).toBe('frog');
    expect(which(agreeingEnds(apart, ends({ frog: 6 }), alike))).toBe('tip');
    expect(which(agreeingEnds(apart, ends({ frog: 6, tip: 6 }), alike))).toBe('frog');
  });
  it('are none where neither is clear, and one alone only where it is clear by itself', () => {
    expect(which(agreeingEnds({ frog: found(100, 0.25, 0.05), tip: undefined }, ends(), movedBy(0)))).toBe('');
    expect(which(agreeingEnds({ frog: undefined, tip: found(400, 0.7, 0.06) }, ends(), movedBy(0)))).toBe('');
    expect(which(agreeingEnds({ frog: undefined, tip: found(400, 0.7, 0.3) }, ends(), movedBy(0)))).toBe('tip');
  });
});

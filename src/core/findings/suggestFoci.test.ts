import { describe, expect, it } from 'vitest';
import type { Finding } from './finding';
import { goesWith } from './links';
import { suggestFoci } from './suggestFoci';

const finding = (fault: string, change: Partial<Finding> = {}): Finding => ({
  fault,
  from: 1,
  to: 2,
  strokes: [0, 1, 2, 3],
  third: 'tip',
  quantity: 'skew_deg',
  value: { value: 15, u: 2 },
  band: [-5, 5],
  share: 0.8,
  eligible: 5,
  evidence: [],
  fitness: 'fit',
  confidence: 0.95,
  stretches: [],
  ...change,
});

describe('findings that go together', () => {
  it('are laid to the one that brings them, in the same bows only', () => {
    const links = goesWith([finding('tip-to-scroll'), finding('contact-drifts'), finding('on-fingerboard', { strokes: [7, 8, 9] })]);
    expect([...links]).toEqual([['contact-drifts', 'tip-to-scroll']]);
    expect([...goesWith([finding('bow-arcs'), finding('tip-to-scroll'), finding('contact-drifts')])]).toEqual([
      ['bow-arcs', 'tip-to-scroll'],
      ['contact-drifts', 'tip-to-scroll'],
    ]);
  });

  it('are laid to the first of a row', () => {
    const links = goesWith([finding('instrument-moves'), finding('tip-to-scroll'), finding('contact-drifts'), finding('on-fingerboard')]);
    expect(links.get('on-fingerboard')).toBe('instrument-moves');
    expect(links.get('tip-to-scroll')).toBe('instrument-moves');
  });

  it('are not laid to the instrument where the arm swung', () => {
    expect(goesWith([finding('instrument-moves'), finding('tip-to-scroll', { cause: 'arm-swung' })]).size).toBe(0);
    // The curve of a bow goes with its end, whatever moved that.
    const curve = (cause: 'arm-swung' | 'instrument-turned') => goesWith([finding('instrument-moves'), finding('tip-to-scroll', { cause }), finding('bow-arcs')]).get('bow-arcs');
    expect(curve('arm-swung')).toBe('tip-to-scroll');
    expect(curve('instrument-turned')).toBe('instrument-moves');
  });

  it('of two that bring each other leave the first standing, and what both bring goes with it', () => {
    const links = goesWith([finding('instrument-in-front'), finding('left-elbow-on-ribs'), finding('wrist-bent')]);
    expect([...links]).toEqual([
      ['left-elbow-on-ribs', 'instrument-in-front'],
      ['wrist-bent', 'instrument-in-front'],
    ]);
  });
});

describe('suggested foci', () => {
  it('are at most two, in the order of the work, without what goes with them', () => {
    const suggested = suggestFoci([finding('contact-drifts'), finding('on-fingerboard'), finding('tip-to-scroll'), finding('thumb-straight'), finding('uneven-shares')]);
    expect(suggested.map((s) => s.fault)).toEqual(['thumb-straight', 'tip-to-scroll']);
    expect(suggested[1]!.reasons).toContain('2 other findings go with it');
  });

  it('let what weighs far more pass what comes first', () => {
    const faint = finding('scroll-droops', { share: 0.32, confidence: 0.6, fitness: 'doubtful' });
    const [first] = suggestFoci([faint, finding('tip-to-scroll', { share: 1 })]);
    expect(first).toEqual({ fault: 'tip-to-scroll', reasons: expect.arrayContaining([expect.stringContaining('weighs far more')]) });
  });

  it('are none where nothing was found', () => {
    expect(suggestFoci([])).toEqual([]);
  });
});

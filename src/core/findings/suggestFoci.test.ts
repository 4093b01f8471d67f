import { describe, expect, it } from 'vitest';
import { goesWith } from './links';
import { suggestFoci } from './suggestFoci';
import { testFinding } from './testFinding';

describe('findings that go together', () => {
  it('are laid to the one that brings them, in the same bows only', () => {
    const links = goesWith([testFinding('tip-to-scroll'), testFinding('contact-drifts'), testFinding('on-fingerboard', { strokes: [7, 8, 9] })]);
    expect([...links]).toEqual([['contact-drifts', 'tip-to-scroll']]);
    expect([...goesWith([testFinding('bow-arcs'), testFinding('tip-to-scroll'), testFinding('contact-drifts')])]).toEqual([
      ['bow-arcs', 'tip-to-scroll'],
      ['contact-drifts', 'tip-to-scroll'],
    ]);
  });

  it('are laid to the first of a row', () => {
    const links = goesWith([testFinding('instrument-moves'), testFinding('tip-to-scroll'), testFinding('contact-drifts'), testFinding('on-fingerboard')]);
    expect(links.get('on-fingerboard')).toBe('instrument-moves');
    expect(links.get('tip-to-scroll')).toBe('instrument-moves');
  });

  it('are not laid to the instrument where the arm swung', () => {
    expect(goesWith([testFinding('instrument-moves'), testFinding('tip-to-scroll', { cause: 'arm-swung' })]).size).toBe(0);
    // The curve of a bow goes with its end, whatever moved that.
    const curve = (cause: 'arm-swung' | 'instrument-turned') =>
      goesWith([testFinding('instrument-moves'), testFinding('tip-to-scroll', { cause }), testFinding('bow-arcs')]).get('bow-arcs');
    expect(curve('arm-swung')).toBe('tip-to-scroll');
    expect(curve('instrument-turned')).toBe('instrument-moves');
  });

  it('of two that bring each other leave the first standing, and what both bring goes with it', () => {
    const links = goesWith([testFinding('instrument-in-front'), testFinding('left-elbow-on-ribs'), testFinding('wrist-bent')]);
    expect([...links]).toEqual([
      ['left-elbow-on-ribs', 'instrument-in-front'],
      ['wrist-bent', 'instrument-in-front'],
    ]);
  });
});

describe('suggested foci', () => {
  it('are at most two, in the order of the work, without what goes with them', () => {
    const suggested = suggestFoci([
      testFinding('contact-drifts'),
      testFinding('on-fingerboard'),
      testFinding('tip-to-scroll'),
      testFinding('thumb-straight'),
      testFinding('uneven-shares'),
    ]);
    expect(suggested.map((s) => s.fault)).toEqual(['thumb-straight', 'tip-to-scroll']);
    expect(suggested[1]!.reasons).toContain('2 other findings go with it');
  });

  it('let what weighs far more pass what comes first', () => {
    const faint = testFinding('scroll-droops', { share: 0.32, confidence: 0.6, fitness: 'doubtful' });
    const [first] = suggestFoci([faint, testFinding('tip-to-scroll', { share: 1 })]);
    expect(first).toEqual({ fault: 'tip-to-scroll', reasons: expect.arrayContaining([expect.stringContaining('weighs far more')]) });
  });

  it('are none where nothing was found', () => {
    expect(suggestFoci([])).toEqual([]);
  });
});

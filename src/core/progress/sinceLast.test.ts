import { describe, expect, it } from 'vitest';
import type { Finding } from '../findings/finding';
import type { FrameMeasures } from '../measures/measures';
import { bandsFor, MIDDLE_OF_STRIP } from '../rubric/rubric';
import { segmentStrokes } from '../strokes/segment';
import { type Compared, earlierBow, sinceLast } from './sinceLast';

const bands = bandsFor(MIDDLE_OF_STRIP, 'later');

/** Long bows whose tip turns by so many degrees. */
function take(atTip: number, string = 'A', u = 1): Compared {
  const frames = Array.from({ length: 250 }, (_, i): FrameMeasures => {
    const t = i / 25;
    const p = 0.5 - 0.45 * Math.cos((Math.PI * t) / 2);
    return {
      frame: i,
      t,
      string,
      values: { bow_position: { value: p, u: 0.01 }, skew_deg: { value: atTip * Math.max(0, (p - 0.5) / 0.45), u }, contact_fraction: { value: 0.4 + 0.3 * p, u: 0.02 } },
    };
  });
  return { frames, strokes: segmentStrokes(frames) };
}
const finding = { fault: 'tip-to-scroll', third: 'tip', quantity: 'skew_deg' } as Finding;

describe('since the last take', () => {
  it('a tip that turns less is better, by as much as the bands allow to say', () => {
    const since = sinceLast(finding, take(12), take(20), bands)!;
    expect(since.change.verdict).toBe('better');
    expect(since.now.value).toBeLessThan(since.before.value);
    expect(sinceLast(finding, take(12), take(12.5), bands)!.change.verdict).toBe('same');
    expect(sinceLast(finding, take(20), take(12), bands)!.change.verdict).toBe('worse');
  });
  it('is the same number read the same way from both takes', () => {
    const since = sinceLast(finding, take(15), take(15), bands)!;
    expect(since.now).toEqual(since.before);
    expect(since.change.by).toBe(0);
  });
  it('says nothing where one of them cannot tell it', () => {
    const short = take(15);
    expect(sinceLast(finding, take(15), { ...short, strokes: short.strokes.slice(0, 2) }, bands)).toBeUndefined();
    expect(sinceLast({ ...finding, fault: 'uneven-shares' }, take(15), take(15), bands)).toBeUndefined();
  });
  it('knows how the bow lay at the same place, best on the same string', () => {
    const mixed: Compared = { ...take(20), frames: [...take(20, 'A').frames, ...take(0, 'D').frames] };
    expect(earlierBow(mixed, 'D', 0.9)!.skew).toBeCloseTo(0, 6);
    expect(earlierBow(mixed, 'A', 0.9)!.skew).toBeGreaterThan(14);
    expect(earlierBow(take(20), 'A', 0.9)!.fraction).toBeCloseTo(0.67, 1);
    expect(earlierBow({ frames: [], strokes: [] }, 'A', 0.5)).toBeUndefined();
  });
});

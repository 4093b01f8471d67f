import { describe, expect, it } from 'vitest';
import { changeWord } from '../rubric/editing';
import { FINGERBOARD_SIDE, MIDDLE_OF_STRIP, PARALLEL_ARM, RUBRICS } from '../rubric/rubric';
import { parseRubric, rubricToText } from './rubricJson';

const text = (change: object) => JSON.stringify({ format: 'gestometra-rubric/1', id: 'mine', name: 'Mine', version: 2, bands: {}, ...change });

describe('a rubric file', () => {
  it('brings every school back as it was, with the words for sounds', () => {
    for (const rubric of RUBRICS) expect(parseRubric(rubricToText(rubric))).toEqual(rubric);
    const own = changeWord(PARALLEL_ARM, 'airy', 'foggy');
    expect(parseRubric(rubricToText(own))).toEqual(own);
  });
  it('may name only what differs from the usual', () => {
    const read = parseRubric(text({ bands: { contactFraction: FINGERBOARD_SIDE.bands.contactFraction } }));
    expect(read.bands).toEqual(FINGERBOARD_SIDE.bands);
    expect(parseRubric(text({})).bands).toEqual(MIDDLE_OF_STRIP.bands);
  });
  it('is refused in plain words', () => {
    expect(() => parseRubric('x')).toThrow('not JSON');
    expect(() => parseRubric('{}')).toThrow('cannot be used');
    expect(() => parseRubric(text({ bands: { skew: { middle: 0, good: 12, fault: 8 } } }))).toThrow('"Bow angle": A fault cannot begin inside');
    expect(() => parseRubric(text({ bands: { skew: { good: 5, fault: 8 } } }))).toThrow('edges of another kind');
    expect(() => parseRubric(text({ bands: { nonsense: { good: 5, fault: 8 } } }))).toThrow('cannot be used');
  });
});

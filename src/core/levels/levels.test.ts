import { describe, expect, it } from 'vitest';
import { dimensionsOf } from '../instrument/dimensions';
import { instrumentModel } from '../instrument/landmarks';
import { stringLevels } from '../instrument/strings';
import type { FrameMeasures } from '../measures/measures';
import { levelCourses } from './levelCourse';
import { stringChanges, twoStringTouches } from './stringChanges';

const NAMES = ['G', 'D', 'A', 'E'];
const levels = stringLevels(instrumentModel(dimensionsOf('violin', '4/4')), 'violin');

/** Frames at 25 a second with an inclination and, named by the sector, a string. */
function playing(inclination: (t: number) => number, seconds: number, position: (t: number) => number = (t) => t / seconds): FrameMeasures[] {
  return Array.from({ length: Math.round(seconds * 25) }, (_, i): FrameMeasures => {
    const t = i / 25;
    const value = inclination(t);
    const index = levels.boundary.findIndex((b) => value >= b);
    const string = index < 0 ? 3 : index;
    const margin = Math.min(...levels.boundary.map((b) => Math.abs(value - b)));
    return {
      frame: i,
      t,
      string: NAMES[string]!,
      values: { inclination_deg: { value, u: 0.5 }, level_margin_deg: { value: margin, u: 0.5 }, bow_position: { value: position(t), u: 0.01 } },
    };
  });
}

describe('changes of string', () => {
  it('come at the time the boundary is crossed, to a fraction of a frame', () => {
    // From the D string's level to the A string's, straight through 0 degrees at 1.013 s.
    const frames = playing((t) => Math.max(-7.7, Math.min(7.7, (1.013 - t) * 60)), 2);
    const changes = stringChanges(frames, NAMES, levels);
    expect(changes).toHaveLength(1);
    expect(changes[0]).toMatchObject({ leaves: 'D', reaches: 'A' });
    expect(changes[0]!.t).toBeCloseTo(1.013, 3);
  });

  it('over two boundaries count once, at the last', () => {
    const frames = playing((t) => Math.max(-24, Math.min(7.7, 7.7 - 300 * (t - 1))), 2);
    const changes = stringChanges(frames, NAMES, levels);
    expect(changes.map((c) => c.leaves + c.reaches)).toEqual(['DE']);
    expect(changes[0]!.t).toBeCloseTo(1 + (7.7 + 15.8) / 300, 2);
  });

  it('do not count a slip of a frame or two', () => {
    expect(
      stringChanges(
        playing((t) => (t > 1 && t < 1.06 ? -7 : 7.7), 2),
        NAMES,
        levels,
      ),
    ).toEqual([]);
  });
});

describe('two strings at once', () => {
  it('are found inside a string, with their place on the bow', () => {
    const touches = twoStringTouches(
      playing((t) => (t > 0.5 && t < 0.9 ? 1 : 7.7), 2),
      NAMES,
      levels,
    );
    expect(touches).toHaveLength(1);
    expect(touches[0]).toMatchObject({ strings: ['D', 'A'], inChange: false });
    expect(touches[0]!.position).toBeCloseTo(0.35, 1);
    expect(touches[0]!.u).toBeCloseTo(0.5, 6);
  });

  it('during a slow change are told as part of it', () => {
    const touches = twoStringTouches(
      playing((t) => Math.max(-7.7, Math.min(7.7, (1 - t) * 15)), 2),
      NAMES,
      levels,
    );
    expect(touches.map((w) => w.inChange)).toEqual([true]);
  });
});

describe('the level along the bow', () => {
  it('says where it is lost', () => {
    // Held in the middle, sinking toward the A string over the last third of the bow.
    const frames = playing((t) => 7.7 - (t > 2 ? 5 * (t - 2) : 0), 3);
    const [course] = levelCourses(frames, NAMES, levels);
    expect(course!.string).toBe('D');
    expect(course!.closest.position).toBeGreaterThan(0.85);
    expect(course!.closest.departure.value).toBeLessThan(-3);
    expect(course!.parts[1]!.departure.value).toBeCloseTo(7.7 - levels.natural[1]!, 1);
  });
  it('leaves out strings and parts that were not played', () => {
    const courses = levelCourses(
      playing(
        () => -7.7,
        1,
        (t) => 0.3 * t,
      ),
      NAMES,
      levels,
    );
    expect(courses.map((c) => c.string)).toEqual(['A']);
    expect(courses[0]!.parts.length).toBeLessThan(3);
  });
});

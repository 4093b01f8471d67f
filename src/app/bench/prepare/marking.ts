import type { Marks } from '../../../core/formats/marks';

type FrameMarks = Marks['frames'][0];
type Point = [number, number];

const SAME_FRAME = 1e-4;

/** Pure changes of a clip's marks. Times in seconds, points in pixels of the upright picture. */

export const frameMarks = (marks: Marks, t: number): FrameMarks | undefined => marks.frames.find((f) => Math.abs(f.t - t) < SAME_FRAME);

function withFrame(marks: Marks, t: number, change: (frame: FrameMarks) => FrameMarks): Marks {
  const before = frameMarks(marks, t) ?? { t, points: {} };
  const after = change(before);
  const rest = marks.frames.filter((f) => f !== before);
  const kept = Object.keys(after.points).length > 0 ? [...rest, after] : rest;
  // What was found to agree with these marks as they were need not agree with them now.
  const { agreeing: _, ...own } = marks;
  return { ...own, frames: kept.sort((a, b) => a.t - b.t) };
}

type Said = 'guessed' | 'found';

/** A frame's marks with one name taken from (or put on) the lists of how points came to be. */
function said(frame: FrameMarks, name: string, put?: Said): FrameMarks {
  const { guessed = [], found = [], ...rest } = frame;
  const listOf = (list: readonly string[], kind: Said) => [...list.filter((n) => n !== name), ...(put === kind ? [name] : [])];
  const g = listOf(guessed, 'guessed');
  const f = listOf(found, 'found');
  return { ...rest, ...(g.length ? { guessed: g } : {}), ...(f.length ? { found: f } : {}) };
}

const rounded = ([x, y]: readonly [number, number]): Point => [Number(x.toFixed(2)), Number(y.toFixed(2))];

/** Places a point where it is seen; what was a guess or found before is so no longer. */
export function placePoint(marks: Marks, t: number, name: string, point: Point): Marks {
  return withFrame(marks, t, (frame) => ({ ...said(frame, name), points: { ...frame.points, [name]: rounded(point) } }));
}

export function removePoint(marks: Marks, t: number, name: string): Marks {
  return withFrame(marks, t, (frame) => {
    const { [name]: _, ...points } = frame.points;
    return { ...said(frame, name), points };
  });
}

/** Moves a point a little; one placed by guess stays a guess, one that was found is the teacher's now. */
export function nudgePoint(marks: Marks, t: number, name: string, [dx, dy]: Point): Marks {
  return withFrame(marks, t, (frame) => {
    const before = frame.points[name];
    if (!before) return frame;
    return { ...said(frame, name, frame.guessed?.includes(name) ? 'guessed' : undefined), points: { ...frame.points, [name]: rounded([before[0] + dx, before[1] + dy]) } };
  });
}

/** Takes over suggested points; until they are moved they count as placed by guess. */
export function acceptPoints(marks: Marks, t: number, points: Readonly<Record<string, readonly [number, number]>>): Marks {
  return withFrame(marks, t, (frame) => {
    const fresh = Object.entries(points).filter(([name]) => !frame.points[name]);
    return {
      ...frame,
      points: { ...frame.points, ...Object.fromEntries(fresh.map(([name, [x, y]]) => [name, rounded([x, y])])) },
      guessed: [...(frame.guessed ?? []), ...fresh.map(([name]) => name)],
    };
  });
}

/** The marks of another take laid over this one: its best frame's instrument and bow, all of them guesses to be moved. */
export function carriedOver(fresh: Marks, last: Marks, t: number): Marks {
  const playing = (frame: FrameMarks) => Object.entries(frame.points).filter(([name]) => name.startsWith('instrument.') || name.startsWith('bow.'));
  const best = last.frames.reduce((a, b) => (playing(b).length > playing(a).length ? b : a));
  return acceptPoints({ ...fresh, instrument: last.instrument }, t, Object.fromEntries(playing(best)) as Record<string, Point>);
}

/** Says of a point that it was hidden and placed by guess, or takes that back. */
export function toggleGuessed(marks: Marks, t: number, name: string): Marks {
  return withFrame(marks, t, (frame) => said(frame, name, frame.guessed?.includes(name) ? undefined : 'guessed'));
}

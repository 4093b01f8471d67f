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
  return { ...marks, frames: kept.sort((a, b) => a.t - b.t) };
}

/** Places a point where it is seen; what was a guess before is one no longer. */
export function placePoint(marks: Marks, t: number, name: string, point: Point): Marks {
  return withFrame(marks, t, (frame) => {
    const { guessed: before, ...rest } = frame;
    const guessed = before?.filter((g) => g !== name);
    return { ...rest, points: { ...frame.points, [name]: [Number(point[0].toFixed(2)), Number(point[1].toFixed(2))] }, ...(guessed?.length ? { guessed } : {}) };
  });
}

export function removePoint(marks: Marks, t: number, name: string): Marks {
  return withFrame(marks, t, (frame) => {
    const { [name]: _, ...points } = frame.points;
    const guessed = frame.guessed?.filter((g) => g !== name);
    return { t: frame.t, points, ...(guessed?.length ? { guessed } : {}) };
  });
}

/** Moves a point a little; one placed by guess stays a guess. */
export function nudgePoint(marks: Marks, t: number, name: string, [dx, dy]: Point): Marks {
  return withFrame(marks, t, (frame) => {
    const before = frame.points[name];
    return before ? { ...frame, points: { ...frame.points, [name]: [Number((before[0] + dx).toFixed(2)), Number((before[1] + dy).toFixed(2))] } } : frame;
  });
}

/** Takes over suggested points; until they are moved they count as placed by guess. */
export function acceptPoints(marks: Marks, t: number, points: Readonly<Record<string, readonly [number, number]>>): Marks {
  return withFrame(marks, t, (frame) => {
    const fresh = Object.entries(points).filter(([name]) => !frame.points[name]);
    return {
      ...frame,
      points: { ...frame.points, ...Object.fromEntries(fresh.map(([name, [x, y]]) => [name, [Number(x.toFixed(2)), Number(y.toFixed(2))] as Point])) },
      guessed: [...(frame.guessed ?? []), ...fresh.map(([name]) => name)],
    };
  });
}

/** Says of a point that it was hidden and placed by guess, or takes that back. */
export function toggleGuessed(marks: Marks, t: number, name: string): Marks {
  return withFrame(marks, t, (frame) => {
    const had = frame.guessed?.includes(name);
    const guessed = had ? frame.guessed!.filter((g) => g !== name) : [...(frame.guessed ?? []), name];
    return { t: frame.t, points: frame.points, ...(guessed.length ? { guessed } : {}) };
  });
}

/** What is missing before a clip can be measured, in words; undefined when nothing is. */
export function missingForMeasure(marks: Marks): string | undefined {
  const best = Math.max(0, ...marks.frames.map((f) => Object.keys(f.points).filter((n) => n.startsWith('instrument.')).length));
  if (best < 4) return `${4 - best} more ${best === 3 ? 'point' : 'points'} of the instrument in one frame`;
  const placed = marks.frames.filter((f) => Object.keys(f.points).filter((n) => n.startsWith('instrument.')).length >= 4);
  if (!placed.some((f) => f.points['bow.frog'] || f.points['bow.tip'])) return 'an end of the bow hair, best the tip, in the frame of the instrument';
  return undefined;
}

import type { Marks } from '../formats/marks';
import { solutionFromMarks } from './marksToSolution';

type Point = readonly [number, number];

/** Points along the instrument, in order from the tail to the scroll. */
const ALONG = ['tailpieceEnd', 'endButton', 'lowerCorner', 'bridge', 'bridgeFoot', 'fingerboardEnd', 'upperCorner', 'nut', 'scroll'];

/**
 * Whether the marks show a left-handed set-up: seen from above the top, the low strings lie to the other side of
 * the way to the scroll. Looks at the sense of rotation from "toward the scroll" to "toward the low side" in the picture.
 */
export function looksLeftHanded(marks: Marks): boolean {
  let sum = 0;
  for (const { points } of marks.frames) {
    const named = Object.entries(points).filter(([name]) => name.startsWith('instrument.')) as [string, Point][];
    const placeOf = (name: string) => ALONG.indexOf(name.split('.')[1]!);
    for (const [name, low] of named) {
      if (!name.endsWith('.low')) continue;
      const high = points[name.replace(/low$/, 'high')];
      if (!high) continue;
      const side: Point = [low[0] - high[0], low[1] - high[1]];
      for (const [a, p] of named) {
        for (const [b, q] of named) {
          if (placeOf(b) - placeOf(a) < 2) continue;
          // x toward the scroll, y toward the low side, picture's y down: a plate that faces the camera turns negatively.
          sum += Math.sign((q[0] - p[0]) * side[1] - (q[1] - p[1]) * side[0]) * Math.hypot(...side) * Math.hypot(q[0] - p[0], q[1] - p[1]);
        }
      }
    }
  }
  return sum > 0;
}

/** Marks as they would stand in the mirrored picture. */
export function mirrorMarks(marks: Marks): Marks {
  const flip = ([x, y]: Point): [number, number] => [marks.video.width - x, y];
  const flipped = (f: Marks['frames'][number]) => ({ ...f, points: Object.fromEntries(Object.entries(f.points).map(([name, p]) => [name, flip(p)])) });
  return {
    ...marks,
    ...(marks.plumb ? { plumb: [flip(marks.plumb[0]), flip(marks.plumb[1])] as [[number, number], [number, number]] } : {}),
    frames: marks.frames.map(flipped),
    ...(marks.agreeing ? { agreeing: marks.agreeing.map(flipped) } : {}),
  };
}

/** So much better (chi squared) an instrument must fit one way round before the look of the marks no longer decides (ours). */
const CLEARLY = 9;

/**
 * Whether to measure in the mirrored picture: as the marks say, else as an instrument fits them better, one way round
 * or the other. Seen nearly along its top the arch of the bridge alone can make it look the wrong way round.
 */
export function isLeftHanded(marks: Marks): boolean {
  if (marks.instrument.side) return marks.instrument.side === 'left';
  const [right, left] = [unlikeliness(marks), unlikeliness(mirrorMarks(marks))];
  if (left === Number.POSITIVE_INFINITY) return false;
  return Math.abs(right - left) > CLEARLY ? left < right : looksLeftHanded(marks);
}

/** Chi squared of the instrument that fits the marks best; infinite where none does. */
function unlikeliness(marks: Marks): number {
  try {
    const { solution, frames, agreeing } = solutionFromMarks(marks);
    const count = [...frames, ...agreeing].reduce((sum, f) => sum + f.sightings.length, 0);
    return count * solution.misfit ** 2 + solution.shape.reduce((sum, s) => sum + s * s, 0);
  } catch {
    return Number.POSITIVE_INFINITY;
  }
}

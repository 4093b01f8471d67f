import type { Marks } from '../formats/marks';

/** What is missing before a clip can be measured, in words; undefined when nothing is. */
export function missingForMeasure(marks: Marks): string | undefined {
  const best = Math.max(0, ...marks.frames.map((f) => Object.keys(f.points).filter((n) => n.startsWith('instrument.')).length));
  if (best < 4) return `${4 - best} more ${best === 3 ? 'point' : 'points'} of the instrument in one frame`;
  const placed = marks.frames.filter((f) => Object.keys(f.points).filter((n) => n.startsWith('instrument.')).length >= 4);
  if (!placed.some((f) => f.points['bow.frog'] || f.points['bow.tip'])) return 'an end of the bow hair, best the tip, in the frame of the instrument';
  return undefined;
}

import type { Stray } from '../crossings/strays';
import { THIRDS, thirdOf } from '../strokes/stroke';

const WHY: Record<Stray['why'], string> = {
  early: 'bow came early',
  late: 'bow left late',
  'too-high': 'arm too high',
  'too-low': 'arm too low',
};

/** Why a stray string sounded, in words. */
export const strayCause = (stray: Stray): string => WHY[stray.why];

/** Stray strings as CSV (RFC 4180), one a row, for bracketing the places in the music. Times in seconds of the film. */
export function straysToCsv(strays: readonly Stray[]): string {
  const place = (s: Stray) => (s.position === undefined ? '' : THIRDS.find((t) => t === thirdOf(s.position!))!);
  const rows = strays.map((s, i) =>
    [i + 1, s.from.toFixed(2), s.to.toFixed(2), s.string, place(s), s.inCrossing ? 'crossing' : 'within a string', strayCause(s), s.confidence.toFixed(2)].join(','),
  );
  return `${['bracket,from_s,to_s,string,place_on_bow,where,why,confidence', ...rows].join('\r\n')}\r\n`;
}

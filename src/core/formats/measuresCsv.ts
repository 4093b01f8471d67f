import { type FrameMeasures, QUANTITIES } from '../measures/measures';

const DIGITS = 4;
const cell = (x: number | undefined) => (x === undefined ? '' : String(Number(x.toFixed(DIGITS))));

/** Measures as CSV (RFC 4180): one row a frame, `NAME` and `NAME_u` a quantity, empty where absent. */
export function measuresToCsv(frames: readonly FrameMeasures[]): string {
  const header = ['frame', 't', ...QUANTITIES.flatMap((q) => [q, `${q}_u`]), 'string'];
  const rows = frames.map((f) => [String(f.frame), cell(f.t), ...QUANTITIES.flatMap((q) => [cell(f.values[q]?.value), cell(f.values[q]?.u)]), f.string ?? ''].join(','));
  return `${[header.join(','), ...rows].join('\r\n')}\r\n`;
}

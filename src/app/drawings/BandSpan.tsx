import { type Band, faultEdges, goodEdges } from '../../core/rubric/band';
import { COLOR } from './tokens';

/** A band on its scale: lit box good, ticks where the fault begins, drops above for what was found in takes. */
export function BandSpan({
  width,
  range,
  band,
  before,
  found,
  label,
}: {
  width: number;
  range: readonly [number, number];
  band: Band;
  /** The band as it was, drawn dashed where it differs. */
  before?: Band | undefined;
  /** Values of findings that rest on this band. */
  found: readonly number[];
  label: string;
}) {
  const X = (v: number) => 8 + ((Math.min(range[1], Math.max(range[0], v)) - range[0]) / (range[1] - range[0])) * (width - 16);
  const [from, to] = goodEdges(band);
  const was = before && goodEdges(before);
  const ticks = faultEdges(band);
  const show = (v: number) => (range[1] - range[0] <= 2.5 ? v.toFixed(2) : String(Math.round(10 * v) / 10).replace('-', '\u2212'));
  return (
    <svg className="h-auto w-full" style={{ maxWidth: width }} viewBox={`0 0 ${width} 46`} role="img" aria-label={label}>
      <line x1={0} x2={width} y1={26} y2={26} stroke={COLOR.ink} />
      {was && (was[0] !== from || was[1] !== to) && (
        <rect x={X(was[0])} width={Math.max(1, X(was[1]) - X(was[0]))} y={19} height={14} fill="none" stroke={COLOR.soft} strokeDasharray="3 3" />
      )}
      <rect x={X(from)} width={Math.max(1, X(to) - X(from))} y={20} height={12} fill={COLOR.lit} stroke={COLOR.edge} />
      {ticks.map((v) => (
        <line key={v} x1={X(v)} x2={X(v)} y1={17} y2={35} stroke={COLOR.ink} strokeWidth={1.6} />
      ))}
      {ticks.map((v) => (
        <text key={v} x={X(v)} y={45} fontSize={12} textAnchor="middle" fill={COLOR.soft}>
          {show(v)}
        </text>
      ))}
      <path d={found.map((v) => drop(X(v))).join(' ')} fill="none" stroke={COLOR.rosin} strokeWidth={1.3} />
    </svg>
  );
}

/** A small drop that points at a place on the line. */
const drop = (x: number): string => `M${x} 6 c1.5 2.7 3.1 4.1 3.1 6.5 a3.1 3.1 0 0 1 -6.2 0 c0 -2.4 1.6 -3.8 3.1 -6.5 Z`;

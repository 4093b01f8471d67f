import type { Measured } from '../../core/measures/measures';
import { Capsule, Ring } from './signs';
import { COLOR, type Sign } from './tokens';

/** Room a number needs, px. */
const ROOM = 24;

/** One number against its band: lit box good, ticks fault edges, ring the value, capsule its doubt; words at the ends. */
export function BandBar({
  width,
  range,
  good,
  fault,
  value,
  before,
  sign,
  ends,
  percent = false,
  label,
}: {
  width: number;
  range: readonly [number, number];
  good: readonly [number, number];
  fault: readonly number[];
  value: Measured;
  /** The number in the last take. */
  before?: number | undefined;
  sign: Sign;
  ends: readonly [string, string, string];
  /** Shares are written in hundredths, as they are beside the bar. */
  percent?: boolean;
  label: string;
}) {
  const X = (v: number) => 6 + ((Math.min(range[1], Math.max(range[0], v)) - range[0]) / (range[1] - range[0])) * (width - 12);
  const show = (v: number) => (percent ? (100 * Math.abs(v)).toFixed(0) : Math.abs(v) < 2 && v !== 0 && !Number.isInteger(v) ? v.toFixed(2) : Math.abs(v).toFixed(0));
  // Two numbers too near each other would run together: the fault's edge is the one to know.
  const ticks = [...new Set([...fault, ...good])].reduce<number[]>((kept, v) => (kept.every((k) => Math.abs(X(k) - X(v)) > ROOM) ? [...kept, v] : kept), []);
  return (
    <svg width={width} height={50} viewBox={`0 0 ${width} 50`} role="img" aria-label={label}>
      <line x1={0} x2={width} y1={23} y2={23} stroke={COLOR.ink} />
      <rect x={X(good[0])} width={X(good[1]) - X(good[0])} y={18} height={10} fill={COLOR.lit} stroke={COLOR.edge} />
      {fault.map((f) => (
        <line key={f} x1={X(f)} x2={X(f)} y1={16} y2={30} stroke={COLOR.ink} strokeWidth={1.4} />
      ))}
      {ticks.map((v) => (
        <text key={v} x={X(v)} y={11} fontSize={12.5} textAnchor="middle" fill={COLOR.soft}>
          {show(v)}
        </text>
      ))}
      <Capsule x={X(value.value)} y={23} half={(2 * value.u * (width - 12)) / (range[1] - range[0])} />
      {before !== undefined && <rect x={X(before) - 4} y={19} width={8} height={8} fill={COLOR.lit} stroke={COLOR.sea} strokeWidth={2} />}
      <Ring x={X(value.value)} y={23} sign={sign} />
      <text x={0} y={46} fontSize={12.5} fill={COLOR.soft}>
        {ends[0]}
      </text>
      <text x={(X(good[0]) + X(good[1])) / 2} y={46} fontSize={12.5} fill={COLOR.soft} textAnchor="middle">
        {ends[1]}
      </text>
      <text x={width} y={46} fontSize={12.5} fill={COLOR.soft} textAnchor="end">
        {ends[2]}
      </text>
    </svg>
  );
}

import type { TrendPoint } from '../../core/progress/trend';
import { Plate } from './Plate';
import { Capsule, Ring, useHatch } from './signs';
import { COLOR, signText } from './tokens';

export interface DatedPoint extends TrendPoint {
  /** Days since the first take shown. */
  readonly day: number;
  readonly label: string;
  /** The number as it is written beside its ring. */
  readonly words: string;
}

/** Room over and under the lines for the words at the ends and the days, px. */
const HEAD = 24;
const FOOT = 24;
/** Room at the left for the words at the ends, px. */
const LEFT = 98;
/** More takes than this have no room for a number each: the first and the last have one. */
const MOST_NUMBERED = 7;

/** A number from take to take: lit what is good, a ring a take on its doubt, time to the right; `ends` say what lies below and above. */
export function TrendLine({
  width,
  height,
  points,
  good,
  ends,
  label,
  onOpen,
}: {
  width: number;
  height: number;
  points: readonly DatedPoint[];
  good: readonly [number, number];
  ends: readonly [string, string];
  label: string;
  onOpen: (i: number) => void;
}) {
  const hatch = useHatch();
  const doubt = (p: DatedPoint) => 2 * Math.hypot(p.shared, p.spread / Math.sqrt(p.strokes));
  const low = Math.min(good[0], ...points.map((p) => p.value - doubt(p)));
  const high = Math.max(good[1], ...points.map((p) => p.value + doubt(p)));
  const pad = 0.12 * (high - low);
  const Y = (v: number) => height - FOOT - ((v - low + pad) / (high - low + 2 * pad)) * (height - FOOT - HEAD);
  const days = Math.max(1, points[points.length - 1]?.day ?? 1);
  const X = (day: number) => LEFT + (day / days) * (width - LEFT - 34);
  // Over the capsule; the first row is left free for it.
  const numberAt = (p: DatedPoint) => Math.max(14, Y(p.value + doubt(p)) - 10);
  return (
    <Plate width={width} height={height} label={label} hatch={hatch}>
      <rect x={0} width={width} y={Y(good[1])} height={Math.max(2, Y(good[0]) - Y(good[1]))} fill={COLOR.lit} />
      <line x1={0} x2={width} y1={Y(good[1])} y2={Y(good[1])} stroke={COLOR.edge} strokeWidth={0.8} strokeDasharray="2 3" />
      <line x1={0} x2={width} y1={Y(good[0])} y2={Y(good[0])} stroke={COLOR.edge} strokeWidth={0.8} strokeDasharray="2 3" />
      {points.length > 1 && <path d={`M${points.map((p) => `${X(p.day).toFixed(1)} ${Y(p.value).toFixed(1)}`).join(' L')}`} fill="none" stroke={COLOR.ink} strokeWidth={1.4} />}
      {ends.map((word, i) => (
        <text key={word} x={8} y={i === 0 ? height - 7 : 16} fontSize={12.5} fill={COLOR.soft}>
          {word}
        </text>
      ))}
      {points.map((p, i) => {
        const outside = p.value < good[0] || p.value > good[1];
        return (
          <g key={`${p.day} ${i}`} onClick={() => onOpen(i)} className="cursor-pointer">
            <Capsule x={X(p.day)} y={Y(p.value)} half={Y(p.value - doubt(p)) - Y(p.value)} angle={90} thick={11} />
            <Ring x={X(p.day)} y={Y(p.value)} sign={outside ? 'found' : 'within'} />
            <text x={X(p.day)} y={height - 7} fontSize={12.5} textAnchor="middle" fill={COLOR.soft}>
              {p.label}
            </text>
            {(points.length <= MOST_NUMBERED || i === 0 || i === points.length - 1) && (
              <text
                x={X(p.day)}
                y={numberAt(p)}
                fontSize={12.5}
                fontWeight={600}
                textAnchor="middle"
                fill={signText(outside ? 'found' : 'within')}
                stroke={outside ? COLOR.spruce : COLOR.lit}
                strokeWidth={3}
                paintOrder="stroke"
              >
                {p.words}
              </text>
            )}
          </g>
        );
      })}
    </Plate>
  );
}

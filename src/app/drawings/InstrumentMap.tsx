import { halfOutline } from '../../core/instrument/outline';
import { COLOR } from './tokens';

/** Places of the named points on the map, in mm of a full-size violin (u to the scroll, y to the low side). */
const PLACES: Record<string, readonly [number, number]> = {
  'instrument.nut.low': [326, 12],
  'instrument.nut.high': [326, -12],
  'instrument.fingerboardEnd.low': [58, 21],
  'instrument.fingerboardEnd.high': [58, -21],
  'instrument.bridge.low': [0, 17],
  'instrument.bridge.high': [0, -17],
  'instrument.bridgeFoot.low': [0, 24],
  'instrument.bridgeFoot.high': [0, -24],
  'instrument.scroll': [432, 0],
  'instrument.endButton': [-168, 0],
  'instrument.tailpieceEnd': [-150, 0],
  'instrument.upperCorner.low': [73, 80],
  'instrument.upperCorner.high': [73, -80],
  'instrument.lowerCorner.low': [-9, 94],
  'instrument.lowerCorner.high': [-9, -94],
  'bow.frog': [30, -190],
  'bow.tip': [44, 190],
};

/** A line drawing of the instrument that shows which point is asked for and which are marked. */
export function InstrumentMap({
  width,
  height,
  marked,
  asked,
  flipped,
}: {
  width: number;
  height: number;
  marked: ReadonlySet<string>;
  asked: string | undefined;
  flipped: boolean;
}) {
  const k = width / 660;
  const X = (u: number) => (u + 190) * k;
  const Y = (y: number) => height / 2 - (flipped ? -1 : 1) * y * k * 0.94;
  const outline = halfOutline(8);
  const path = `M${[...outline.map(([u, w]) => `${X(u)} ${Y(w)}`), ...[...outline].reverse().map(([u, w]) => `${X(u)} ${Y(-w)}`)].join(' L')} Z`;
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      className="h-auto max-w-full"
      role="img"
      aria-label={asked ? `Asked now: ${asked.replaceAll('.', ' ')}` : 'All points are marked'}
    >
      <rect x={0.5} y={0.5} width={width - 1} height={height - 1} rx={5} fill={COLOR.sheet} stroke={COLOR.rule} />
      <g fill="none" stroke={COLOR.ink} strokeWidth={1.4}>
        <path d={path} />
        {[1, -1].map((s) => (
          <path key={s} d={`M${X(32)} ${Y(s * 26)} C${X(20)} ${Y(s * 46)} ${X(-10)} ${Y(s * 34)} ${X(-36)} ${Y(s * 62)}`} strokeWidth={1} />
        ))}
        <path d={`M${X(58)} ${Y(21)} L${X(326)} ${Y(12)} V${Y(-12)} L${X(58)} ${Y(-21)} Z`} />
        <path
          d={`M${X(326)} ${Y(11)} L${X(400)} ${Y(7)} C${X(425)} ${Y(14)} ${X(436)} ${Y(8)} ${X(432)} ${Y(0)} C${X(436)} ${Y(-8)} ${X(425)} ${Y(-14)} ${X(400)} ${Y(-7)} L${X(326)} ${Y(-11)}`}
        />
        <path d={`M${X(0)} ${Y(18)} V${Y(-18)}`} strokeWidth={3} />
        <path d={`M${X(-52)} ${Y(19)} L${X(-150)} ${Y(10)} V${Y(-10)} L${X(-52)} ${Y(-19)} Z`} strokeWidth={1} />
        {[17, 5.7, -5.7, -17].map((y, i) => (
          <path key={y} d={`M${X(-52)} ${Y(y)} L${X(0)} ${Y(y)} L${X(326)} ${Y(y * 0.49)}`} strokeWidth={[1.5, 1.2, 0.9, 0.6][i]} />
        ))}
      </g>
      <path d={`M${X(30)} ${Y(-190)} L${X(44)} ${Y(190)}`} stroke={COLOR.stick} strokeWidth={2.6} />
      <text x={X(-120)} y={flipped ? height - 14 : 22} fontSize={12.5} fill={COLOR.soft}>
        low side
      </text>
      <text x={X(-120)} y={flipped ? 22 : height - 14} fontSize={12.5} fill={COLOR.soft}>
        high side
      </text>
      <text x={width - 10} y={Y(42)} fontSize={12.5} fill={COLOR.soft} textAnchor="end">
        to the scroll
      </text>
      {Object.entries(PLACES).map(([name, [u, y]]) => {
        if (name === asked) {
          return (
            <g key={name}>
              <circle cx={X(u)} cy={Y(y)} r={13} fill={COLOR.rosinTint} opacity={0.7} />
              <circle cx={X(u)} cy={Y(y)} r={6} fill={COLOR.sheet} stroke={COLOR.rosin} strokeWidth={2.6} />
            </g>
          );
        }
        return marked.has(name) ? <circle key={name} cx={X(u)} cy={Y(y)} r={4.4} fill={COLOR.ink} /> : null;
      })}
    </svg>
  );
}

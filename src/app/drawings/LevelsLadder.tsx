import type { StringLevels } from '../../core/instrument/strings';
import type { LevelTable } from '../../core/levels/levelTable';
import { Plate } from './Plate';
import { useHatch } from './signs';
import { COLOR, STRING_WEIGHT } from './tokens';

export interface LevelsLadderProps {
  readonly width: number;
  readonly height: number;
  readonly table: LevelTable;
  readonly natural: StringLevels;
  readonly strings: readonly string[];
  readonly label: string;
}

/** Levels as rungs, the lowest string on top: left the bow on the instrument's own levels, right the upper arm. Rungs close together are levels that are not told apart. */
export function LevelsLadder({ width, height, table, natural, strings, label }: LevelsLadderProps) {
  const hatch = useHatch();
  const own = natural.natural;
  const Y = scale([own[own.length - 1]!, own[0]!], height);
  const arms = table.levels.flatMap((l) => (l.arm ? [l.arm.value] : []));
  const middle = arms.length > 0 ? (Math.max(...arms) + Math.min(...arms)) / 2 : 0;
  const span = (own[0]! - own[own.length - 1]!) / 2;
  // The same degrees a pixel on both sides: an arm that goes with the bow makes the same ladder.
  const armY = (v: number) => Y((own[0]! + own[own.length - 1]!) / 2 + Math.max(-1.2 * span, Math.min(1.2 * span, v - middle)));
  const [bowX, armX, reach] = [width * 0.36, width * 0.76, width * 0.14];
  return (
    <Plate width={width} height={height} label={label} hatch={hatch}>
      <text x={bowX} y={14} fontSize={12.5} textAnchor="middle" fill={COLOR.soft}>
        bow
      </text>
      <text x={armX} y={14} fontSize={12.5} textAnchor="middle" fill={COLOR.soft}>
        upper arm
      </text>
      {own.map((v, i) => (
        <g key={strings[i]}>
          <line x1={bowX - reach - 4} x2={bowX + reach + 4} y1={Y(v)} y2={Y(v)} stroke={COLOR.lit} strokeWidth={9} />
          <line x1={bowX - reach - 4} x2={bowX + reach + 4} y1={Y(v)} y2={Y(v)} stroke={COLOR.edge} strokeWidth={0.8} strokeDasharray="2 3" />
        </g>
      ))}
      {table.levels.map((level) => {
        const weight = STRING_WEIGHT[level.string] ?? 1.7;
        const y = Y(level.bow.value);
        return (
          <g key={level.string}>
            <circle cx={16} cy={y} r={8.5} fill={COLOR.ink} />
            <text x={16} y={y + 4.4} fontSize={12.5} fontWeight={700} textAnchor="middle" fill="#fff">
              {level.string}
            </text>
            <Spread x={bowX} y={y} half={(level.bowSpread ?? 0) * pixels(Y)} />
            <line x1={bowX - reach} x2={bowX + reach} y1={y} y2={y} stroke={COLOR.ink} strokeWidth={weight + 0.6} strokeLinecap="round" />
            {level.arm && (
              <>
                <line x1={bowX + reach + 3} x2={armX - reach - 3} y1={y} y2={armY(level.arm.value)} stroke={COLOR.edge} strokeWidth={0.8} />
                <Spread x={armX} y={armY(level.arm.value)} half={(level.armSpread ?? 0) * pixels(Y)} />
                <line
                  x1={armX - reach}
                  x2={armX + reach}
                  y1={armY(level.arm.value)}
                  y2={armY(level.arm.value)}
                  stroke={COLOR.ink}
                  strokeWidth={weight + 0.6}
                  strokeLinecap="round"
                />
              </>
            )}
          </g>
        );
      })}
      {arms.length === 0 && <rect x={armX - reach} width={2 * reach} y={26} height={height - 40} fill={`url(#${hatch})`} />}
    </Plate>
  );
}

const scale = ([low, high]: readonly [number, number], height: number) => {
  const [top, bottom] = [32, height - 16];
  return (v: number) => bottom - ((v - low) / (high - low)) * (bottom - top);
};
const pixels = (Y: (v: number) => number) => Math.abs(Y(1) - Y(0));

/** How far the strokes on a string differ: a soft band about the rung, one sigma to either side. */
function Spread({ x, y, half }: { x: number; y: number; half: number }) {
  return half > 1 ? <rect x={x - 5} width={10} y={y - half} height={2 * half} rx={5} fill={COLOR.ink} opacity={0.25} /> : null;
}

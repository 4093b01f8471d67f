import type { Crossing } from '../../core/crossings/crossings';
import type { Measured } from '../../core/measures/measures';
import { Plate } from './Plate';
import { useHatch } from './signs';
import { COLOR } from './tokens';

export interface CrossingSeamsProps {
  readonly width: number;
  readonly height: number;
  readonly crossings: readonly Crossing[];
  /** The arm's lag over the clip, seconds: stands where no single crossing tells the elbow. */
  readonly lag: Measured | undefined;
  /** Beyond so many seconds note or arm are apart from the bow. */
  readonly apart: number;
  readonly now: number;
  readonly onSeek: (t: number) => void;
  readonly label: string;
}

const ROWS = ['bow', 'note', 'arm'] as const;
const LEFT = 36;
const TOP = 22;
/** Most that is drawn, seconds: further out a stitch stays at the edge. */
const REACH = 0.25;
const LEAST_COLUMN = 27;

/** Every crossing as three stitches, bow, note and arm: a straight seam is together, a broken one early (left) or late (right). */
export function CrossingSeams({ width, height, crossings, lag, apart, now, onSeek, label }: CrossingSeamsProps) {
  const hatch = useHatch();
  const room = Math.max(1, Math.floor((width - LEFT - 6) / LEAST_COLUMN));
  const current = nearest(crossings, now);
  const first = Math.max(0, Math.min(current - Math.floor(room / 2), crossings.length - room));
  const shown = crossings.slice(first, first + room);
  const column = Math.min(48, (width - LEFT - 6) / Math.max(1, shown.length));
  const stitch = (height - TOP - 20) / 3;
  const dx = (seconds: number) => (Math.max(-REACH, Math.min(REACH, seconds)) / REACH) * (column / 2 - 3);
  return (
    <Plate width={width} height={height} label={label} hatch={hatch}>
      {ROWS.map((name, i) => (
        <text key={name} x={LEFT - 7} y={TOP + (i + 0.5) * stitch + 4} fontSize={12.5} textAnchor="end" fill={COLOR.soft}>
          {name}
        </text>
      ))}
      {shown.map((crossing, k) => {
        const x = LEFT + (k + 0.5) * column;
        const clocks: readonly (Stitch | undefined)[] = [
          { at: 0, sure: true },
          crossing.tNote === undefined ? undefined : { at: crossing.tNote - crossing.tBow, sure: true },
          crossing.tElbow ? { at: crossing.tElbow.value - crossing.tBow, sure: true } : lag ? { at: lag.value, sure: false } : undefined,
        ];
        const worst = clocks.reduce((most, c) => (c && Math.abs(c.at) > Math.abs(most) ? c.at : most), 0);
        return (
          <g key={crossing.tBow} onClick={() => onSeek(crossing.tBow)} className="cursor-pointer">
            <rect x={x - column / 2 + 1} width={column - 2} y={3} height={height - 6} rx={3} fill={first + k === current ? COLOR.lit : 'transparent'} />
            <text x={x} y={15} fontSize={12.5} fontWeight={700} textAnchor="middle" fill={COLOR.ink}>
              {crossing.leaves}
              {crossing.reaches}
            </text>
            <rect x={x - dx(apart)} width={2 * dx(apart)} y={TOP} height={3 * stitch} fill={COLOR.edge} opacity={0.14} />
            {clocks.map((clock, row) => {
              const y = TOP + row * stitch;
              if (!clock) return <rect key={ROWS[row]} x={x - 5} width={10} y={y + 5} height={stitch - 10} fill={`url(#${hatch})`} />;
              const out = Math.abs(clock.at) > apart;
              return (
                <g key={ROWS[row]} stroke={out ? COLOR.rosin : COLOR.ink} opacity={clock.sure ? 1 : 0.65}>
                  <line
                    x1={x + dx(clock.at)}
                    x2={x + dx(clock.at)}
                    y1={y + 3}
                    y2={y + stitch - 3}
                    strokeWidth={out ? 3.4 : 2.6}
                    strokeDasharray={clock.sure ? undefined : '4 3'}
                    strokeLinecap="round"
                  />
                  {row > 0 && clocks[row - 1] && <line x1={x + dx(clocks[row - 1]!.at)} x2={x + dx(clock.at)} y1={y - 2} y2={y + 2} strokeWidth={1} />}
                </g>
              );
            })}
            {Math.abs(worst) > apart && (
              <text x={x} y={height - 6} fontSize={12.5} fontWeight={700} textAnchor="middle" fill={COLOR.rosinInk}>
                {Math.abs(1000 * worst).toFixed(0)}
              </text>
            )}
          </g>
        );
      })}
      {crossings.length === 0 && (
        <text x={width / 2} y={height / 2 + 4} fontSize={12.5} textAnchor="middle" fill={COLOR.soft}>
          one string only
        </text>
      )}
    </Plate>
  );
}

interface Stitch {
  readonly at: number;
  /** Told by this crossing itself, not by the clip as a whole. */
  readonly sure: boolean;
}

const nearest = (crossings: readonly Crossing[], t: number): number => crossings.reduce((best, c, i) => (Math.abs(c.tBow - t) < Math.abs(crossings[best]!.tBow - t) ? i : best), 0);

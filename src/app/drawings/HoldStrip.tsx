import type { Hold, HoldKind } from '../../core/body/holds';
import { COLOR } from './tokens';

const HEIGHT = 24;
/** Where each way of holding lies: under the arm below, at the shoulder above. */
const LEVEL: Readonly<Record<HoldKind, number>> = { rest: 19, playing: 8, 'hands-free': 8 };
/** A label needs so many px. */
const ROOM = 26;

const HOLD_WORDS: Readonly<Record<HoldKind, string>> = { rest: 'rest position', playing: 'playing position', 'hands-free': 'without the left hand' };

const seconds = ({ from, to }: Hold): string => `${(to - from).toFixed(1)} s`;

/** How the instrument was held through a take: a line under the arm or at the shoulder, open where it is held without the left hand, which is timed. A click seeks. */
export function HoldStrip({ width, duration, holds, now, onSeek }: { width: number; duration: number; holds: readonly Hold[]; now: number; onSeek: (t: number) => void }) {
  const x = (t: number) => 3 + ((width - 6) * t) / duration;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a fieldset cannot be a drawing.
    <svg width={width} height={HEIGHT} viewBox={`0 0 ${width} ${HEIGHT}`} role="group" aria-label="How the instrument was held">
      <line x1={3} x2={width - 3} y1={HEIGHT - 1.5} y2={HEIGHT - 1.5} stroke={COLOR.rule} />
      {holds.map((hold, k) => {
        const [a, b, y] = [x(hold.from), x(hold.to), LEVEL[hold.kind]];
        const before = holds[k - 1];
        const free = hold.kind === 'hands-free';
        return (
          // biome-ignore lint/a11y/useSemanticElements: a button cannot stand in a drawing.
          <g
            key={hold.from}
            role="button"
            tabIndex={0}
            aria-label={`${HOLD_WORDS[hold.kind]}, ${seconds(hold)} from ${hold.from.toFixed(1)} s`}
            className="cursor-pointer"
            onClick={() => onSeek(hold.from)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter' && e.key !== ' ') return;
              e.preventDefault();
              onSeek(hold.from);
            }}
          >
            <rect x={a} y={0} width={Math.max(1, b - a)} height={HEIGHT} fill="transparent" />
            {before && <line x1={x(before.to)} y1={LEVEL[before.kind]} x2={a} y2={y} stroke={COLOR.ink} strokeDasharray="1.5 2.5" />}
            {free ? (
              <rect x={a} y={y - 6} width={Math.max(2, b - a)} height={12} rx={6} fill={COLOR.lit} stroke={COLOR.ink} />
            ) : (
              <line x1={a} x2={b} y1={y} y2={y} stroke={COLOR.ink} strokeWidth={hold.kind === 'playing' ? 4 : 2} strokeLinecap="round" />
            )}
            {free && b - a > ROOM && (
              <text x={(a + b) / 2} y={y + 3.5} textAnchor="middle" fontSize={10} fill={COLOR.ink}>
                {seconds(hold)}
              </text>
            )}
          </g>
        );
      })}
      <line x1={x(now)} x2={x(now)} y1={1} y2={HEIGHT - 1} stroke={COLOR.sea} />
    </svg>
  );
}

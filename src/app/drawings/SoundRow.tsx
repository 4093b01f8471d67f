import type { Stray } from '../../core/crossings/strays';
import { COLOR, STRING_WEIGHT } from './tokens';

/** A note to be drawn: seconds of the film, and its string's letter. */
export interface DrawnNote {
  readonly from: number;
  readonly to: number;
  readonly string: string;
}

export interface SoundRowProps {
  readonly notes: readonly DrawnNote[];
  readonly strays: readonly Stray[];
}

const MIDDLE = 8;

/** What was heard, above the sails: a thread a note, as thick as its string, with its letter; stray strings in brackets. */
export function SoundRow({ notes, strays, left, T }: SoundRowProps & { left: number; T: (t: number) => number }) {
  return (
    <g aria-hidden>
      <text x={left - 12} y={MIDDLE + 4} fontSize={12.5} textAnchor="end" fill={COLOR.soft}>
        heard
      </text>
      {notes.map((note, i) => {
        const [x0, x1] = [T(note.from), T(note.to)];
        const lettered = x1 - x0 > 22 && notes[i - 1]?.string !== note.string;
        const start = x0 + (lettered ? 12 : 1.5);
        return (
          <g key={note.from}>
            {lettered && (
              <text x={x0} y={MIDDLE + 4.4} fontSize={12.5} fontWeight={700} fill={COLOR.ink}>
                {note.string}
              </text>
            )}
            {x1 - start > 2 && <line x1={start} x2={x1 - 1.5} y1={MIDDLE} y2={MIDDLE} stroke={COLOR.ink} strokeOpacity={0.75} strokeWidth={STRING_WEIGHT[note.string] ?? 1.7} />}
          </g>
        );
      })}
      {strays.map((stray) => {
        const [x0, x1] = [T(stray.from), Math.max(T(stray.to), T(stray.from) + 6)];
        return (
          <g key={`${stray.from}-${stray.string}`} fill="none" stroke={COLOR.rosin} strokeWidth={2}>
            <rect x={x0 - 3} y={MIDDLE - 7} width={x1 - x0 + 6} height={14} fill={COLOR.rosinTint} fillOpacity={0.6} stroke="none" />
            <path d={`M${x0} ${MIDDLE - 7} H${x0 - 3} V${MIDDLE + 7} H${x0}`} />
            <path d={`M${x1} ${MIDDLE - 7} H${x1 + 3} V${MIDDLE + 7} H${x1}`} />
            {x1 - x0 > 8 && (
              <text x={(x0 + x1) / 2} y={MIDDLE + 4.4} fontSize={12.5} fontWeight={700} textAnchor="middle" fill={COLOR.rosinInk} stroke="none">
                {stray.string}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}

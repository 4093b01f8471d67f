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
/** Room a letter takes, and a bracket takes beyond its stray string, px. */
const LETTER = 12;
const BRACKET = 3;
/** A thread ends so far before the next, px. */
const GAP = 1.5;
/** A note shorter than this bears no letter, px. */
const LEAST_LETTERED = 22;

type Span = readonly [from: number, to: number];

/** Where the letter of a note that sounds from x0 to x1 stands: at its beginning, or after the strays, in order of time, that are bracketed there; undefined where there is no room. */
function letterPlace(x0: number, x1: number, strays: readonly Span[]): number | undefined {
  const place = strays.reduce((x, [from, to]) => (from - BRACKET < x + LETTER && to + BRACKET > x ? to + 2 * BRACKET : x), x0);
  return x1 - place > LEAST_LETTERED ? place : undefined;
}

/** What was heard, above the sails: a thread a note, as thick as its string, with its letter; stray strings in brackets. */
export function SoundRow({ notes, strays, left, T }: SoundRowProps & { left: number; T: (t: number) => number }) {
  const spans = strays.map((stray): Span => [T(stray.from), Math.max(T(stray.to), T(stray.from) + 6)]);
  return (
    <g aria-hidden>
      <text x={left - 12} y={MIDDLE + 4} fontSize={12.5} textAnchor="end" fill={COLOR.soft}>
        heard
      </text>
      {notes.map((note, i) => {
        const [x0, x1] = [T(note.from), T(note.to)];
        const letter = notes[i - 1]?.string !== note.string ? letterPlace(x0, x1, spans) : undefined;
        const all: readonly Span[] =
          letter === undefined
            ? [[x0, x1]]
            : [
                [x0, letter],
                [letter + LETTER - GAP, x1],
              ];
        const threads = all.filter(([a, b]) => b - a > 2 * GAP + 2);
        return (
          <g key={note.from}>
            {letter !== undefined && (
              <text x={letter} y={MIDDLE + 4.4} fontSize={12.5} fontWeight={700} fill={COLOR.ink}>
                {note.string}
              </text>
            )}
            {threads.map(([a, b]) => (
              <line key={a} x1={a + GAP} x2={b - GAP} y1={MIDDLE} y2={MIDDLE} stroke={COLOR.ink} strokeOpacity={0.75} strokeWidth={STRING_WEIGHT[note.string] ?? 1.7} />
            ))}
          </g>
        );
      })}
      {strays.map((stray, i) => {
        const [x0, x1] = spans[i]!;
        return (
          <g key={`${stray.from}-${stray.string}`} fill="none" stroke={COLOR.rosin} strokeWidth={2}>
            <rect x={x0 - BRACKET} y={MIDDLE - 7} width={x1 - x0 + 2 * BRACKET} height={14} fill={COLOR.rosinTint} fillOpacity={0.6} stroke="none" />
            <path d={`M${x0} ${MIDDLE - 7} H${x0 - BRACKET} V${MIDDLE + 7} H${x0}`} />
            <path d={`M${x1} ${MIDDLE - 7} H${x1 + BRACKET} V${MIDDLE + 7} H${x1}`} />
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

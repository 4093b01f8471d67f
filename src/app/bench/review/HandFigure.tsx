import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import type { FrameMeasures } from '../../../core/measures/measures';
import { goodEdges } from '../../../core/rubric/band';
import type { Bands } from '../../../core/rubric/rubric';
import type { Stroke } from '../../../core/strokes/stroke';
import type { TakeMeasures } from '../../../core/take/analyse';
import { type Bend, DIGITS, type Digit, FingerBends, HandPlate } from '../../drawings/HandPlate';
import type { Sign } from '../../drawings/tokens';
import { degrees } from '../../drawings/words';
import type { OpenFilm } from '../../film/useFilm';
import { HandStrip } from './HandStrip';
import { bendOf, handSceneOf, handSquares } from './handScene';

export type HandView = 'film' | 'bends';

/** Usual bends of the middle joints along the bow, degrees (ours): no school asks for a band there. */
const USUAL: readonly [number, number] = [25, 90];
/** Quantities that are about a digit. */
const ABOUT: Readonly<Record<Digit, readonly string[]>> = {
  thumb: ['thumb_ip_deg', 'hand_opening'],
  index: ['gap_index_middle'],
  middle: ['middle_crossing'],
  ring: [],
  little: ['little_pip_deg', 'little_to_stick'],
};

/** The bow hand: plate along and across the stick, and beneath it the hand in the film at frog, middle and tip, or its bends. */
export function HandFigure({
  take,
  film,
  index,
  stroke,
  width,
  view,
  bands,
  signOf,
  placed,
  onSeek,
}: {
  take: TakeMeasures;
  film: OpenFilm;
  index: number;
  stroke: Stroke | undefined;
  width: number;
  view: HandView;
  bands: Bands;
  signOf: (quantities: readonly string[]) => Sign;
  /** Whether the teacher has placed the hand in some frame already. */
  placed: boolean;
  onSeek: (t: number) => void;
}) {
  const scene = useMemo(() => handSceneOf(take, index), [take, index]);
  const squares = useMemo(() => handSquares(take, stroke), [take, stroke]);
  const frame = take.frames[index]!;
  const signs = Object.fromEntries(DIGITS.map((d) => [d, signOf(ABOUT[d])])) as Record<Digit, Sign>;
  const bends = DIGITS.map((digit): Bend => {
    const good = digit === 'thumb' ? goodEdges(bands.thumbBend) : digit === 'little' ? goodEdges(bands.littleBend) : USUAL;
    return { digit, value: bendOf(frame, digit), good, sign: signs[digit] };
  });
  const height = Math.round(width * 0.42);
  return (
    <figure>
      <HandPlate width={width} height={height} scene={scene} signs={signs} label={handWords(frame)} />
      <div className="mt-1">
        {view === 'film' ? (
          <HandStrip film={film} take={take} squares={squares} width={width} onSeek={onSeek} />
        ) : (
          <FingerBends width={width} height={66} bends={bends} label={handWords(frame)} />
        )}
      </div>
      <figcaption className="mt-1 truncate text-label">
        <HandCaption frame={frame} placed={placed} />
      </figcaption>
    </figure>
  );
}

function HandCaption({ frame, placed }: { frame: FrameMeasures; placed: boolean }) {
  const { id } = useParams();
  const told = DIGITS.filter((d) => bendOf(frame, d) !== undefined);
  if (told.length === 0) return <span className="text-soft">The hand cannot be judged here</span>;
  const first = told.includes('thumb') ? 'thumb' : told[0]!;
  const missing = DIGITS.filter((d) => !told.includes(d));
  const place = (
    <Link to={`/takes/${id}/prepare?mark=hand&t=${frame.t.toFixed(3)}`} className="text-sea underline">
      place
    </Link>
  );
  return (
    <>
      <b className="font-semibold">
        {`${first[0]!.toUpperCase()}${first.slice(1)}`} bent {degrees(bendOf(frame, first)!)}
      </b>{' '}
      {missing.length > 0 && (
        <span className="text-soft">
          {placed ? (
            `not from this side: ${missing.join(', ')}`
          ) : (
            <>
              {missing.join(', ')}: {place}
            </>
          )}
        </span>
      )}
    </>
  );
}

function handWords(frame: FrameMeasures): string {
  const told = DIGITS.flatMap((d) => {
    const bend = bendOf(frame, d);
    return bend === undefined ? [] : [`${d} bent ${bend.toFixed(0)} degrees`];
  });
  return told.length > 0 ? `The bow hand along the stick and across it: ${told.join('; ')}` : 'The bow hand cannot be judged here';
}

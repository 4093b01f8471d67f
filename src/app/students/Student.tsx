import { differenceInCalendarDays, format, parseISO } from 'date-fns';
import { ChevronLeft } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { changeOf, TREND_KINDS, TRENDS, type Trend, trendPoint } from '../../core/progress/trend';
import { bandsFor } from '../../core/rubric/rubric';
import type { StudentRecord, TakeRecord } from '../../store/records';
import { type MeasuredTake, stageIn } from '../../store/takes';
import { TakeEntry } from '../desk/TakeEntry';
import { type DatedPoint, TrendLine } from '../drawings/TrendLine';
import { degrees, plusMinus, skewInWords } from '../drawings/words';
import { useRubricOf } from '../judged';
import { useStudent, useStudentMeasures, useTakes } from '../queries';
import { StudentDialog } from './StudentDialog';

/** One student: the takes, and how each number went from take to take. */
export function Student() {
  const { id = '' } = useParams();
  const student = useStudent(id);
  const takes = useTakes();
  const measured = useStudentMeasures(id);
  const rubric = useRubricOf(student.data ?? undefined);
  const [asking, setAsking] = useState(false);
  if (!student.isSuccess || !takes.isSuccess || !measured.isSuccess) return <p className="p-10 text-center">Opening…</p>;
  if (!student.data) {
    return (
      <main className="grid min-h-screen place-content-center text-center">
        <h1 className="text-name font-bold">This student is not here.</h1>
        <Link to="/" className="text-sea underline">
          Back to the desk
        </Link>
      </main>
    );
  }
  const own = takes.data.filter((t) => t.student.id === id);
  return (
    <div className="mx-auto min-h-screen max-w-[1280px] px-5 pb-10">
      <header className="flex h-11 items-center gap-3">
        <Link to="/" className="inline-flex items-center gap-1 font-semibold">
          <ChevronLeft size={18} /> Desk
        </Link>
        <span className="h-5 border-l border-rule" />
        <span className="text-label text-soft">{student.data.place}</span>
      </header>
      <main>
        <h1 className="mt-2 text-desk font-bold">{student.data.name}</h1>
        <p className="text-soft">
          {student.data.family} {student.data.size}, playing since {format(parseISO(student.data.startedOn), 'MMMM yyyy')}
          {student.data.side === 'left' ? ', left-handed' : ''}, judged by {rubric.name}.{' '}
          <button type="button" className="font-semibold text-sea underline" onClick={() => setAsking(true)}>
            Change
          </button>
        </p>
        {asking && <StudentDialog student={student.data} onClose={() => setAsking(false)} />}
        <Trends student={student.data} takes={measured.data} />
        <h2 className="mt-8 mb-3 text-name font-bold">Takes</h2>
        {own.length === 0 ? (
          <p className="text-soft">No take yet. Drop a clip on the desk.</p>
        ) : (
          <ul className="grid grid-cols-1 gap-x-8 gap-y-6 md:grid-cols-2 xl:grid-cols-3">
            {own.map((entry) => (
              <TakeEntry key={entry.take.id} entry={entry} alone />
            ))}
          </ul>
        )}
      </main>
    </div>
  );
}

function Trends({ student, takes }: { student: StudentRecord; takes: readonly MeasuredTake[] }) {
  const newest = takes.at(-1);
  const bands = bandsFor(useRubricOf(student), newest ? stageIn({ take: newest.take, student }) : 'later');
  // Only takes of one task compare: what the last one played.
  const task = (take: TakeRecord) => take.task ?? 'ordinary';
  const alike = takes.filter(({ take }) => task(take) === task(takes[takes.length - 1]!.take));
  const shown = TRENDS.flatMap((trend) => {
    const good = TREND_KINDS[trend].good(bands);
    return good && alike.some(({ record }) => trendPoint(record.measures, trend)) ? [{ trend, good }] : [];
  });
  if (shown.length === 0) return <p className="mt-6 text-soft">Once a take with three bows or more is measured, its numbers are followed here.</p>;
  return (
    <section className="mt-6" aria-label="From take to take">
      <h2 className="mb-3 text-name font-bold">From take to take</h2>
      <div className="grid grid-cols-1 gap-x-8 gap-y-5 md:grid-cols-2 xl:grid-cols-3">
        {shown.map(({ trend, good }) => (
          <TrendFigure key={trend} trend={trend} takes={alike} good={good} />
        ))}
      </div>
    </section>
  );
}

function TrendFigure({ trend, takes, good }: { trend: Trend; takes: readonly MeasuredTake[]; good: readonly [number, number] }) {
  const navigate = useNavigate();
  const kind = TREND_KINDS[trend];
  const first = takes[0]!.take.filmedOn;
  const digits = kind.unit === 'deg' ? 0 : 2;
  const unit = kind.unit === 'deg' ? '°' : '';
  const dated = takes.flatMap(({ take, record }): (DatedPoint & { id: string })[] => {
    const point = trendPoint(record.measures, trend);
    if (!point) return [];
    const day = parseISO(take.filmedOn);
    return [
      {
        ...point,
        id: take.id,
        day: differenceInCalendarDays(day, parseISO(first)),
        label: format(day, 'd MMM'),
        words: `${Math.abs(point.value).toFixed(digits)}${unit}`,
      },
    ];
  });
  const [before, last] = [dated[dated.length - 2], dated[dated.length - 1]!];
  const change = before && changeOf(before, last, good);
  const value = IN_WORDS[trend]?.(last.value) ?? `${last.value.toFixed(digits)}${unit}`;
  const words = change
    ? change.verdict === 'same'
      ? 'no change beyond the measuring error'
      : `${change.verdict} by ${Math.abs(change.by).toFixed(digits)}${unit} ${plusMinus(change.u, digits)}`
    : 'one take so far';
  return (
    <figure>
      <TrendLine
        width={392}
        height={136}
        points={dated}
        good={good}
        ends={ENDS[trend]}
        label={`${kind.title}: ${value} in the last take, ${words}`}
        onOpen={(i) => void navigate(`/takes/${dated[i]!.id}`)}
      />
      <figcaption className="mt-1 text-label">
        <b className="font-semibold">
          {kind.title}: {value}
        </b>{' '}
        <span className="text-soft">{words}</span>
      </figcaption>
    </figure>
  );
}

/** What lies below and above on a trend. */
const ENDS: Record<Trend, readonly [string, string]> = {
  skew_at_tip: ['to player', 'to scroll'],
  contact_fraction: ['bridge', 'fingerboard'],
  contact_range: ['keeps', 'wanders'],
  instrument_swing_deg: ['still', 'swings'],
  instrument_pitch_deg: ['hangs', 'up'],
  instrument_heading_deg: ['ahead', 'to the left'],
  head_tilt_deg: ['upright', 'laid down'],
  elbow_at_middle: ['bent', 'straight'],
  arm_bow_gap_deg: ['below bow', 'above bow'],
  level_range_deg: ['even', 'uneven'],
  level_hold_deg: ['keeps', 'leaves it'],
};

/** Directions in words, never as a sign. */
const IN_WORDS: Partial<Record<Trend, (value: number) => string>> = {
  skew_at_tip: (v) => skewInWords(v).toLowerCase(),
  arm_bow_gap_deg: (v) => (Math.abs(v) < 1 ? 'with it' : `${degrees(v)} ${v > 0 ? 'above' : 'below'}`),
};

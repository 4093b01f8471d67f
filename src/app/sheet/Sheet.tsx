import { addDays, format } from 'date-fns';
import { ChevronLeft } from 'lucide-react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { rowOf } from '../../core/findings/faults';
import type { Finding } from '../../core/findings/finding';
import { nearestIndex } from '../../core/nearestIndex';
import type { Exercise } from '../../core/practice/exercise';
import { familyWords } from '../../core/practice/familyWords';
import { MINUTES_A_DAY, type PlannedDay, type WeekPlan, weekPlan } from '../../core/practice/weekPlan';
import { bandsFor } from '../../core/rubric/rubric';
import type { MeasuresRecord } from '../../store/records';
import { stageIn, type TakeWithStudent } from '../../store/takes';
import { facesAt } from '../evidence/face';
import { useFilm } from '../film/useFilm';
import { exercisesOf, faultTitle, findingInWords } from '../findingWords';
import { useJudged } from '../judged';
import { useFilmBlob, useMeasures, useSavePlan, useTake, useVerdicts } from '../queries';
import { Button } from '../ui/Button';
import { CoveredStill } from './CoveredStill';
import { FocusBlock } from './FocusBlock';

const DEFAULT_MINUTES = 8;
const STILL_HEIGHT = 300;
/** Steps of an exercise told on the sheet: the teacher has shown it, this reminds. */
const REMINDED = 2;

/** The page for the family: at most two foci, a still, the week, the cautions. Prints on one sheet of A4. */
export function Sheet() {
  const { id = '' } = useParams();
  const take = useTake(id);
  const measures = useMeasures(id);
  if (!take.isSuccess || !measures.isSuccess) return <Message>Opening…</Message>;
  if (!take.data || !measures.data) return <Message>There is nothing to put on a sheet yet. Measure the take first.</Message>;
  return <Page entry={take.data} record={measures.data} />;
}

function Message({ children }: { children: React.ReactNode }) {
  return (
    <main className="grid min-h-screen place-content-center gap-3 text-center">
      <h1 className="text-name font-bold">{children}</h1>
      <Link to="/" className="text-sea underline">
        Back to the desk
      </Link>
    </main>
  );
}

function Page({ entry, record }: { entry: TakeWithStudent; record: MeasuresRecord }) {
  const { take, student } = entry;
  const verdicts = useVerdicts(take.id);
  const judged = useJudged(record, entry, verdicts.data);
  const savePlan = useSavePlan(take.id);
  const [covered, setCovered] = useState(true);
  const choice = take.plan ?? { minutesADay: DEFAULT_MINUTES, without: [] };
  if (!judged || !verdicts.isSuccess) return <Message>Opening…</Message>;
  const { foci } = judged;
  if (foci.length === 0) {
    return (
      <Message>
        No focus is chosen yet. Open{' '}
        <Link to={`/takes/${take.id}/review`} className="text-sea underline">
          the review
        </Link>{' '}
        and press F on the finding the week should be about.
      </Message>
    );
  }
  const bands = bandsFor(judged.rubric, stageIn(entry));
  const of = (without: readonly string[]) =>
    weekPlan(
      foci.map((f) => ({ fault: f.fault, exercises: exercisesOf(f) })),
      { family: student.family, minutesADay: choice.minutesADay, without },
    );
  const plan = of(choice.without);
  // What could be in it stays on offer, whatever was taken out.
  const offered = [...new Set([...of([]).exercises.map((e) => e.name), ...choice.without])];
  const start = addDays(new Date(), 1);
  const toggle = (name: string) => savePlan.mutate({ ...choice, without: choice.without.includes(name) ? choice.without.filter((n) => n !== name) : [...choice.without, name] });
  return (
    <div className="min-h-screen pb-10 print:min-h-0 print:pb-0">
      <nav className="mx-auto flex max-w-[794px] flex-wrap items-center gap-x-5 gap-y-2 py-3 print:hidden" aria-label="Sheet">
        <Link to={`/takes/${take.id}/review`} className="inline-flex items-center gap-1 font-semibold">
          <ChevronLeft size={18} /> Review
        </Link>
        <label className="inline-flex items-center gap-2">
          <select
            aria-label="Minutes a day"
            className="h-8 rounded-card border border-soft bg-white px-2"
            value={choice.minutesADay}
            onChange={(e) => savePlan.mutate({ ...choice, minutesADay: Number(e.target.value) })}
          >
            {MINUTES_A_DAY.map((m) => (
              <option key={m} value={m}>
                {m} minutes a day
              </option>
            ))}
          </select>
        </label>
        <span className="inline-flex flex-wrap gap-3">
          {offered.map((name) => (
            <label key={name} className="inline-flex items-center gap-1.5">
              <input type="checkbox" className="h-4 w-4 accent-sea" checked={!choice.without.includes(name)} onChange={() => toggle(name)} />
              {name}
            </label>
          ))}
        </span>
        <span className="flex-1" />
        <label className="inline-flex items-center gap-1.5">
          <input type="checkbox" className="h-4 w-4 accent-sea" checked={covered} onChange={(e) => setCovered(e.target.checked)} />
          face covered
        </label>
        <Button kind="main" onClick={() => window.print()}>
          Print
        </Button>
      </nav>
      <article className="mx-auto max-w-[794px] bg-white px-14 py-9 print:p-0 print:[zoom:0.92]" style={{ fontSize: 14.5, lineHeight: '20px' }}>
        <h1 className="text-focus font-bold">{familyWords(foci[0]!.fault)?.title ?? faultTitle(foci[0]!)}</h1>
        <p className="mt-1 flex justify-between">
          <span>For {student.name} and everyone at home</span>
          <span className="text-soft">
            {format(start, start.getMonth() === addDays(start, 6).getMonth() ? 'EEEE d' : 'EEEE d MMMM')} to {format(addDays(start, 6), 'EEEE d MMMM')}
          </span>
        </p>
        <StillOf takeId={take.id} record={record} finding={foci[0]!} covered={covered} />
        <p className="mt-3 font-serif text-[16px] leading-[23px]">{inPlainWords(foci, judged.noteOf)}</p>
        <div className={`mt-4 grid gap-6 ${foci.length > 1 ? 'grid-cols-2' : ''}`}>
          {foci.map((f) => (
            <FocusBlock key={f.fault} finding={f} take={record.measures} bands={bands} />
          ))}
        </div>
        <Week plan={plan} start={start} minutesADay={choice.minutesADay} />
        <div className={`mt-3 grid gap-x-5 gap-y-2 ${plan.exercises.length > 3 ? 'grid-cols-2' : 'grid-cols-3'}`}>
          {plan.exercises.slice(0, 4).map((e) => (
            <HowTo key={e.name} exercise={e} />
          ))}
        </div>
        <footer className="mt-4 border-t border-ink pt-2.5">
          <p>
            <b className="font-semibold">Pain means stop.</b> Rest, and tell your teacher. Tired arms are usual in the first weeks; pain is not. Numbness, pain that stays, or
            repeated headache or jaw ache: ask a doctor or physiotherapist. These exercises are not medical advice.
          </p>
          <p className="mt-1.5 text-label text-soft">
            {plan.exercises[0] && `To film on the last day: ${plan.exercises[0].film}`} {student.place && `See you on ${student.place}.`}
          </p>
        </footer>
      </article>
    </div>
  );
}

function StillOf({ takeId, record, finding, covered }: { takeId: string; record: MeasuresRecord; finding: Finding; covered: boolean }) {
  const blob = useFilmBlob(takeId);
  const film = useFilm(blob.data);
  const { measures } = record;
  const index = nearestIndex(
    measures.frames.map((f) => f.t),
    (finding.from + finding.to) / 2,
  );
  const known = facesAt(measures, index) !== undefined;
  if (covered && !known) {
    return (
      <p className="mt-3 rounded-plate border border-rule p-3 text-soft print:hidden">
        No still: the face was not found, so it cannot be covered. Take the tick off “face covered” to print the picture as it is.
      </p>
    );
  }
  return (
    <div className="mt-3">
      {film.kind === 'open' ? (
        <CoveredStill film={film.film} take={measures} index={index} width={682} height={STILL_HEIGHT} square={finding.quantity === 'skew_deg'} covered={covered} />
      ) : (
        <div className="w-[682px] rounded-plate bg-film" style={{ height: STILL_HEIGHT }} />
      )}
    </div>
  );
}

/** The foci as a sentence or two, with the number the next film is compared with. */
function inPlainWords(foci: readonly Finding[], noteOf: (f: Finding) => string | undefined): string {
  const parts = foci.map((f) => {
    const [low, high] = f.band.map(Math.round) as [number, number];
    const within = low === -high ? `within ${high}` : `between ${low} and ${high}`;
    const goal = rowOf(f)?.unit === 'deg' ? ` It is ${findingInWords(f).replace('°', ' degrees')} now; ${within} is the goal.` : '';
    return `${faultTitle(f)}${goal}`;
  });
  const notes = foci.flatMap((f) => noteOf(f) ?? []);
  return [...parts, ...notes].join(' ');
}

function Week({ plan, start, minutesADay }: { plan: WeekPlan; start: Date; minutesADay: number }) {
  return (
    <section className="mt-4">
      <div className="flex items-baseline justify-between">
        <h2 className="text-name font-bold">Seven days, up to {minutesADay} minutes each</h2>
        <span className="text-soft">tick a box when it is done</span>
      </div>
      <div className="mt-1.5 grid grid-cols-7 overflow-hidden rounded-plate border border-ink">
        {plan.days.map((day) => (
          <Day key={day.day} day={day} name={format(addDays(start, day.day), 'EEE')} />
        ))}
      </div>
    </section>
  );
}

function Day({ day, name }: { day: PlannedDay; name: string }) {
  return (
    <div className="border-rule not-last:border-r">
      <h3 className="border-b border-rule bg-spruce px-2 py-1 font-serif font-bold">{name}</h3>
      <ul className="flex flex-col gap-1.5 px-2 py-2 text-[13px] leading-[17px]">
        {day.free && <Box name="Play what" dose="you like" />}
        {day.items.map((item) => (
          <Box key={item.exercise.name} name={item.exercise.name} dose={`${item.minutes} min`} />
        ))}
        {day.film && <Box name="Film one" dose="20 seconds" />}
      </ul>
    </div>
  );
}

function Box({ name, dose }: { name: string; dose: string }) {
  return (
    <li className="grid grid-cols-[16px_1fr] gap-1">
      <span className="mt-0.5 h-3.5 w-3.5 rounded-[3px] border-[1.4px] border-ink" aria-hidden />
      <span>
        <b className="font-semibold">{name}</b>
        <br />
        {dose}
      </span>
    </li>
  );
}

function HowTo({ exercise }: { exercise: Exercise }) {
  return (
    <p className="text-[13px] leading-[18px]">
      <b className="font-semibold">{exercise.name}.</b> {exercise.steps.slice(0, REMINDED).join(' ')} <i>{exercise.cautions[0]}</i>
    </p>
  );
}

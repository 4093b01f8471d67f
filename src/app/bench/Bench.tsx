import { ChevronLeft } from 'lucide-react';
import { Link, useParams } from 'react-router';
import { stageIn } from '../../store/takes';
import { stageInWords } from '../drawings/words';
import { useFilm } from '../film/useFilm';
import { useFilmBlob, useMeasures, useTake } from '../queries';
import { KeysDialog } from '../ui/KeysDialog';
import { MeasuringPanel } from './measure/MeasuringPanel';
import { useProgress } from './measure/measuring';
import { Prepare } from './prepare/Prepare';
import { Review } from './review/Review';

const PREPARE_KEYS = [
  ['C', 'place the asked point under the pointer'],
  ['X', 'not in view, or take a mark away'],
  ['Y', 'yes, what was found lies right: measure'],
  ['J', 'adjust what was found'],
  ['N', 'another frame of those found'],
  ['A', 'accept what is offered'],
  ['1 2 3', 'mark instrument, bow hand or body'],
  ['P', 'plumb line'],
  ['Z', 'undo'],
  ['H', 'the chosen point is hidden, placed by guess'],
  ['← →', 'nudge by 0.1 px, with Shift by 1'],
  ['[ ]', 'one frame back or on'],
  ['M', 'measure'],
] as const;
const REVIEW_KEYS = [
  ['Space', 'run or hold the film'],
  ['← →', 'one bow back or on, with Shift one frame'],
  ['↑ ↓', 'finding before or next'],
  ['S', 'half speed'],
  ['L', 'this bow again and again'],
  ['G', 'close to the bridge, to the hand, and back'],
  ['B', 'the bow of the last take, dashed, or not'],
  ['C', 'confirm the finding'],
  ['A', 'adjust where it shows and why'],
  ['X', 'not so, then 1 2 3 for the reason'],
  ['F', 'make it a focus of the week'],
  ['N', 'note'],
  ['[ ]', 'stray string before or next'],
  ['Z', 'undo'],
] as const;

/** One take: marked, measured, reviewed. */
export function Bench() {
  const { id = '', step } = useParams();
  const take = useTake(id);
  const measures = useMeasures(id);
  const blob = useFilmBlob(id);
  const film = useFilm(blob.data);
  const progress = useProgress(id);

  if (take.isSuccess && !take.data) {
    return (
      <Message title="This take is not here.">
        It may have been deleted.{' '}
        <Link to="/" className="text-sea underline">
          Back to the desk
        </Link>
      </Message>
    );
  }
  if (!take.data || !measures.isSuccess || !blob.isSuccess) return <Message title="Opening…" />;
  const entry = take.data;
  const view = step === 'prepare' ? 'prepare' : progress ? 'measure' : measures.data ? 'review' : entry.take.marks && step === 'review' ? 'review' : 'prepare';
  const reviewing = view === 'review' && measures.data;
  return (
    <div className="mx-auto min-h-screen max-w-[1680px]">
      <header className="flex h-11 items-center justify-between px-5">
        <div className="flex min-w-0 items-center gap-3">
          <Link to="/" className="inline-flex items-center gap-1 border-r border-rule pr-4 text-label font-semibold whitespace-nowrap">
            <ChevronLeft size={18} /> {entry.student.place ? `${entry.student.place} round` : 'Desk'}
          </Link>
          <span className="font-serif text-name font-bold whitespace-nowrap">{entry.student.name}</span>
          <span className="truncate">
            {entry.take.title}, filmed {new Date(`${entry.take.filmedOn}T12:00`).toLocaleDateString('en-GB', { weekday: 'long' })}
          </span>
          <span className="text-label whitespace-nowrap text-soft">
            {entry.student.family} {entry.student.size}, {stageInWords[stageIn(entry)]}
          </span>
        </div>
        <nav className="flex items-center gap-5 text-label whitespace-nowrap">
          <Link to={`/takes/${id}/prepare`} className={view === 'prepare' ? 'font-semibold' : 'text-soft'}>
            Mark
          </Link>
          <span className={view === 'measure' ? 'font-semibold' : 'text-soft'}>measure</span>
          {measures.data ? (
            <Link to={`/takes/${id}/review`} className={view === 'review' ? 'font-semibold' : 'text-soft'}>
              review
            </Link>
          ) : (
            <span className="text-soft">review</span>
          )}
          <KeysDialog keys={reviewing ? REVIEW_KEYS : PREPARE_KEYS} />
        </nav>
      </header>
      {film.kind === 'failed' ? (
        <Message title="This film cannot be shown.">{film.message}</Message>
      ) : view === 'measure' && progress ? (
        <MeasuringPanel takeId={id} progress={progress} title={entry.take.title} />
      ) : film.kind === 'opening' || !blob.data ? (
        <OpeningPlate />
      ) : view === 'review' && measures.data ? (
        <Review key={id} entry={entry} film={film.film} blob={blob.data} record={measures.data} />
      ) : (
        <Prepare key={id} entry={entry} film={film.film} measures={measures.data} />
      )}
    </div>
  );
}

function Message({ title, children }: { title: string; children?: React.ReactNode }) {
  return (
    <main className="grid min-h-[70vh] place-content-center px-6 text-center">
      <h1 className="text-name font-bold">{title}</h1>
      {children && <p className="mt-2 max-w-[60ch]">{children}</p>}
    </main>
  );
}

/** The empty plates while a film opens. */
function OpeningPlate() {
  return (
    <main className="flex gap-3 px-5" aria-busy="true" aria-label="The film is opening">
      <div className="h-[396px] w-[704px] rounded-plate bg-film" />
      <div className="h-[340px] w-[300px] rounded-plate border border-edge bg-spruce" />
    </main>
  );
}

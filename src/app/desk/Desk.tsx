import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { TakeWithStudent } from '../../store/takes';
import { measuring, useProgress } from '../bench/measure/measuring';
import { MiniRibbon } from '../drawings/MiniRibbon';
import { Drop } from '../drawings/signs';
import { stageInWords } from '../drawings/words';
import { faultTitle, findingInWords } from '../findingWords';
import { useJudged } from '../judged';
import { useMeasures, useTakes, useVerdicts } from '../queries';
import { Brand } from '../shell/Brand';
import { Button } from '../ui/Button';
import { KeysDialog } from '../ui/KeysDialog';
import { useKeys } from '../ui/useKeys';
import { DropField } from './DropField';

/** What waits for the teacher. */
export function Desk() {
  const takes = useTakes();
  const navigate = useNavigate();
  const [files, setFiles] = useState<File[]>([]);
  const list = takes.data ?? [];
  const first = list.find((t) => !t.take.reviewedAt);
  const begin = () => first && navigate(`/takes/${first.take.id}`);
  useKeys({ b: begin });
  const waiting = list.filter((t) => !t.take.reviewedAt).length;
  return (
    <div
      className="mx-auto flex min-h-screen max-w-[1680px] flex-col px-5"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        setFiles([...event.dataTransfer.files]);
      }}
    >
      <header className="flex h-11 items-center justify-between">
        <Brand />
        <span className="flex items-center gap-6 text-label text-soft">
          everything stays on this computer
          <KeysDialog
            keys={[
              ['B', 'begin with the first take that waits'],
              ['?', 'this list'],
            ]}
          />
        </span>
      </header>
      <main className="flex flex-1 flex-col">
        <div className="mt-2 mb-6 flex items-center justify-between gap-6">
          <h1 className="text-desk font-bold">{sentence(list.length, waiting, takes.isSuccess)}</h1>
          {first && (
            <Button kind="main" keyCap="B" onClick={begin}>
              Begin with {first.student.name}
            </Button>
          )}
        </div>
        <ul className="grid grid-cols-1 gap-x-8 gap-y-6 md:grid-cols-2 xl:grid-cols-3 2xl:grid-cols-4">
          {list.map((entry) => (
            <TakeEntry key={entry.take.id} entry={entry} />
          ))}
        </ul>
        <DropField files={files} onTaken={() => setFiles([])} onFiles={setFiles} empty={takes.isSuccess && list.length === 0} />
      </main>
      <footer className="flex h-10 items-center text-label text-soft">Films, marks and judgements are kept in this browser. Export what you want to keep elsewhere.</footer>
    </div>
  );
}

const NUMBERS = ['No', 'One', 'Two', 'Three', 'Four', 'Five', 'Six', 'Seven', 'Eight', 'Nine', 'Ten', 'Eleven', 'Twelve'];
const number = (n: number) => NUMBERS[n] ?? String(n);

function sentence(count: number, waiting: number, ready: boolean): string {
  if (!ready) return ' ';
  if (count === 0) return 'Nothing has come in yet.';
  const clips = `${number(count)} ${count === 1 ? 'clip' : 'clips'} came in.`;
  if (waiting === 0) return `${clips} All are judged.`;
  return waiting === count
    ? `${clips} ${count === 1 ? 'It waits' : 'All wait'} for your judgement.`
    : `${clips} ${number(waiting)} ${waiting === 1 ? 'waits' : 'wait'} for your judgement.`;
}

function TakeEntry({ entry: { take, student } }: { entry: TakeWithStudent }) {
  const measures = useMeasures(take.id);
  const verdicts = useVerdicts(take.id);
  const judged = useJudged(measures.data, student, verdicts.data, { shift: take.soundShift, task: take.task });
  const progress = useProgress(take.id);
  const worst = judged?.judgement.findings[0];
  const action =
    progress?.kind === 'running' || progress?.kind === 'waiting' ? 'measuring' : measures.data ? (take.reviewedAt ? 'judged' : 'Judge') : take.marks ? 'Measure' : 'Mark';
  return (
    <li className="border-t border-rule pt-2">
      <Link to={`/takes/${take.id}`} className="block">
        <div className="flex items-baseline justify-between gap-3">
          <span className="truncate">
            <b className="font-semibold">{student.name}</b>{' '}
            <span className="text-label text-soft">
              {student.family} {student.size}, {stageInWords[student.stage]}
            </span>
          </span>
          <span className={`text-label ${action === 'judged' || action === 'measuring' ? 'text-soft' : 'font-semibold text-sea'}`}>{action}</span>
        </div>
        <div className="my-1 h-8">
          {measures.data && judged ? (
            <div className="[&>svg]:w-full">
              <MiniRibbon width={392} height={32} frames={measures.data.measures.frames} strokes={measures.data.measures.strokes} slices={judged.slices} />
            </div>
          ) : progress?.kind === 'running' ? (
            <div className="relative flex h-8 items-center justify-center rounded-card border border-rule">
              <span className="absolute bottom-0 left-0 h-1 bg-sea" style={{ width: `${(100 * progress.done) / Math.max(1, progress.total)}%` }} />
              <span className="text-label text-soft">
                {progress.done} of {progress.total} pictures{progress.secondsLeft !== undefined ? `, about ${Math.ceil(progress.secondsLeft)} s left` : ''}
              </span>
            </div>
          ) : (
            <div className="flex h-8 items-center justify-center rounded-card border border-dashed border-soft text-label text-soft">
              {progress?.kind === 'waiting' ? 'waits its turn to be measured' : take.marks ? 'marked, not measured yet' : 'not marked yet'}
            </div>
          )}
        </div>
        <p className="flex items-center gap-2">
          {judged && (worst ? <Drop sign={judged.signOf(worst)} /> : <Drop sign={judged.judgement.unjudged.length ? 'unjudged' : 'within'} />)}
          <span className="truncate">
            {progress?.kind === 'failed'
              ? progress.message
              : worst
                ? `${faultTitle(worst).replace(/\.$/, '')}, ${findingInWords(worst)}`
                : judged
                  ? (judged.judgement.unjudged[0]?.why ?? 'Square and on its place from frog to tip.')
                  : take.title}
          </span>
        </p>
        <p className="text-label text-soft">
          {take.title} · {new Date(`${take.filmedOn}T12:00`).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' })} · {student.place}
        </p>
      </Link>
      {progress?.kind === 'failed' && (
        <Button className="mt-1" onClick={() => measuring.enqueue(take.id)}>
          Measure again
        </Button>
      )}
    </li>
  );
}

import { format } from 'date-fns';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { roundOf } from '../../store/round';
import { useMeasuredIds, usePlaces, useTakes } from '../queries';
import { Brand } from '../shell/Brand';
import { Button } from '../ui/Button';
import { KeysDialog } from '../ui/KeysDialog';
import { useKeys } from '../ui/useKeys';
import { DropField } from './DropField';
import { MeasuringRow } from './MeasuringRow';
import { RoundSection } from './RoundSection';

/** What waits for the teacher. */
export function Desk() {
  const takes = useTakes();
  const navigate = useNavigate();
  const [files, setFiles] = useState<File[]>([]);
  const list = takes.data ?? [];
  const places = usePlaces();
  const measured = useMeasuredIds();
  const stops = places.data && measured.data ? roundOf(list, places.data, measured.data, format(new Date(), 'yyyy-MM-dd')) : [];
  const first = stops.flatMap((s) => s.takes).find((t) => !t.take.reviewedAt);
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
          <Link to="/rubrics" className="font-semibold text-sea underline">
            Rubrics
          </Link>
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
        <MeasuringRow takes={list} />
        {stops.map((stop) => (
          <RoundSection key={stop.place} stop={stop} alone={stops.length === 1} />
        ))}
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

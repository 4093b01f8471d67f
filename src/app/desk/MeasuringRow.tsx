import type { TakeWithStudent } from '../../store/takes';
import { measuring, useMeasuringRow } from '../bench/measure/measuring';
import { useMeasuredIds } from '../queries';
import { Button } from '../ui/Button';

/** The row of takes under measure: how many, how long, rest and go on; or an offer to measure all that are marked. */
export function MeasuringRow({ takes }: { takes: readonly TakeWithStudent[] }) {
  const { progress, paused } = useMeasuringRow();
  const measured = useMeasuredIds();
  const running = [...progress.values()].find((p) => p.kind === 'running');
  const waiting = [...progress.values()].filter((p) => p.kind === 'waiting').length;
  const ready = takes.filter(({ take }) => take.marks && measured.data && !measured.data.has(take.id) && !progress.has(take.id));
  if (!running && waiting === 0 && ready.length === 0) return null;
  return (
    <div className="mb-6 flex items-center gap-4 rounded-card border border-rule bg-sheet px-4 py-2" role="status">
      <span className="flex-1">{rowInWords(running !== undefined, waiting, ready.length, paused)}</span>
      {(waiting > 0 || (paused && running)) && <Button onClick={() => measuring.pause(!paused)}>{paused ? 'Go on' : running ? 'Rest after this one' : 'Rest'}</Button>}
      {ready.length > 0 && (
        <Button
          onClick={() => {
            for (const { take } of ready) measuring.enqueue(take.id);
          }}
        >
          {ready.length === 1 ? 'Measure it' : `Measure all ${ready.length}`}
        </Button>
      )}
    </div>
  );
}

function rowInWords(running: boolean, waiting: number, ready: number, paused: boolean): string {
  const rest = waiting === 1 ? 'one more waits' : `${waiting} more wait`;
  const marked = ready === 0 ? '' : ready === 1 ? ' One take is marked and not measured.' : ` ${ready} takes are marked and not measured.`;
  if (running) return `A take is being measured${waiting > 0 ? `, ${rest}` : ''}${paused ? '; the row rests after it' : ''}.${marked}`;
  if (waiting > 0) return `${waiting === 1 ? 'One take waits' : `${waiting} takes wait`} to be measured${paused ? '; the row rests' : ''}.${marked}`;
  return marked.trim();
}

import { Link } from 'react-router';
import { REFUSAL_WORDS } from '../../core/start/outcome';
import type { TakeRecord } from '../../store/records';
import { stageIn, type TakeWithStudent } from '../../store/takes';
import { measuring, type Progress, useProgress } from '../bench/measure/measuring';
import { type Looking, useLooking } from '../bench/prepare/starting';
import { MiniRibbon } from '../drawings/MiniRibbon';
import { Drop } from '../drawings/signs';
import { stageInWords } from '../drawings/words';
import { faultTitle, findingInWords } from '../findingWords';
import { useJudged } from '../judged';
import { useMeasures, useVerdicts } from '../queries';
import { Button } from '../ui/Button';
import { useNearView } from '../ui/useNearView';

/** A take in a list: whose, its bows, what was found worst, what to do with it; `alone` on the student's own page. */
export function TakeEntry({ entry, alone = false }: { entry: TakeWithStudent; alone?: boolean }) {
  const { take, student } = entry;
  // A long list reads only what comes into view.
  const [ref, near] = useNearView<HTMLLIElement>();
  const measures = useMeasures(take.id, near);
  const verdicts = useVerdicts(take.id);
  const judged = useJudged(measures.data, entry, verdicts.data);
  const progress = useProgress(take.id);
  const looking = useLooking(take.id);
  const found = !take.marks && take.start !== undefined && 'candidates' in take.start;
  const worst = judged?.judgement.findings[0];
  const action =
    progress?.kind === 'running' || progress?.kind === 'waiting'
      ? 'measuring'
      : measures.data
        ? take.reviewedAt
          ? 'judged'
          : 'Judge'
        : take.marks
          ? 'Measure'
          : found
            ? 'Confirm'
            : 'Mark';
  return (
    <li ref={ref} className="border-t border-rule pt-2">
      <Link to={`/takes/${take.id}`} className="block">
        <div className="flex items-baseline justify-between gap-3">
          <span className="truncate">
            <b className="font-semibold">{student.name}</b>{' '}
            <span className="text-label text-soft">
              {student.family} {student.size}, {stageInWords[stageIn(entry)]}
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
            <div className="flex h-8 items-center justify-center rounded-card border border-dashed border-soft text-label text-soft">{stateInWords(progress, take, looking)}</div>
          )}
        </div>
        <p className="flex items-center gap-2">
          {judged && (worst ? <Drop sign={judged.signOf(worst)} /> : <Drop sign={judged.judgement.unjudged.length ? 'unjudged' : 'within'} />)}
          {worst && progress?.kind !== 'failed' ? (
            <span className="flex min-w-0 gap-2">
              <span className="truncate">{faultTitle(worst).replace(/\.$/, '')}</span>
              <span className="shrink-0 text-soft">{findingInWords(worst)}</span>
            </span>
          ) : (
            <span className="truncate">
              {progress?.kind === 'failed' ? progress.message : judged ? (judged.judgement.unjudged[0]?.why ?? 'Nothing to mend was found.') : take.title}
            </span>
          )}
        </p>
        <p className="text-label text-soft">
          {(judged || progress?.kind === 'failed') && `${take.title} · `}
          {new Date(`${take.filmedOn}T12:00`).toLocaleDateString('en-GB', { day: 'numeric', month: 'long' })} · {student.place}
        </p>
      </Link>
      {!alone && (
        <Link to={`/students/${student.id}`} className="text-label text-sea underline">
          All of {student.name}
        </Link>
      )}
      {progress?.kind === 'failed' && (
        <Button className="mt-1" onClick={() => measuring.enqueue(take.id)}>
          Measure again
        </Button>
      )}
    </li>
  );
}

function stateInWords(progress: Progress | undefined, take: TakeRecord, looking: Looking | undefined): string {
  if (progress?.kind === 'waiting') return 'waits its turn to be measured';
  if (take.marks) return 'marked, not measured yet';
  if (looking?.kind === 'running') return 'the instrument is being looked for';
  if (looking?.kind === 'waiting') return 'waits to be looked at';
  if (!take.start) return 'not marked yet';
  return 'candidates' in take.start ? 'instrument found: does it lie right?' : `${REFUSAL_WORDS[take.start.refused].why.replace(/\.$/, '')}: to be marked`;
}

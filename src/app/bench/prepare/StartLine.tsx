import { REFUSAL_WORDS } from '../../../core/start/outcome';
import type { TakeWithStudent } from '../../../store/takes';
import { Button } from '../../ui/Button';
import { useLooking } from './starting';
import type { Proposals } from './useProposals';

/** How the looking for the instrument goes, what came of it, or why nothing did. */
export function StartLine({
  entry: { take },
  marked,
  proposals,
  onCarry,
}: {
  entry: TakeWithStudent;
  marked: boolean;
  proposals: Proposals;
  /** Lays the marks of another take over this one; undefined where there is none. */
  onCarry: (() => void) | undefined;
}) {
  const looking = useLooking(take.id);
  if (marked) return null;
  if (looking?.kind === 'running' || looking?.kind === 'waiting') {
    const share = looking.kind === 'running' ? looking.done / looking.total : 0;
    return (
      <div role="status" className="mt-1 max-w-[560px]">
        <p>
          {looking.kind === 'running' && looking.again
            ? 'It is not plain to see, so sharpened pictures are looked at once more; you can mark it meanwhile.'
            : 'The instrument is being looked for; you can mark it meanwhile.'}
        </p>
        <div className="mt-1 h-1 bg-rule">
          <div className="h-1 bg-sea" style={{ width: `${100 * share}%` }} />
        </div>
      </div>
    );
  }
  if (proposals.waiting) {
    return (
      <p role="status" className="mt-1 flex items-center gap-3">
        Instrument and bow were found by themselves in this film.
        <Button onClick={proposals.look}>Look</Button>
      </p>
    );
  }
  if (!take.start || !('refused' in take.start)) return null;
  const { why, help } = REFUSAL_WORDS[take.start.refused];
  return (
    <p role="status" className="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1">
      <span>
        {why} {help}
      </span>
      {onCarry && <Button onClick={onCarry}>Marks as in the last take</Button>}
    </p>
  );
}

import { REFUSAL_WORDS } from '../../../core/start/outcome';
import type { TakeWithStudent } from '../../../store/takes';
import { useLooking } from './starting';

/** How the looking for the instrument goes, or why it came to nothing. */
export function StartLine({ entry: { take }, marked }: { entry: TakeWithStudent; marked: boolean }) {
  const looking = useLooking(take.id);
  if (marked) return null;
  if (looking?.kind === 'running' || looking?.kind === 'waiting') {
    const share = looking.kind === 'running' ? looking.done / looking.total : 0;
    return (
      <div role="status" className="mt-1 max-w-[560px]">
        <p>The instrument is being looked for; you can mark it meanwhile.</p>
        <div className="mt-1 h-1 bg-rule">
          <div className="h-1 bg-sea" style={{ width: `${100 * share}%` }} />
        </div>
      </div>
    );
  }
  if (!take.start || !('refused' in take.start)) return null;
  const { why, help } = REFUSAL_WORDS[take.start.refused];
  return (
    <p role="status" className="mt-1">
      {why} {help}
    </p>
  );
}

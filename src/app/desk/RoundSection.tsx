import { format, parseISO } from 'date-fns';
import { useState } from 'react';
import type { RoundStop } from '../../store/round';
import { useSaveVisit } from '../queries';
import { TakeEntry } from './TakeEntry';

/** So many takes of a place are shown at first: what waits, and what was judged lately. */
const AT_FIRST = 12;

/** The takes of one place, under its next visit; `alone` when there is no other place. */
export function RoundSection({ stop, alone }: { stop: RoundStop; alone: boolean }) {
  const saveVisit = useSaveVisit();
  const { place, nextVisit, takes, waiting } = stop;
  const [all, setAll] = useState(false);
  const shown = all ? takes : takes.slice(0, AT_FIRST);
  return (
    <section className="mb-8" aria-label={place || 'Takes'}>
      {!(alone && !place) && (
        <div className="mb-3 flex items-baseline gap-3">
          <h2 className="text-name font-bold">{place || 'Elsewhere'}</h2>
          {place && (
            <label className="flex items-baseline gap-2 text-label text-soft">
              {nextVisit ? `next there on ${format(parseISO(nextVisit), 'EEEE, d MMMM')}` : 'no visit planned'}
              <input
                type="date"
                aria-label={`Next visit to ${place}`}
                className="h-6 w-[118px] rounded-card border border-rule bg-transparent px-1 text-ink"
                value={nextVisit ?? ''}
                onChange={(e) => saveVisit.mutate({ place, day: e.target.value || undefined })}
              />
            </label>
          )}
          <span className="ml-auto text-label text-soft">
            {takes.length} {takes.length === 1 ? 'take' : 'takes'}, {waiting === 0 ? 'all judged' : `${waiting} to judge`}
          </span>
        </div>
      )}
      <ul className="grid grid-cols-1 gap-x-8 gap-y-6 md:grid-cols-2 xl:grid-cols-3 2xl:grid-cols-4">
        {shown.map((entry) => (
          <TakeEntry key={entry.take.id} entry={entry} />
        ))}
      </ul>
      {shown.length < takes.length && (
        <button type="button" className="mt-4 font-semibold text-sea underline" onClick={() => setAll(true)}>
          Show the other {takes.length - shown.length}
        </button>
      )}
    </section>
  );
}

import { format } from 'date-fns';
import { sizesOf } from '../../core/instrument/dimensions';
import { FAMILIES, type Family } from '../../core/instrument/family';
import { stageOn } from '../../core/rubric/stage';
import { stageInWords } from '../drawings/words';
import { usePlaces, useRubrics } from '../queries';
import { field } from '../ui/field';
import type { StudentDraft } from './studentDraft';

/** What a teacher says of a student, as rows of a two-column form. */
export function StudentFields({ draft, onChange }: { draft: StudentDraft; onChange: (draft: StudentDraft) => void }) {
  const rubrics = useRubrics();
  const places = usePlaces();
  const set = (change: Partial<StudentDraft>) => onChange({ ...draft, ...change });
  const sizes = sizesOf(draft.family);
  return (
    <>
      <label htmlFor="name">Name</label>
      <input id="name" className={field} value={draft.name} onChange={(e) => set({ name: e.target.value })} />
      <label htmlFor="family">Instrument</label>
      <div className="flex gap-2">
        <select
          id="family"
          className={field}
          value={draft.family}
          onChange={(e) => {
            const family = e.target.value as Family;
            set({ family, size: sizesOf(family)[0]! });
          }}
        >
          {FAMILIES.map((f) => (
            <option key={f}>{f}</option>
          ))}
        </select>
        <select aria-label="Size" className={field} value={draft.size} onChange={(e) => set({ size: e.target.value })}>
          {(sizes.includes(draft.size) ? sizes : [draft.size, ...sizes]).map((s) => (
            <option key={s}>{s}</option>
          ))}
        </select>
      </div>
      <label htmlFor="left">Side</label>
      <span className="flex items-center gap-2">
        <input id="left" type="checkbox" className="h-4 w-4 accent-sea" checked={draft.side === 'left'} onChange={(e) => set({ side: e.target.checked ? 'left' : 'right' })} />
        <label htmlFor="left">plays left-handed</label>
      </span>
      <label htmlFor="started">Playing since</label>
      <span className="flex items-center gap-3">
        <input id="started" type="date" required className={`${field} max-w-[150px]`} value={draft.startedOn} onChange={(e) => set({ startedOn: e.target.value })} />
        <span className="text-label text-soft">{draft.startedOn ? stageInWords[stageOn(draft.startedOn, format(new Date(), 'yyyy-MM-dd'))] : 'bands follow from it'}</span>
      </span>
      <label htmlFor="place">Taught at</label>
      <span>
        <input id="place" list="places" className={field} value={draft.place} onChange={(e) => set({ place: e.target.value })} />
        <datalist id="places">
          {places.data?.map((p) => (
            <option key={p.place} value={p.place} />
          ))}
        </datalist>
      </span>
      <label htmlFor="rubric">Judged by</label>
      <select id="rubric" className={field} value={draft.rubric} onChange={(e) => set({ rubric: e.target.value })}>
        {rubrics.data?.map((r) => (
          <option key={r.id} value={r.id}>
            {r.name}
          </option>
        ))}
      </select>
    </>
  );
}

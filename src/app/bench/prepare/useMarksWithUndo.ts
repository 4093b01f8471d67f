import { useState } from 'react';
import type { Marks } from '../../../core/formats/marks';
import { useSaveMarks } from '../../queries';

/** Steps that can be taken back. */
const KEPT = 200;

/** A take's marks as they are changed: each change is kept at once and can be taken back. */
export function useMarksWithUndo(takeId: string, first: Marks) {
  const save = useSaveMarks(takeId);
  const [marks, setMarks] = useState(first);
  const [past, setPast] = useState<readonly Marks[]>([]);
  const put = (to: Marks) => {
    setMarks(to);
    save.mutate(to.frames.length ? to : undefined);
  };
  return {
    marks,
    change: (to: Marks) => {
      setPast((p) => [...p, marks].slice(-KEPT));
      put(to);
    },
    canUndo: past.length > 0,
    undo: () => {
      const before = past.at(-1);
      if (!before) return;
      setPast((p) => p.slice(0, -1));
      put(before);
    },
    /** Keeps marks that are not changed from here on; resolves when they are kept. */
    keep: (to: Marks): Promise<unknown> => save.mutateAsync(to),
  };
}

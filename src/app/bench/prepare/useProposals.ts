import { useState } from 'react';
import type { Marks } from '../../../core/formats/marks';
import type { TakeWithStudent } from '../../../store/takes';

export interface Proposals {
  /** The frame proposed now, as marks; undefined when there is none, or the teacher marks by hand. */
  readonly shown: Marks | undefined;
  readonly count: number;
  /** Place of the one shown, from 1. */
  readonly place: number;
  /** There is something to look at that is not shown. */
  readonly waiting: boolean;
  another(): void;
  /** Leaves what was found aside. */
  leave(): void;
  /** Takes it up again. */
  look(): void;
}

/**
 * Frames in which instrument and bow were found without a mark, one at a time, while nothing is marked.
 * @param busy the teacher has begun to look about: what is found now waits to be asked for
 */
export function useProposals({ take }: TakeWithStudent, marked: boolean, busy: boolean): Proposals {
  const candidates = take.start && 'candidates' in take.start ? take.start.candidates : [];
  const [at, setAt] = useState(0);
  const [state, setState] = useState<'open' | 'left' | 'asked'>('open');
  const [had, setHad] = useState(candidates.length > 0);
  // Found while the teacher was at work: the picture must not jump away under the hand.
  if (!had && candidates.length > 0) {
    setHad(true);
    if (busy) setState('left');
  }
  const shown = marked || state === 'left' ? undefined : candidates[at];
  return {
    shown,
    count: candidates.length,
    place: at + 1,
    waiting: !marked && !shown && candidates.length > 0,
    another: () => setAt((i) => (i + 1) % Math.max(1, candidates.length)),
    leave: () => setState('left'),
    look: () => setState('asked'),
  };
}

import { useState } from 'react';
import type { Marks } from '../../../core/formats/marks';
import type { TakeWithStudent } from '../../../store/takes';

export interface Proposals {
  /** The frame proposed now, as marks; undefined when there is none, or the teacher marks by hand. */
  readonly shown: Marks | undefined;
  readonly count: number;
  /** Place of the one shown, from 1. */
  readonly place: number;
  another(): void;
  /** Leaves what was found aside. */
  leave(): void;
}

/** Frames in which instrument and bow were found without a mark, one at a time, while nothing is marked. */
export function useProposals({ take }: TakeWithStudent, marked: boolean): Proposals {
  const candidates = take.start && 'candidates' in take.start ? take.start.candidates : [];
  const [at, setAt] = useState(0);
  const [left, setLeft] = useState(false);
  return {
    shown: marked || left ? undefined : candidates[at],
    count: candidates.length,
    place: at + 1,
    another: () => setAt((i) => (i + 1) % Math.max(1, candidates.length)),
    leave: () => setLeft(true),
  };
}

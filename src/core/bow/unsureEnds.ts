/** How far along the bow its ends may be off because they were not marked in sight (px at 960 across, 1 sigma); 0 where they were. */
export interface UnsureEnds {
  readonly frog: number;
  readonly tip: number;
}

export const SURE_ENDS: UnsureEnds = { frog: 0, tip: 0 };
/** A hidden end placed by judgement (section 7 of the measurement reference). */
export const GUESSED_END = 6;
/** The network guesses the frog, mostly under the hand: off along the bow by 1 to 3 per cent of its length, at times 6; the tip is in sight (ours, seventeen pictures of another renderer). */
export const FOUND_END: UnsureEnds = { frog: 15, tip: 4 };
/** An end that was looked for in the picture, without a mark or with the other end alone (ours). */
export const LOOKED_FOR_END = 12;
export const LOOKED_FOR_ENDS: UnsureEnds = { frog: LOOKED_FOR_END, tip: LOOKED_FOR_END };
/** An end less unsure than this was in sight, even if a network placed it. */
const IN_SIGHT = 5;

export const placedInSight = (unsure: number): boolean => unsure < IN_SIGHT;
export const bothInSight = ({ frog, tip }: UnsureEnds): boolean => placedInSight(frog) && placedInSight(tip);

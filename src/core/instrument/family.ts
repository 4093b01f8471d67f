/** Instruments whose geometry is known, and the facts that follow from the family alone. */
export const FAMILIES = ['violin', 'viola', 'cello', 'bass'] as const;
export type Family = (typeof FAMILIES)[number];

/** Strings from the lowest to the highest (trade fact: common practice, no source). */
export const STRINGS: Record<Family, readonly string[]> = {
  violin: ['G', 'D', 'A', 'E'],
  viola: ['C', 'G', 'D', 'A'],
  cello: ['C', 'G', 'D', 'A'],
  bass: ['E', 'A', 'D', 'G'],
};

/** Side sign s: the bow's tip points to the low-string side (+1) on violin and viola, to the high-string side (-1) on cello and bass. */
export const sideSign = (family: Family): 1 | -1 => (heldAtShoulder(family) ? 1 : -1);

/** Whether it is held at the shoulder; else between the knees or standing. */
export const heldAtShoulder = (family: Family): boolean => family === 'violin' || family === 'viola';

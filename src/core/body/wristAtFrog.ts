/**
 * Where the wrist is from the frog end of the hair, in the bow's axes (along the hair, toward the player, out of the
 * top), mm of a grown player with the contact at `middle` of the hair, and how far it goes on along the hair as the
 * contact moves by a whole hair (ours, from two renderers' hands).
 */
export const WRIST_AT_FROG = { at: [-5, 105, 42], travel: 60, middle: 0.45 } as const;

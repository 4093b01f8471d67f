/**
 * A bow that points nearly at the camera is a spot behind the hand: cosines of its angle to the line of sight from and to which
 * its line loses its say, and how far off (px at 960 across) it may then be: anywhere (ours: at 25 degrees lines were 1 to 3 px
 * off, below 20 up to 90, and alike in all frames of a film).
 */
const END_ON = { from: 0.92, to: 0.94, off: 1000 } as const;

/**
 * How far off the line of a bow may be because it points at the camera, px at 960 across (1 sigma).
 * @param slant cosine of the angle between the bow and the line of sight to one of its ends
 */
export const endOnDoubt = (slant: number): number => END_ON.off * Math.min(1, Math.max(0, (Math.abs(slant) - END_ON.from) / (END_ON.to - END_ON.from)));

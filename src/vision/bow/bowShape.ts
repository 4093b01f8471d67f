/** Height of the stick's middle over the hair (mm) at frog, deepest camber and tip (from memory, common bows under tension). */
export const STICK_HEIGHTS_MM = [20, 12, 19] as const;
/** Width of the hair ribbon and of the stick seen from the side (mm; from memory). */
export const HAIR_WIDTH_MM = 5;
export const STICK_WIDTH_MM = 7.5;
/** Next to the frog the hand hides the bow (share of the hair). */
export const HAND_COVERS = 0.14;

/** Height of the stick's middle over the hair (mm) at a share of the hair, frog to tip. */
export function stickHeight(share: number): number {
  const [frog, mid, tip] = STICK_HEIGHTS_MM;
  const deepest = 0.6;
  const end = share < deepest ? frog : tip;
  const t = share < deepest ? 1 - share / deepest : (share - deepest) / (1 - deepest);
  return mid + (end - mid) * t * t;
}

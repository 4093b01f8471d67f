import type { StringLevels } from '../../src/core/instrument/strings';

/** The hair gives way by about this much (degrees to either side of the boundary between two strings; ours). */
const GIVE = 1.5;

/**
 * How much of the bow's weight lies on each string at an inclination (degrees): 1 alone, less where two share it, 0
 * clear of the hair. Strings from the lowest.
 */
export function touchOf(levels: StringLevels, inclination: number): number[] {
  const count = levels.natural.length;
  const share = (depth: number) => Math.min(1, Math.max(0, (depth + GIVE) / (2 * GIVE)));
  return Array.from({ length: count }, (_, string) => {
    const below = string > 0 ? share(levels.boundary[string - 1]! - inclination) : 1;
    const above = string < count - 1 ? share(inclination - levels.boundary[string]!) : 1;
    return Math.min(below, above);
  });
}

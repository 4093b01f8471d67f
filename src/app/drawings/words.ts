/** Numbers and directions in the words of the trade. */

export const degrees = (value: number): string => `${Math.abs(value).toFixed(0)}°`;
export const plusMinus = (u: number, digits = 0): string => `±${Math.max(u, digits === 0 ? 1 : 10 ** -digits).toFixed(digits)}`;

export function skewInWords(value: number): string {
  if (Math.abs(value) < 1) return 'Square';
  return value > 0 ? `${degrees(value)} to the scroll` : `${degrees(value)} to the player`;
}

export const millimetres = (value: number): string => (value < 0 ? `${Math.abs(value).toFixed(0)} mm behind the bridge` : `${value.toFixed(0)} mm from the bridge`);
export const seconds = (value: number): string => value.toFixed(2);

const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth', 'ninth', 'tenth', 'eleventh', 'twelfth'];
export const ordinal = (index: number): string => ORDINALS[index] ?? `${index + 1}th`;
export const partOfBow = (position: number): string =>
  position < 0.12 ? 'at the frog' : position < 1 / 3 ? 'near the frog' : position < 2 / 3 ? 'in the middle' : position < 0.9 ? 'near the tip' : 'at the tip';
export const stageInWords = { 'first-term': 'first term', 'first-year': 'first year', later: 'second year or later' } as const;

import { FINGERS } from './hand';
import { fingerAt, HAND_NUMBERS, THUMB_AT } from './handModel';

/** A hand that holds a bow, for tests: bends of the knuckles and middle joints as usual, those of little finger and thumb as asked for (degrees). */
export function handOfHold(little: number, thumb: number): number[] {
  const numbers = new Array<number>(HAND_NUMBERS).fill(0);
  numbers.splice(0, 6, -5, 105, 42, -20, 5, 4);
  FINGERS.forEach((_, f) => {
    const pip = f === 3 ? little : 50 + 5 * f;
    numbers.splice(fingerAt(f), 4, 30, 2 - 3 * f, pip, 0.6 * pip + 3);
  });
  numbers.splice(THUMB_AT, 4, 0, 0, 5, thumb);
  return numbers;
}

/**
 * The number that would stand at place `n` (from 0) were the first `count` numbers sorted; they are reordered, not
 * sorted. Hoare's quickselect (Communications of the ACM 4, 1961), pivot in the middle. No number may be NaN.
 */
export function nthSmallest(values: Float32Array | Float64Array, count: number, n: number): number {
  let low = 0;
  let high = count - 1;
  while (low < high) {
    const pivot = values[(low + high) >> 1]!;
    let i = low;
    let j = high;
    while (i <= j) {
      while (values[i]! < pivot) i++;
      while (values[j]! > pivot) j--;
      if (i <= j) {
        const v = values[i]!;
        values[i++] = values[j]!;
        values[j--] = v;
      }
    }
    if (n <= j) high = j;
    else if (n >= i) low = i;
    else break;
  }
  return values[n]!;
}

/** Two single numbers in memory, as doubles. */
export function twoAt(address: usize): v128 {
  return f64x2.promote_low_f32x4(v128.load64_zero(address));
}

/** Writes two doubles as single numbers. */
export function storeTwo(address: usize, pair: v128): void {
  v128.store64_lane(address, f32x4.demote_f64x2_zero(pair), 0);
}

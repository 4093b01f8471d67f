import { storeTwo, twoAt } from './pairs';

// Single numbers in memory, double in every sum: squares nearly cancel.

/**
 * A region of a picture of bytes smoothed with weights 1 4 6 4 1 along rows and columns; beyond the region's edge the last
 * sample goes on. `rows` takes `height` rows of `width` sixteen-bit sums.
 */
function soften(luma: usize, stride: i32, width: i32, height: i32, rows: usize, out: usize): void {
  for (let y = 0; y < height; y++) {
    const from = luma + y * stride;
    const to = rows + ((y * width) << 1);
    const inner = width - 10;
    let x = 0;
    for (; x < 2; x++) store<u16>(to + (x << 1), rowSum(from, x, width));
    for (; x <= inner; x += 8) {
      const at = from + x;
      const c = v128.load_ext<u8>(at);
      const near = i16x8.add(v128.load_ext<u8>(at - 1), v128.load_ext<u8>(at + 1));
      const far = i16x8.add(v128.load_ext<u8>(at - 2), v128.load_ext<u8>(at + 2));
      v128.store(to + (x << 1), i16x8.add(i16x8.add(i16x8.mul(c, i16x8.splat(6)), i16x8.shl(near, 2)), far));
    }
    for (; x < width; x++) store<u16>(to + (x << 1), rowSum(from, x, width));
  }
  const row = width << 1;
  const scale = f32x4.splat(1.0 / 256.0);
  for (let y = 0; y < height; y++) {
    const c = rows + y * row;
    const u = rows + max(0, y - 1) * row;
    const d = rows + min(height - 1, y + 1) * row;
    const uu = rows + max(0, y - 2) * row;
    const dd = rows + min(height - 1, y + 2) * row;
    const to = out + ((y * width) << 2);
    let x = 0;
    for (; x <= width - 8; x += 8) {
      const at = x << 1;
      const near = i16x8.add(v128.load(u + at), v128.load(d + at));
      const far = i16x8.add(v128.load(uu + at), v128.load(dd + at));
      const sum = i16x8.add(i16x8.add(i16x8.mul(v128.load(c + at), i16x8.splat(6)), i16x8.shl(near, 2)), far);
      v128.store(to + (x << 2), f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(sum)), scale));
      v128.store(to + (x << 2) + 16, f32x4.mul(f32x4.convert_i32x4_u(i32x4.extend_high_i16x8_u(sum)), scale));
    }
    for (; x < width; x++) {
      const at = x << 1;
      const near = <i32>load<u16>(u + at) + <i32>load<u16>(d + at);
      const far = <i32>load<u16>(uu + at) + <i32>load<u16>(dd + at);
      const sum: i32 = 6 * <i32>load<u16>(c + at) + 4 * near + far;
      store<f32>(to + (x << 2), <f32>sum / 256.0);
    }
  }
}

function clamped(from: usize, x: i32, width: i32): i32 {
  return <i32>load<u8>(from + max(0, min(width - 1, x)));
}

function rowSum(from: usize, x: i32, width: i32): u16 {
  const near = clamped(from, x - 1, width) + clamped(from, x + 1, width);
  const far = clamped(from, x - 2, width) + clamped(from, x + 2, width);
  return <u16>(6 * clamped(from, x, width) + 4 * near + far);
}

/** Means of two by two, and of their squares. */
function gather(value: usize, width: i32, height: i32, w: i32, h: i32, mean: usize, square: usize): void {
  for (let y = 0; y < h; y++) {
    const above = value + ((2 * y * width) << 2);
    const below = value + ((min(height - 1, 2 * y + 1) * width) << 2);
    for (let x = 0; x < w; x++) {
      const left = (2 * x) << 2;
      const right = min(width - 1, 2 * x + 1) << 2;
      const a = <f64>load<f32>(above + left);
      const b = <f64>load<f32>(above + right);
      const c = <f64>load<f32>(below + left);
      const d = <f64>load<f32>(below + right);
      store<f32>(mean + ((y * w + x) << 2), <f32>((a + b + c + d) * 0.25));
      store<f32>(square + ((y * w + x) << 2), <f32>((a * a + b * b + c * c + d * d) * 0.25));
    }
  }
}

/** Running mean over 2 r + 1 samples along each row of two maps; beyond the edge the last sample goes on. */
function boxRows(sourceA: usize, sourceB: usize, w: i32, h: i32, r: i32, outA: usize, outB: usize): void {
  const norm: f64 = 1.0 / <f64>(2 * r + 1);
  for (let y = 0; y < h; y++) {
    const row = (y * w) << 2;
    const a = sourceA + row;
    const b = sourceB + row;
    let sumA: f64 = <f64>r * <f64>load<f32>(a);
    let sumB: f64 = <f64>r * <f64>load<f32>(b);
    for (let k = 0; k <= r; k++) {
      const at = min(k, w - 1) << 2;
      sumA += <f64>load<f32>(a + at);
      sumB += <f64>load<f32>(b + at);
    }
    for (let x = 0; x < w; x++) {
      store<f32>(outA + row + (x << 2), <f32>(sumA * norm));
      store<f32>(outB + row + (x << 2), <f32>(sumB * norm));
      const enter = min(w - 1, x + r + 1) << 2;
      const leave = max(0, x - r) << 2;
      sumA += <f64>load<f32>(a + enter) - <f64>load<f32>(a + leave);
      sumB += <f64>load<f32>(b + enter) - <f64>load<f32>(b + leave);
    }
  }
}

/** The same along columns of one map; maps may be reached into by one number more than they hold. */
function boxColumns(source: usize, w: i32, h: i32, r: i32, sums: usize, out: usize): void {
  const norm = f64x2.splat(1.0 / <f64>(2 * r + 1));
  for (let x = 0; x < w; x += 2) {
    const at = x << 2;
    storeTwo(sums + at, f64x2.mul(f64x2.splat(<f64>r), twoAt(source + at)));
    for (let k = 0; k <= r; k++) storeTwo(sums + at, f64x2.add(twoAt(sums + at), twoAt(source + ((min(k, h - 1) * w) << 2) + at)));
  }
  for (let y = 0; y < h; y++) {
    const to = out + ((y * w) << 2);
    const enter = source + ((min(y + r + 1, h - 1) * w) << 2);
    const leave = source + ((max(y - r, 0) * w) << 2);
    // What is written beyond the end of a row is overwritten by the next.
    for (let x = 0; x < w; x += 2) {
      const at = x << 2;
      const sum = twoAt(sums + at);
      storeTwo(to + at, f64x2.mul(sum, norm));
      storeTwo(sums + at, f64x2.sub(f64x2.add(sum, twoAt(enter + at)), twoAt(leave + at)));
    }
  }
}

/** A row of a half-size map, three quarters of one and a quarter of another, with one more at each end equal to the last. */
function between(map: usize, near: i32, far: i32, w: i32, out: usize): void {
  const a = map + ((near * w) << 2);
  const b = map + ((far * w) << 2);
  for (let x = 0; x < w; x += 2) {
    const at = x << 2;
    storeTwo(out + at + 4, f64x2.add(f64x2.mul(twoAt(a + at), f64x2.splat(0.75)), f64x2.mul(twoAt(b + at), f64x2.splat(0.25))));
  }
  store<f32>(out, load<f32>(out + 4));
  store<f32>(out + ((w + 1) << 2), load<f32>(out + (w << 2)));
}

/**
 * Local normalisation 20 (I - mean) / (sd + 4) of a region whose first byte stands at `luma`; see normaliseRegion. `r` is the
 * radius of the box at half the size. `work` takes {@link normaliseWork} bytes, `out` one number more than the region has.
 */
export function normalise(luma: usize, stride: i32, width: i32, height: i32, r: i32, work: usize, out: usize): void {
  const size = (width * height) << 2;
  const w = (width + 1) >> 1;
  const h = (height + 1) >> 1;
  const map = ((w * h) << 2) + 16;
  const value = work;
  const mean = value + size;
  const square = mean + map;
  const turnA = square + map;
  const turnB = turnA + map;
  const sums = turnB + map;
  const meanRow = sums + ((w + 4) << 2);
  const gainRow = meanRow + ((w + 8) << 2);
  // The sums of rows are done with before the half-size maps are begun, and are no larger.
  soften(luma, stride, width, height, mean, value);
  gather(value, width, height, w, h, mean, square);
  boxRows(mean, square, w, h, r, turnA, turnB);
  boxRows(turnA, turnB, w, h, r, mean, square);
  boxColumns(mean, w, h, r, sums, turnA);
  boxColumns(turnA, w, h, r, sums, mean);
  boxColumns(square, w, h, r, sums, turnB);
  boxColumns(turnB, w, h, r, sums, square);
  // In place of the squares the gain, so that the root is taken a quarter as often.
  for (let i = 0; i < w * h; i += 2) {
    const at = i << 2;
    const m = twoAt(mean + at);
    const variance = f64x2.max(f64x2.splat(0), f64x2.sub(twoAt(square + at), f64x2.mul(m, m)));
    storeTwo(square + at, f64x2.div(f64x2.splat(20), f64x2.add(f64x2.sqrt(variance), f64x2.splat(4))));
  }
  const quarter = f64x2.splat(0.25);
  for (let y = 0; y < height; y++) {
    // A pixel lies a quarter of a half-size pixel to one side of its own one's middle.
    const near = y >> 1;
    const far = min(h - 1, max(0, near + (y & 1 ? 1 : -1)));
    between(mean, near, far, w, meanRow);
    between(square, near, far, w, gainRow);
    const from = value + ((y * width) << 2);
    const to = out + ((y * width) << 2);
    // A pixel to the left and one to the right of each middle; what is written beyond the end of a row is overwritten by the next.
    for (let i = 0; i < w; i++) {
      const at = i << 2;
      const m = f64x2.splat(0.75 * <f64>load<f32>(meanRow + at + 4));
      const k = f64x2.splat(0.75 * <f64>load<f32>(gainRow + at + 4));
      const means = f64x2.add(m, f64x2.mul(quarter, aside(meanRow + at)));
      const gains = f64x2.add(k, f64x2.mul(quarter, aside(gainRow + at)));
      storeTwo(to + (at << 1), f64x2.mul(f64x2.sub(twoAt(from + (at << 1)), means), gains));
    }
  }
}

/** The numbers to the left and right of the one after an address. */
function aside(address: usize): v128 {
  return f64x2.replace_lane(f64x2.splat(<f64>load<f32>(address)), 1, <f64>load<f32>(address, 8));
}

/** Bytes of working memory for {@link normalise}. */
export function normaliseWork(width: i32, height: i32): i32 {
  const w = (width + 1) >> 1;
  const h = (height + 1) >> 1;
  return ((width * height) << 2) + 4 * (((w * h) << 2) + 16) + 3 * ((w + 8) << 2) + (width << 1) + 64;
}

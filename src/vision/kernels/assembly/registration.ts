/**
 * Of each point of a registration, column by column, `room` numbers (f32) apart: slopes along the pose's six numbers, one,
 * expected brightness, residual (NaN outside the picture), weight, seen brightness.
 */
const RESIDUAL: usize = 8;
const WEIGHT: usize = 9;
const SEEN: usize = 10;
/** Columns with whose products the normal equations are made. */
const COLUMNS = 9;
/** Points whose products are added up in single precision before they go to the double sums. */
const BATCH = 256;

/** Columns of a registration's points. */
export function columns(): i32 {
  return <i32>SEEN + 1;
}

/**
 * Reads a patch where points lie under a pose: brightness, its difference from what is expected, and its slopes.
 * `pose`: rotation row by row and translation, doubles. Writes points from `at` on.
 */
export function layOver(
  patch: usize,
  width: i32,
  height: i32,
  f: f64,
  cx: f64,
  cy: f64,
  pose: usize,
  places: usize,
  values: usize,
  count: i32,
  gain: f64,
  offset: f64,
  table: usize,
  room: i32,
  at: i32,
): void {
  const r0 = load<f64>(pose);
  const r1 = load<f64>(pose, 8);
  const r2 = load<f64>(pose, 16);
  const r3 = load<f64>(pose, 24);
  const r4 = load<f64>(pose, 32);
  const r5 = load<f64>(pose, 40);
  const r6 = load<f64>(pose, 48);
  const r7 = load<f64>(pose, 56);
  const r8 = load<f64>(pose, 64);
  const t0 = load<f64>(pose, 72);
  const t1 = load<f64>(pose, 80);
  const t2 = load<f64>(pose, 88);
  const maxX: f64 = <f64>(width - 2);
  const maxY: f64 = <f64>(height - 2);
  const column = (<usize>room) << 2;
  const row = (<usize>width) << 2;
  let to = table + ((<usize>at) << 2);
  for (let i = 0; i < count; i++, to += 4) {
    const X = <f64>load<f32>(places);
    const Y = <f64>load<f32>(places, 4);
    const Z = <f64>load<f32>(places, 8);
    places += 12;
    const expected = load<f32>(values);
    values += 4;
    const qx = r0 * X + r1 * Y + r2 * Z;
    const qy = r3 * X + r4 * Y + r5 * Z;
    const qz = r6 * X + r7 * Y + r8 * Z;
    const z = 1.0 / (qz + t2);
    const x = (qx + t0) * z;
    const y = (qy + t1) * z;
    const u = cx + f * x;
    const v = cy + f * y;
    store<f32>(to + 6 * column, 1);
    store<f32>(to + 7 * column, expected);
    if (!(u >= 1.0 && v >= 1.0 && u < maxX && v < maxY)) {
      for (let q: usize = 0; q < 6; q++) store<f32>(to + q * column, 0);
      store<f32>(to + RESIDUAL * column, f32.NaN);
      store<f32>(to + SEEN * column, 0);
      continue;
    }
    const iu = <i32>u;
    const iv = <i32>v;
    const fu = u - <f64>iu;
    const fv = v - <f64>iv;
    const p = patch + ((<usize>(iv * width + iu)) << 2);
    const a = <f64>load<f32>(p);
    const b = <f64>load<f32>(p, 4);
    const c = <f64>load<f32>(p + row);
    const d = <f64>load<f32>(p + row, 4);
    const top = a + (b - a) * fu;
    const low = c + (d - c) * fu;
    const value = top + (low - top) * fv;
    const gu = (b - a) * (1.0 - fv) + (d - c) * fv;
    const gv = low - top;
    const fx = f * z * gu;
    const fy = f * z * gv;
    const fz = -(fx * x + fy * y);
    store<f32>(to, <f32>(fz * qy - fy * qz));
    store<f32>(to + column, <f32>(fx * qz - fz * qx));
    store<f32>(to + 2 * column, <f32>(fy * qx - fx * qy));
    store<f32>(to + 3 * column, <f32>fx);
    store<f32>(to + 4 * column, <f32>fy);
    store<f32>(to + 5 * column, <f32>fz);
    store<f32>(to + RESIDUAL * column, <f32>(value - gain * <f64>expected - offset));
    store<f32>(to + SEEN * column, <f32>value);
  }
}

/** Median size of every third residual among the first `total`; NaN where fewer than `least` of those lie in the picture. `sizes` is working memory. */
export function medianResidual(table: usize, room: i32, total: i32, least: i32, sizes: usize): f32 {
  const residual = table + RESIDUAL * ((<usize>room) << 2);
  let count = 0;
  for (let i = 0; i < total; i += 3) {
    const e = load<f32>(residual + ((<usize>i) << 2));
    if (!isNaN(e)) {
      store<f32>(sizes + ((<usize>count) << 2), abs(e));
      count++;
    }
  }
  return count < least ? f32.NaN : nthSmallest(sizes, count, count >> 1);
}

/** Hoare's quickselect (Communications of the ACM 4, 1961), pivot in the middle. */
function nthSmallest(values: usize, count: i32, n: i32): f32 {
  let low = 0;
  let high = count - 1;
  while (low < high) {
    const pivot = load<f32>(values + ((<usize>((low + high) >> 1)) << 2));
    let i = low;
    let j = high;
    while (i <= j) {
      while (load<f32>(values + ((<usize>i) << 2)) < pivot) i++;
      while (load<f32>(values + ((<usize>j) << 2)) > pivot) j--;
      if (i <= j) {
        const v = load<f32>(values + ((<usize>i) << 2));
        store<f32>(values + ((<usize>i) << 2), load<f32>(values + ((<usize>j) << 2)));
        store<f32>(values + ((<usize>j) << 2), v);
        i++;
        j--;
      }
    }
    if (n <= j) high = j;
    else if (n >= i) low = i;
    else break;
  }
  return load<f32>(values + ((<usize>n) << 2));
}

/**
 * Weights of `count` points from `at` on: Tukey's on a scale, times trust and the mean weight of the point's block. Adds what
 * could be trusted and what is to two doubles at `sums`; points outside the picture are made harmless. `blocks` numbers the
 * block of each point (u16); `work` takes two f32 a block.
 */
export function weigh(table: usize, room: i32, at: i32, count: i32, trust: usize, blocks: usize, blockCount: i32, scale: f32, work: usize, sums: usize): void {
  const column = (<usize>room) << 2;
  const residual = table + RESIDUAL * column + ((<usize>at) << 2);
  const weight = table + WEIGHT * column + ((<usize>at) << 2);
  memory.fill(work, 0, (<usize>blockCount) << 3);
  let inside: f64 = 0;
  for (let i = 0; i < count; i++) {
    const place = (<usize>i) << 2;
    const e = load<f32>(residual + place);
    let w: f32 = 0;
    if (!isNaN(e)) {
      const q = e / scale;
      if (q < 1 && q > -1) w = (1 - q * q) * (1 - q * q);
      const block = work + ((<usize>load<u16>(blocks + ((<usize>i) << 1))) << 3);
      store<f32>(block, load<f32>(block) + w);
      store<f32>(block, load<f32>(block, 4) + 1, 4);
      inside += <f64>load<f32>(trust + place);
    } else store<f32>(residual + place, 0);
    store<f32>(weight + place, w);
  }
  let trusted: f64 = 0;
  for (let i = 0; i < count; i++) {
    const place = (<usize>i) << 2;
    const w = load<f32>(weight + place);
    if (w > 0) {
      const block = work + ((<usize>load<u16>(blocks + ((<usize>i) << 1))) << 3);
      const believed = (w * load<f32>(trust + place) * load<f32>(block)) / load<f32>(block, 4);
      store<f32>(weight + place, believed);
      trusted += <f64>believed;
    }
  }
  store<f64>(sums, load<f64>(sums) + inside);
  store<f64>(sums, load<f64>(sums, 8) + trusted, 8);
}

/** Sums of the weighted products of each of the first eight columns with itself and the later ones of nine, nine doubles a row at `sums`. */
export function products(table: usize, room: i32, at: i32, count: i32, sums: usize): void {
  memory.fill(sums, 0, COLUMNS * COLUMNS * 8);
  const column = (<usize>room) << 2;
  const whole = count & ~3;
  for (let start = 0; start < whole; start += BATCH) {
    const n = min(BATCH, whole - start);
    const first = table + ((<usize>(at + start)) << 2);
    for (let p = 0; p < COLUMNS - 1; p++) {
      let s0 = f32x4.splat(0);
      let s1 = s0;
      let s2 = s0;
      let s3 = s0;
      let s4 = s0;
      let s5 = s0;
      let s6 = s0;
      let s7 = s0;
      let s8 = s0;
      const end = first + ((<usize>n) << 2);
      const toOwn = <usize>p * column;
      // From the fourth column on only later ones are asked for: a third fewer sums.
      if (p < 3) {
        for (let i = first; i < end; i += 16) {
          const w = f32x4.mul(v128.load(i + toOwn), v128.load(i + WEIGHT * column));
          s0 = f32x4.add(s0, f32x4.mul(w, v128.load(i)));
          s1 = f32x4.add(s1, f32x4.mul(w, v128.load(i + column)));
          s2 = f32x4.add(s2, f32x4.mul(w, v128.load(i + 2 * column)));
          s3 = f32x4.add(s3, f32x4.mul(w, v128.load(i + 3 * column)));
          s4 = f32x4.add(s4, f32x4.mul(w, v128.load(i + 4 * column)));
          s5 = f32x4.add(s5, f32x4.mul(w, v128.load(i + 5 * column)));
          s6 = f32x4.add(s6, f32x4.mul(w, v128.load(i + 6 * column)));
          s7 = f32x4.add(s7, f32x4.mul(w, v128.load(i + 7 * column)));
          s8 = f32x4.add(s8, f32x4.mul(w, v128.load(i + 8 * column)));
        }
      } else {
        for (let i = first; i < end; i += 16) {
          const w = f32x4.mul(v128.load(i + toOwn), v128.load(i + WEIGHT * column));
          s3 = f32x4.add(s3, f32x4.mul(w, v128.load(i + 3 * column)));
          s4 = f32x4.add(s4, f32x4.mul(w, v128.load(i + 4 * column)));
          s5 = f32x4.add(s5, f32x4.mul(w, v128.load(i + 5 * column)));
          s6 = f32x4.add(s6, f32x4.mul(w, v128.load(i + 6 * column)));
          s7 = f32x4.add(s7, f32x4.mul(w, v128.load(i + 7 * column)));
          s8 = f32x4.add(s8, f32x4.mul(w, v128.load(i + 8 * column)));
        }
      }
      const row = sums + <usize>(p * COLUMNS) * 8;
      addLanes(row, s0);
      addLanes(row + 8, s1);
      addLanes(row + 16, s2);
      addLanes(row + 24, s3);
      addLanes(row + 32, s4);
      addLanes(row + 40, s5);
      addLanes(row + 48, s6);
      addLanes(row + 56, s7);
      addLanes(row + 64, s8);
    }
  }
  for (let i = whole; i < count; i++) {
    const place = table + ((<usize>(at + i)) << 2);
    const weight = <f64>load<f32>(place + WEIGHT * column);
    for (let p = 0; p < COLUMNS - 1; p++) {
      const w = weight * <f64>load<f32>(place + <usize>p * column);
      for (let q = p; q < COLUMNS; q++) {
        const sum = sums + <usize>(p * COLUMNS + q) * 8;
        store<f64>(sum, load<f64>(sum) + w * <f64>load<f32>(place + <usize>q * column));
      }
    }
  }
}

function addLanes(sum: usize, s: v128): void {
  const low = <f64>f32x4.extract_lane(s, 0) + <f64>f32x4.extract_lane(s, 1);
  const high = <f64>f32x4.extract_lane(s, 2) + <f64>f32x4.extract_lane(s, 3);
  store<f64>(sum, load<f64>(sum) + low + high);
}

/** Correlation of seen and expected brightness over the first `total` points that count, -1..1. */
export function likeness(table: usize, room: i32, total: i32): f64 {
  const column = (<usize>room) << 2;
  let n: f64 = 0;
  let sa: f64 = 0;
  let sb: f64 = 0;
  let saa: f64 = 0;
  let sbb: f64 = 0;
  let sab: f64 = 0;
  for (let i = 0; i < total; i++) {
    const place = table + ((<usize>i) << 2);
    const w = <f64>load<f32>(place + WEIGHT * column);
    if (w <= 0.05) continue;
    const a = <f64>load<f32>(place + SEEN * column);
    const b = <f64>load<f32>(place + 7 * column);
    n += w;
    sa += w * a;
    sb += w * b;
    saa += w * a * a;
    sbb += w * b * b;
    sab += w * a * b;
  }
  return (sab - (sa * sb) / n) / Math.sqrt(max(1e-9, (saa - (sa * sa) / n) * (sbb - (sb * sb) / n)));
}

/** Each sample of a cross section is the mean of those so far along the bow (px). */
const ALONG_FROM = -1.5;
const ALONG_COUNT = 4;

function within(width: i32, height: i32, x: f64, y: f64): bool {
  return x >= 0.5 && y >= 0.5 && x < <f64>width - 0.5 && y < <f64>height - 0.5;
}

/** Brightness at a place by bilinear interpolation; the centre of the first pixel is (0.5, 0.5). NaN outside. */
function sample(luma: usize, width: i32, height: i32, x: f64, y: f64): f32 {
  if (!within(width, height, x, y)) return f32.NaN;
  const u = x - 0.5;
  const v = y - 0.5;
  const i = <i32>u;
  const j = <i32>v;
  const p = luma + <usize>(j * width + i);
  return between(p, p + <usize>width, u - <f64>i, v - <f64>j);
}

/** Between four pixels: two at an address, two at the one below. */
function between(above: usize, below: usize, fx: f64, fy: f64): f32 {
  const a = <i32>load<u8>(above);
  const c = <i32>load<u8>(below);
  const top = <f64>a + <f64>(<i32>load<u8>(above, 1) - a) * fx;
  const low = <f64>c + <f64>(<i32>load<u8>(below, 1) - c) * fx;
  return <f32>(top + (low - top) * fy);
}

/** Brightness at `count` places (dx, dy) apart from (x, y) on; NaN outside. Returns whether all lie inside. */
function sampleLine(luma: usize, width: i32, height: i32, x: f64, y: f64, dx: f64, dy: f64, count: i32, out: usize): bool {
  const last = <f64>(count - 1);
  if (!within(width, height, x, y) || !within(width, height, x + dx * last, y + dy * last)) {
    let whole = true;
    for (let i = 0; i < count; i++) {
      const v = sample(luma, width, height, x + dx * <f64>i, y + dy * <f64>i);
      store<f32>(out + ((<usize>i) << 2), v);
      if (isNaN(v)) whole = false;
    }
    return whole;
  }
  const row = <usize>width;
  for (let i = 0; i < count; i++) {
    const u = x + dx * <f64>i - 0.5;
    const v = y + dy * <f64>i - 0.5;
    const iu = <i32>u;
    const iv = <i32>v;
    const p = luma + <usize>(iv * width + iu);
    store<f32>(out + ((<usize>i) << 2), between(p, p + row, u - <f64>iu, v - <f64>iv));
  }
  return true;
}

/**
 * The picture across a line along the unit vector (ux, uy) through (x, y): `2 * half + 1` samples, `pitch` apart, each the mean of
 * four along the line; NaN outside. `work` takes as many.
 */
export function cutAcross(luma: usize, width: i32, height: i32, x: f64, y: f64, ux: f64, uy: f64, half: i32, pitch: f64, work: usize, out: usize): void {
  const count = 2 * half + 1;
  const dx = -uy * pitch;
  const dy = ux * pitch;
  const x0 = x - dx * <f64>half;
  const y0 = y - dy * <f64>half;
  memory.fill(out, 0, (<usize>count) << 2);
  for (let a = 0; a < ALONG_COUNT; a++) {
    const along = ALONG_FROM + <f64>a;
    sampleLine(luma, width, height, x0 + ux * along, y0 + uy * along, dx, dy, count, work);
    for (let i = 0; i < count; i++) {
      const place = (<usize>i) << 2;
      store<f32>(out + place, load<f32>(out + place) + load<f32>(work + place) * 0.25);
    }
  }
}

/**
 * A patch about (x, y): rows along (ux, uy) of `2 * along + 1` samples `da` apart, `2 * across + 1` of them `db` apart; half of
 * each row's mean is taken off. NaN outside the picture; returns how many those are.
 */
export function cutPatch(luma: usize, width: i32, height: i32, x: f64, y: f64, ux: f64, uy: f64, along: i32, da: f64, across: i32, db: f64, out: usize): i32 {
  const count = 2 * along + 1;
  const dx = ux * da;
  const dy = uy * da;
  let missing = 0;
  for (let b = -across; b <= across; b++) {
    const x0 = x - uy * db * <f64>b - dx * <f64>along;
    const y0 = y + ux * db * <f64>b - dy * <f64>along;
    const whole = sampleLine(luma, width, height, x0, y0, dx, dy, count, out);
    let sum: f64 = 0;
    let inside = 0;
    for (let i = 0; i < count; i++) {
      const v = load<f32>(out + ((<usize>i) << 2));
      if (whole || !isNaN(v)) {
        sum += <f64>v;
        inside++;
      }
    }
    missing += count - inside;
    const half = inside > 0 ? <f32>(sum / <f64>inside / 2) : <f32>0;
    for (let i = 0; i < count; i++) store<f32>(out + ((<usize>i) << 2), load<f32>(out + ((<usize>i) << 2)) - half);
    out += (<usize>count) << 2;
  }
  return missing;
}

import { twoAt } from './pairs';

/** Variance of brightness (grey levels squared) added to both sides, so that noise on a flat wall is like nothing (ours). */
const FLAT: f64 = 20;

function total(s: v128): f64 {
  return f64x2.extract_lane(s, 0) + f64x2.extract_lane(s, 1);
}

/**
 * Weighted correlation, -1..1, of `count` samples with a mean look; samples that are NaN are passed over. NaN where the weights
 * of the others come to less than `least`.
 */
export function correlate(seen: usize, mean: usize, weights: usize, count: i32, least: f64): f64 {
  let w2 = f64x2.splat(0);
  let a2 = w2;
  let b2 = w2;
  let aa2 = w2;
  let bb2 = w2;
  let ab2 = w2;
  const whole = count & ~1;
  for (let i = 0; i < whole; i += 2) {
    const place = (<usize>i) << 2;
    const raw = twoAt(seen + place);
    const known = f64x2.eq(raw, raw);
    const x = v128.and(raw, known);
    const y = twoAt(mean + place);
    const w = v128.and(twoAt(weights + place), known);
    const wx = f64x2.mul(w, x);
    const wy = f64x2.mul(w, y);
    w2 = f64x2.add(w2, w);
    a2 = f64x2.add(a2, wx);
    b2 = f64x2.add(b2, wy);
    aa2 = f64x2.add(aa2, f64x2.mul(wx, x));
    bb2 = f64x2.add(bb2, f64x2.mul(wy, y));
    ab2 = f64x2.add(ab2, f64x2.mul(wx, y));
  }
  let sw = total(w2);
  let sa = total(a2);
  let sb = total(b2);
  let saa = total(aa2);
  let sbb = total(bb2);
  let sab = total(ab2);
  if (whole < count) {
    const place = (<usize>whole) << 2;
    const x = <f64>load<f32>(seen + place);
    if (!isNaN(x)) {
      const w = <f64>load<f32>(weights + place);
      const y = <f64>load<f32>(mean + place);
      sw += w;
      sa += w * x;
      sb += w * y;
      saa += w * x * x;
      sbb += w * y * y;
      sab += w * x * y;
    }
  }
  if (sw < least) return f64.NaN;
  return (sab - (sa * sb) / sw) / Math.sqrt((saa - (sa * sa) / sw + FLAT * sw) * (sbb - (sb * sb) / sw + FLAT * sw));
}

/**
 * Correlation of a cross section with a template at `offsets` consecutive offsets: `seen` holds as many samples as the template
 * and offsets and up to three more, `t` the template less its weighted mean, `w` its weights. `out` keeps the larger of what it
 * holds (NaN: nothing) and what is found. Returns the largest found, 0 at least.
 */
export function slide(seen: usize, t: usize, w: usize, count: i32, offsets: i32, out: usize): f64 {
  let sw: f64 = 0;
  let stt: f64 = 0;
  for (let j = 0; j < count; j++) {
    const place = (<usize>j) << 2;
    const wj = <f64>load<f32>(w + place);
    const tj = <f64>load<f32>(t + place);
    sw += wj;
    stt += wj * tj * tj;
  }
  let top: f64 = 0;
  for (let o = 0; o < offsets; o += 4) {
    // Four offsets at once, two to a vector.
    let sv = f64x2.splat(0);
    let svv = sv;
    let stv = sv;
    let rv = sv;
    let rvv = sv;
    let rtv = sv;
    const first = seen + ((<usize>o) << 2);
    for (let j = 0; j < count; j++) {
      const place = (<usize>j) << 2;
      const wj = f64x2.splat(<f64>load<f32>(w + place));
      const tj = f64x2.splat(<f64>load<f32>(t + place));
      const v = twoAt(first + place);
      const wv = f64x2.mul(wj, v);
      sv = f64x2.add(sv, wv);
      svv = f64x2.add(svv, f64x2.mul(wv, v));
      stv = f64x2.add(stv, f64x2.mul(wv, tj));
      const r = twoAt(first + place + 8);
      const wr = f64x2.mul(wj, r);
      rv = f64x2.add(rv, wr);
      rvv = f64x2.add(rvv, f64x2.mul(wr, r));
      rtv = f64x2.add(rtv, f64x2.mul(wr, tj));
    }
    const place = out + ((<usize>o) << 2);
    const left = offsets - o;
    top = keep(place, f64x2.extract_lane(sv, 0), f64x2.extract_lane(svv, 0), f64x2.extract_lane(stv, 0), sw, stt, top);
    if (left > 1) top = keep(place + 4, f64x2.extract_lane(sv, 1), f64x2.extract_lane(svv, 1), f64x2.extract_lane(stv, 1), sw, stt, top);
    if (left > 2) top = keep(place + 8, f64x2.extract_lane(rv, 0), f64x2.extract_lane(rvv, 0), f64x2.extract_lane(rtv, 0), sw, stt, top);
    if (left > 3) top = keep(place + 12, f64x2.extract_lane(rv, 1), f64x2.extract_lane(rvv, 1), f64x2.extract_lane(rtv, 1), sw, stt, top);
  }
  return top;
}

/** Keeps a correlation in its slot if it is the larger one; returns the larger of it and the largest so far. */
function keep(slot: usize, sv: f64, svv: f64, stv: f64, sw: f64, stt: f64, top: f64): f64 {
  const c = stv / Math.sqrt((stt + FLAT * sw) * (svv - (sv * sv) / sw + FLAT * sw));
  if (!(c <= <f64>load<f32>(slot))) store<f32>(slot, <f32>c);
  return c > top ? c : top;
}

/**
 * The two end offsets, between `from` and `to` in steps of `step` about (c1, c2), for which stations vote most: `counts` holds what
 * each of `span` offsets counts at each of `n` stations, `shares` (doubles) where along the line those are; offsets off the middle
 * cost 0.01 (offset x slope)^2. `best` holds o1, o2 and the vote so far, and afterwards. What each pair was voted, without that
 * cost, is written to `all` (floats, o2 running fastest).
 */
export function vote(
  counts: usize,
  span: i32,
  shares: usize,
  n: i32,
  c1: i32,
  c2: i32,
  reach: i32,
  from: i32,
  to: i32,
  step: i32,
  slope1: f64,
  slope2: f64,
  best: usize,
  all: usize,
): void {
  const middle = <f64>reach + 0.5;
  let next = all;
  for (let o1 = c1 + from; o1 <= c1 + to; o1 += step) {
    const p1 = <f64>o1 * slope1;
    for (let o2 = c2 + from; o2 <= c2 + to; o2 += step) {
      const lean = <f64>(o2 - o1);
      let sum: f64 = 0;
      let row = counts;
      for (let k = 0; k < n; k++, row += (<usize>span) << 2) {
        const o = <i32>Math.floor(<f64>o1 + lean * load<f64>(shares + ((<usize>k) << 3)) + middle);
        if (o >= 0 && o < span) sum += <f64>load<f32>(row + ((<usize>o) << 2));
      }
      sum /= <f64>n;
      store<f32>(next, <f32>sum);
      next += 4;
      const p2 = <f64>o2 * slope2;
      const v = sum - 0.01 * (p1 * p1 + p2 * p2);
      if (v > load<f64>(best, 16)) {
        store<f64>(best, <f64>o1);
        store<f64>(best, <f64>o2, 8);
        store<f64>(best, v, 16);
      }
    }
  }
}

import type { Vec2 } from '../../core/geometry/vec3';
import { robustLine } from '../../core/linalg/robustLine';
import { doubles, kernels, Region, singles } from '../kernels/kernels';
import { type BowStrip, STATIONS, stationShare } from './bowStrip';
import type { RunningTemplate } from './runningTemplate';

/** Cross section of the bow at each station: `2 * half + 1` samples, `pitch` apart, the hair in the middle. */
export interface BowTemplate {
  readonly half: number;
  readonly look: RunningTemplate;
}

/** Where the hair was found in a strip. */
export interface FoundLine {
  /** Sideways offset (px) from the strip's middle at its first and last station. */
  readonly atFrog: number;
  readonly atTip: number;
  readonly sigmaFrog: number;
  readonly sigmaTip: number;
  /** Places of first and last station that were in the picture, moved onto the line. */
  readonly a: Vec2;
  readonly b: Vec2;
  /** Where along the hair those are. */
  readonly shareA: number;
  readonly shareB: number;
  readonly score: number;
  /** Share of the stations in the picture that carry the line. */
  readonly support: number;
  /** The scale of the cross sections that fitted best, one of {@link GAPS}. */
  readonly gap: number;
  /** What the likeliest line that lies elsewhere is voted, over what this one is: near 1 the picture does not tell which is the bow. */
  readonly rival: number;
}

/** Hair and stick seem nearer or farther apart as the bow tilts: cross sections are tried at these scales. */
export const GAPS: readonly number[] = [0.9, 1, 1.12];

/** Samples between the lines tried at first. */
const COARSE = 2;

const memory = { values: new Region(), like: new Region(), t: new Region(), w: new Region(), counts: new Region(), shares: new Region(), best: new Region(), all: new Region() };

/** Likeness of each station's cross section to the bow's at every sideways offset; NaN where it cannot be told. */
function likeness(strip: BowStrip, template: BowTemplate, reach: number, gaps: readonly number[]): { like: Float32Array; gap: number } {
  const width = 2 * strip.half + 1;
  const span = 2 * reach + 1;
  const values = memory.values.hold(strip.values);
  const out = memory.like.take(4 * STATIONS * span);
  singles(out, STATIONS * span).fill(Number.NaN);
  const tw = 2 * template.half + 1;
  const indices = gaps.map((gap) => {
    const list: { lo: number; f: number }[] = [];
    for (let j = -template.half; j <= template.half; j++) {
      const at = Math.min(Math.max(j / gap, -template.half), template.half - 1e-6) + template.half;
      list.push({ lo: Math.floor(at), f: at - Math.floor(at) });
    }
    return list;
  });
  const tops = new Float64Array(gaps.length);
  const t = new Float32Array(tw);
  const w = new Float32Array(tw);
  for (let k = 0; k < STATIONS; k++) {
    for (let g = 0; g < indices.length; g++) {
      const list = indices[g]!;
      let sw = 0;
      let st = 0;
      for (let j = 0; j < tw; j++) {
        const { lo, f } = list[j]!;
        const at = k * tw + lo;
        t[j] = template.look.mean[at]! * (1 - f) + template.look.mean[at + 1]! * f;
        w[j] = template.look.weights[at]! * (1 - f) + template.look.weights[at + 1]! * f;
        sw += w[j]!;
        st += w[j]! * t[j]!;
      }
      if (sw < 0.5) continue;
      for (let j = 0; j < tw; j++) t[j]! -= st / sw;
      const first = values + 4 * (k * width + strip.half - template.half - reach);
      tops[g]! += kernels.slide(first, memory.t.hold(t), memory.w.hold(w), tw, span, out + 4 * k * span);
    }
  }
  return { like: singles(out, STATIONS * span).slice(), gap: gaps[tops.indexOf(Math.max(...tops))]! };
}

/**
 * Finds the hair line in a strip: every station votes for the sideways offsets at which it looks like the bow,
 * the two end offsets with the most votes win, then a robust fit through the stations' own peaks.
 * `gaps` are the scales tried. `expected` says how far (px, 1 sigma) each end may be from the strip's middle, `elsewhere` how far (px)
 * an end must lie from this line's for another to be its rival: nearer ones cross the same bow.
 */
export function findLine(
  strip: BowStrip,
  template: BowTemplate,
  expected: { frog: number; tip: number },
  elsewhere: number,
  gaps: readonly number[] = GAPS,
): FoundLine | undefined {
  const reach = strip.half - template.half;
  const span = 2 * reach + 1;
  const apart = elsewhere / strip.pitch;
  const { like, gap } = likeness(strip, template, reach, gaps);
  const usable: number[] = [];
  for (let k = 0; k < STATIONS; k++) if (!Number.isNaN(like[k * span + reach]!)) usable.push(k);
  if (usable.length < 14) return undefined;
  const share = (k: number) => k / (STATIONS - 1);

  // What each offset of each station counts, from the first usable station on.
  const counts = new Float32Array(usable.length * span);
  usable.forEach((k, n) => {
    for (let o = 0; o < span; o++) {
      const c = like[k * span + o]!;
      if (c > 0.25) counts[n * span + o] = c * c;
    }
  });
  const [countsAt, sharesAt, bestAt] = [memory.counts.hold(counts), memory.shares.hold(Float64Array.from(usable, share)), memory.best.take(24)];
  doubles(bestAt, 3).set([0, 0, Number.NEGATIVE_INFINITY]);
  /** Votes for all pairs of offsets of such a square, the last offset running fastest. */
  const votesAbout = (o1: number, o2: number, half: number, step: number): Float32Array => {
    const count = (Math.floor((2 * half) / step) + 1) ** 2;
    const all = memory.all.take(4 * count);
    kernels.vote(countsAt, span, sharesAt, usable.length, o1, o2, reach, -half, half, step, strip.pitch / expected.frog, strip.pitch / expected.tip, bestAt, all);
    return singles(all, count).slice();
  };
  const coarse = votesAbout(0, 0, reach, COARSE);
  const [c1, c2] = doubles(bestAt, 2);
  const fine = votesAbout(c1!, c2!, COARSE, 1);
  const [o1Best, o2Best] = doubles(bestAt, 2);
  const best = { o1: o1Best!, o2: o2Best! };
  const voted = fine[(best.o1 - c1! + COARSE) * (2 * COARSE + 1) + best.o2 - c2! + COARSE]!;
  const tries = Math.sqrt(coarse.length);
  const isElsewhere = (n: number) => Math.abs(Math.floor(n / tries) * COARSE - reach - best.o1) > apart || Math.abs((n % tries) * COARSE - reach - best.o2) > apart;
  const rival = coarse.reduce((most, v, n) => (v > most && isElsewhere(n) ? v : most), 0);

  // Own peak of every station near the winning line, to a fraction of a sample.
  const peaks: { s: number; o: number; w: number }[] = [];
  for (const k of usable) {
    const line = best.o1 + (best.o2 - best.o1) * share(k);
    let top = -1;
    let at = Number.NaN;
    for (let d = -4; d <= 4; d++) {
      const o = Math.round(line) + d;
      if (o <= -reach || o >= reach) continue;
      const c = like[k * span + o + reach]!;
      if (c > top) {
        top = c;
        at = o;
      }
    }
    if (!(top > 0.35)) continue;
    const l = like[k * span + at - 1 + reach]!;
    const m = like[k * span + at + reach]!;
    const h = like[k * span + at + 1 + reach]!;
    const bend = l - 2 * m + h;
    const fine = bend < -1e-6 ? Math.min(0.5, Math.max(-0.5, (0.5 * (l - h)) / bend)) : 0;
    peaks.push({ s: share(k), o: at + fine, w: top * top });
  }
  if (peaks.length < 10) return undefined;
  const line = robustLine(peaks, { start: best.o1, end: best.o2, spread: 1.5 }, 0.4);
  const { start: o1, end: o2, spread: scale } = line;
  const near = peaks.filter((p) => Math.abs(p.o - (o1 * (1 - p.s) + o2 * p.s)) < 2 * scale + 0.5);
  const first = usable[0]!;
  const last = usable[usable.length - 1]!;
  const place = (k: number): Vec2 => {
    const o = (o1 + (o2 - o1) * share(k)) * strip.pitch;
    const p = strip.stations[k]!;
    return [p[0] + strip.normal[0] * o, p[1] + strip.normal[1] * o];
  };
  const sd = scale * strip.pitch;
  const mean = near.reduce((sum, p) => sum + Math.sqrt(p.w), 0) / Math.max(1, near.length);
  // Neighbouring stations err alike: count one in three as independent.
  const varianceAt = (k: number) => 3 * sd * sd * line.varianceAt(share(k));
  return {
    atFrog: o1 * strip.pitch,
    atTip: o2 * strip.pitch,
    sigmaFrog: Math.sqrt(varianceAt(first)),
    sigmaTip: Math.sqrt(varianceAt(last)),
    a: place(first),
    b: place(last),
    shareA: stationShare(first),
    shareB: stationShare(last),
    score: mean * (near.length / usable.length),
    support: near.length / usable.length,
    gap,
    rival: rival / voted,
  };
}

import { robustLine } from '../../core/linalg/robustLine';
import { STATIONS, stationShare } from './bowStrip';
import type { BowTemplate } from './lineSearch';

/** How far the middle of the hair may lie from the line it was learnt on, px at 960 across. */
const REACH = 4;
/** The ribbon's surroundings are looked for within this distance of its brightest place (mm, and px at 960 across at least). */
const BESIDE_MM = 7;
const BESIDE = 3;
/** The hair must be brighter than both sides by so many grey levels (ours). */
const LEAST_CONTRAST = 8;
/** Stations that must show it. */
const LEAST_STATIONS = 12;
/** Next to frog and head other things are bright too (share of the hair). */
const INNER = [0.1, 0.95] as const;

export interface HairCentre {
  /** Sideways offset (px) of the middle of the hair from the template's own middle, at frog and tip. */
  readonly atFrog: number;
  readonly atTip: number;
  /** How far off that may be, 1 sigma, from the spread of the stations. */
  readonly sigmaFrog: number;
  readonly sigmaTip: number;
}

/**
 * Where the hair's middle lies in a look gathered over many frames, in which what was behind the bow has
 * washed out: half way between the two places where brightness has fallen half way to either side, which does
 * not lean toward the dark stick. Undefined when no bright ribbon stands out.
 * `pitch` is px between samples, `scale` px a mm at frog and tip.
 */
export function hairCentre(template: BowTemplate, pitch: number, scale: { readonly frog: number; readonly tip: number }, unit: number): HairCentre | undefined {
  const width = 2 * template.half + 1;
  const reach = Math.round((REACH * unit) / pitch);
  const points: { s: number; o: number; w: number }[] = [];
  for (let k = 0; k < STATIONS; k++) {
    const s = stationShare(k);
    if (s < INNER[0] || s > INNER[1]) continue;
    const row = template.look.mean.subarray(k * width, (k + 1) * width);
    const beside = Math.round(Math.max(BESIDE * unit, BESIDE_MM * (scale.frog + (scale.tip - scale.frog) * s)) / pitch);
    let peak = template.half;
    for (let j = template.half - reach; j <= template.half + reach; j++) if (row[j]! > row[peak]!) peak = j;
    const left = halfWay(row, peak, -1, beside);
    const right = halfWay(row, peak, 1, beside);
    if (left === undefined || right === undefined) continue;
    const weight = template.look.weights[k * width + peak]!;
    points.push({ s, o: (left + right) / 2 - template.half, w: weight });
  }
  if (points.length < LEAST_STATIONS) return undefined;
  const line = robustLine(points, { start: 0, end: 0, spread: 3 * (unit / pitch) }, 0.5, 10);
  const { start: frog, end: tip, spread } = line;
  if (Math.abs(frog) > reach || Math.abs(tip) > reach) return undefined;
  // Neighbouring stations err alike: one in four counts.
  const sigma = (s: number) => 2 * spread * Math.sqrt(line.varianceAt(s)) * pitch;
  return { atFrog: frog * pitch, atTip: tip * pitch, sigmaFrog: sigma(0), sigmaTip: sigma(1) };
}

/** Sample (with fraction) at which brightness has fallen half way from the peak to the least within reach on one side. */
function halfWay(row: Float32Array, peak: number, way: 1 | -1, reach: number): number | undefined {
  let low = peak;
  for (let d = 1; d <= reach; d++) {
    const j = peak + way * d;
    if (j < 0 || j >= row.length) break;
    if (row[j]! < row[low]!) low = j;
  }
  if (row[peak]! - row[low]! < LEAST_CONTRAST) return undefined;
  const level = (row[peak]! + row[low]!) / 2;
  for (let j = peak; j !== low; j += way) {
    if (row[j]! >= level && row[j + way]! < level) return j + (way * (row[j]! - level)) / (row[j]! - row[j + way]!);
  }
  return undefined;
}

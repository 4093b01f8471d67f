import type { HairBeside } from '../../core/bow/sighting';
import { robustLine } from '../../core/linalg/robustLine';
import { type BowStrip, STATIONS, stationShare } from './bowStrip';

/** How the ribbon of hair lies to the line of sight, in mid-bow. */
export interface RibbonView {
  /** Half of what is seen of its width (mm), were nothing before it. */
  readonly half: number;
  /** Side of the hair on which the stick is seen, from frog to tip: -1 left, +1 right. */
  readonly stickSide: -1 | 1;
  /** Pixels a mm across the line of sight at frog and tip. */
  readonly scale: { readonly frog: number; readonly tip: number };
}

/** How far the middle of the hair may lie from the line the bow was found on, px at 960 across. */
const REACH = 4;
/** The ribbon's surroundings are looked for within this distance of its brightest place (mm, and px at 960 across at least). */
const BESIDE_MM = 7;
const BESIDE = 3;
/** The hair must be brighter than its surroundings by so many grey levels (ours). */
const LEAST_CONTRAST = 25;
/** Stations that must show it. */
const LEAST_STATIONS = 14;
/** Next to frog and head other things are bright too (share of the hair). */
const INNER = [0.1, 0.95] as const;
/** What is seen so much wider than the hair (share of its half width, and px at 960 across) is more than hair. */
const TOO_WIDE = { share: 1.6, px: 1.5 } as const;
/** How far off the middle may be by what all frames share: px at 960 across, and share of the ribbon's half width where the stick hides a side of it (ours, from twelve films of two renderers: 0.1 to 0.4 px). */
const SHARED = 0.3;
const HALF_WIDTH_SHARE = 0.15;

/**
 * Where the middle of the hair is seen beside the line a bow was found on, frame by frame. The edge away from the
 * stick is always in sight; the other may be hidden by the stick, and is then as far away as the hair is wide. An
 * edge is where brightness has fallen half way. Undefined where too little of the hair stands out from what is behind it.
 * `cross` are cross sections about that line.
 */
export function hairMiddle(cross: BowStrip, view: RibbonView, unit: number): HairBeside | undefined {
  const width = 2 * cross.half + 1;
  const reach = Math.round((REACH * unit) / cross.pitch);
  const points: { s: number; o: number; w: number }[] = [];
  let hidden = 0;
  for (let k = 0; k < STATIONS; k++) {
    const s = stationShare(k);
    if (s < INNER[0] || s > INNER[1]) continue;
    const row = cross.values.subarray(k * width, (k + 1) * width);
    const scale = view.scale.frog + (view.scale.tip - view.scale.frog) * s;
    const beside = Math.round(Math.max(BESIDE * unit, BESIDE_MM * scale) / cross.pitch);
    let peak = cross.half;
    for (let j = cross.half - reach; j <= cross.half + reach; j++) if (row[j]! > row[peak]!) peak = j;
    const far = halfWay(row, peak, view.stickSide === 1 ? -1 : 1, beside);
    if (far === undefined) continue;
    const near = halfWay(row, peak, view.stickSide, beside);
    const whole = view.half * scale;
    const seen = near === undefined ? 0 : (Math.abs(far - near) * cross.pitch) / 2;
    if (seen > TOO_WIDE.share * whole + TOO_WIDE.px * unit) continue;
    const half = Math.max(seen, whole);
    points.push({ s, o: (far - cross.half) * cross.pitch + view.stickSide * half, w: 1 });
    if (seen < whole) hidden += whole;
  }
  if (points.length < LEAST_STATIONS) return undefined;
  const line = robustLine(points, { start: 0, end: 0, spread: 2 * unit }, 0.25 * unit, 10);
  if (Math.max(Math.abs(line.start), Math.abs(line.end)) > REACH * unit) return undefined;
  // Neighbouring stations err alike: one in four counts.
  const sigma = (s: number) => 2 * line.spread * Math.sqrt(line.varianceAt(s));
  const shared = Math.hypot(SHARED * unit, (HALF_WIDTH_SHARE * hidden) / points.length);
  return { atFrog: line.start, atTip: line.end, sigmaFrog: sigma(0), sigmaTip: sigma(1), shared };
}

/** Sample (with fraction) at which brightness has fallen half way from the peak to the least within reach on one side. */
function halfWay(row: Float32Array, peak: number, way: 1 | -1, reach: number): number | undefined {
  let low = peak;
  for (let d = 1; d <= reach; d++) {
    const j = peak + way * d;
    if (j < 0 || j >= row.length) break;
    if (row[j]! < row[low]!) low = j;
  }
  if (!(row[peak]! - row[low]! > LEAST_CONTRAST)) return undefined;
  const level = (row[peak]! + row[low]!) / 2;
  for (let j = peak; j !== low; j += way) {
    if (row[j]! >= level && row[j + way]! < level) return j + (way * (row[j]! - level)) / (row[j]! - row[j + way]!);
  }
  return undefined;
}

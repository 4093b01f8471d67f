import type { Vec2 } from '../../core/geometry/vec3';
import type { Frame } from '../film/frame';
import { weightedCorrelation } from '../image/correlation';
import { cutStrip, STATIONS, stationShare } from './bowStrip';
import type { BowTemplate } from './lineSearch';

/** Spacing of the cross sections (px at 960 across; ours). */
const SPACING = 3;
/** Nearer the ends than this share, cross sections are compared with the ones there: the ends' own may have taken in what lies behind (ours). */
const INNER = 0.12;
/** Sideways play of a cross section, samples (ours). */
const PLAY = 2;
/** A cross section with less of its weight in the picture tells nothing (ours). */
const LEAST_WEIGHT = 0.5;
/** Where the bow must show inside its tip and must not beyond it: from, to (mm; ours). */
const INSIDE = [6, 42] as const;
const BEYOND = [9, 45] as const;
/** What the room beyond a tip in the picture looks like a bow by chance: taken off where there is none to see (ours). */
const OUTSIDE = 0.2;

/** Where along its line the picture shows a bow at all, whatever its ends look like. */
export class BowExtent {
  private constructor(
    private readonly origin: Vec2,
    private readonly u: Vec2,
    private readonly spacing: number,
    /** Likeness of each cross section to the bow's, -1..1; NaN outside the picture. */
    private readonly presence: Float32Array,
  ) {}

  /**
   * Compares cross sections along the line through the expected ends, on beyond both, with the bow's own.
   * `pitch` is the distance between the template's samples (px).
   */
  static along(frame: Frame, expected: { frog: Vec2; tip: Vec2 }, template: BowTemplate, pitch: number): BowExtent {
    const { frog, tip } = expected;
    const length = Math.hypot(tip[0] - frog[0], tip[1] - frog[1]);
    const u: Vec2 = [(tip[0] - frog[0]) / length, (tip[1] - frog[1]) / length];
    const spacing = (SPACING * Math.max(frame.width, frame.height)) / 960;
    const places: Vec2[] = [];
    const shares: number[] = [];
    for (let s = -length; s <= 2 * length; s += spacing) {
      places.push([frog[0] + u[0] * s, frog[1] + u[1] * s]);
      shares.push(Math.min(1 - INNER, Math.max(INNER, s / length)));
    }
    const strip = cutStrip(frame, places, (template.half + PLAY) * pitch, pitch);
    const width = 2 * strip.half + 1;
    const presence = Float32Array.from(shares, (share, i) => rowLikeness(template, station(share), strip.values.subarray(i * width, (i + 1) * width)));
    return new BowExtent(places[0]!, u, spacing, presence);
  }

  /**
   * How well a tip at a place fits what is seen: bow inside of it, none beyond; about -1..1. For a tip outside the
   * picture the bow must show up to the picture's border. `scale` in px a mm along the bow.
   */
  tipAt(place: Vec2, scale: number): number {
    const at = (place[0] - this.origin[0]) * this.u[0] + (place[1] - this.origin[1]) * this.u[1];
    if (at > this.border) return Math.max(0, this.mean(this.border - INSIDE[1] * scale, this.border) ?? 0) - OUTSIDE;
    const inside = this.mean(at - INSIDE[1] * scale, at - INSIDE[0] * scale);
    const beyond = this.mean(at + BEYOND[0] * scale, at + BEYOND[1] * scale);
    return Math.max(0, inside ?? 0) - Math.max(0, beyond ?? 0);
  }

  /** Where the line leaves the picture on the tip's side, px along it. */
  private get border(): number {
    return (this.presence.findLastIndex((p) => !Number.isNaN(p)) + 1) * this.spacing;
  }

  private mean(from: number, to: number): number | undefined {
    let sum = 0;
    let n = 0;
    for (let i = Math.max(0, Math.ceil(from / this.spacing)); i * this.spacing <= to && i < this.presence.length; i++) {
      const p = this.presence[i]!;
      if (Number.isNaN(p)) continue;
      sum += p;
      n++;
    }
    return n > 0 ? sum / n : undefined;
  }
}

const station = (share: number) => Math.min(STATIONS - 1, Math.max(0, Math.round(((share - stationShare(0)) / (stationShare(STATIONS - 1) - stationShare(0))) * (STATIONS - 1))));

/** Best correlation of a cross section with the template's at a station, within the sideways play. */
function rowLikeness(template: BowTemplate, k: number, row: Float32Array): number {
  const width = 2 * template.half + 1;
  const mean = template.look.mean.subarray(k * width, (k + 1) * width);
  const weights = template.look.weights.subarray(k * width, (k + 1) * width);
  let best = Number.NaN;
  for (let o = 0; o <= 2 * PLAY; o++) {
    const c = weightedCorrelation(row.subarray(o, o + width), mean, weights, LEAST_WEIGHT);
    if (!Number.isNaN(c) && !(c <= best)) best = c;
  }
  return best;
}

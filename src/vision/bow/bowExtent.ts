import type { Vec2 } from '../../core/geometry/vec3';
import type { Frame } from '../film/frame';
import type { Address } from '../kernels/kernels';
import { cutAcross, STATIONS, stationShare } from './bowStrip';
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

/** Where along its line the picture shows a bow at all, whatever its ends look like. Only places that are asked about are looked at. */
export class BowExtent {
  private readonly u: Vec2;
  private readonly length: number;
  private readonly spacing: number;
  /** Likeness of each cross section that was looked at to the bow's, -1..1; NaN outside the picture. */
  private readonly seen: (number | undefined)[];
  private seenBorder: number | undefined;

  /**
   * Cross sections along the line through the expected ends, on beyond both, are compared with the bow's own.
   * `pitch` is the distance between the template's samples (px).
   */
  constructor(
    private readonly frame: Frame,
    private readonly expected: { readonly frog: Vec2; readonly tip: Vec2 },
    private readonly template: BowTemplate,
    private readonly pitch: number,
  ) {
    const { frog, tip } = expected;
    this.length = Math.hypot(tip[0] - frog[0], tip[1] - frog[1]);
    this.u = [(tip[0] - frog[0]) / this.length, (tip[1] - frog[1]) / this.length];
    this.spacing = (SPACING * Math.max(frame.width, frame.height)) / 960;
    this.seen = new Array(Math.floor((3 * this.length) / this.spacing) + 1);
  }

  /** Likeness of a cross section, the first one a whole bow before the frog. */
  private presence(i: number): number {
    this.seen[i] ??= this.look(i);
    return this.seen[i]!;
  }

  private look(i: number): number {
    const { frame, expected, template, u } = this;
    const s = i * this.spacing - this.length;
    const x = expected.frog[0] + u[0] * s;
    const y = expected.frog[1] + u[1] * s;
    const half = template.half + PLAY;
    const aside = half * this.pitch;
    if (x < -aside || y < -aside || x > frame.width + aside || y > frame.height + aside) return Number.NaN;
    const row = cutAcross(frame, [x, y], u, half, this.pitch);
    return rowLikeness(template, station(Math.min(1 - INNER, Math.max(INNER, s / this.length))), row);
  }

  /**
   * How well a tip at a place fits what is seen: bow inside of it, none beyond; about -1..1. For a tip outside the
   * picture the bow must show up to the picture's border. `scale` in px a mm along the bow.
   */
  tipAt(place: Vec2, scale: number): number {
    const { frog } = this.expected;
    const at = (place[0] - frog[0]) * this.u[0] + (place[1] - frog[1]) * this.u[1] + this.length;
    if (at > this.border) return Math.max(0, this.mean(this.border - INSIDE[1] * scale, this.border) ?? 0) - OUTSIDE;
    const inside = this.mean(at - INSIDE[1] * scale, at - INSIDE[0] * scale);
    const beyond = this.mean(at + BEYOND[0] * scale, at + BEYOND[1] * scale);
    return Math.max(0, inside ?? 0) - Math.max(0, beyond ?? 0);
  }

  /** Where the line leaves the picture on the tip's side, px along it. */
  private get border(): number {
    if (this.seenBorder === undefined) {
      let last = this.seen.length - 1;
      while (last >= 0 && Number.isNaN(this.presence(last))) last--;
      this.seenBorder = (last + 1) * this.spacing;
    }
    return this.seenBorder;
  }

  private mean(from: number, to: number): number | undefined {
    let sum = 0;
    let n = 0;
    for (let i = Math.max(0, Math.ceil(from / this.spacing)); i * this.spacing <= to && i < this.seen.length; i++) {
      const p = this.presence(i);
      if (Number.isNaN(p)) continue;
      sum += p;
      n++;
    }
    return n > 0 ? sum / n : undefined;
  }
}

const station = (share: number) => Math.min(STATIONS - 1, Math.max(0, Math.round(((share - stationShare(0)) / (stationShare(STATIONS - 1) - stationShare(0))) * (STATIONS - 1))));

/** Best correlation of a cross section with the template's at a station, within the sideways play. */
function rowLikeness(template: BowTemplate, k: number, row: Address): number {
  const width = 2 * template.half + 1;
  const compare = template.look.compare(k * width, width, LEAST_WEIGHT);
  let best = Number.NaN;
  for (let o = 0; o <= 2 * PLAY; o++) {
    const c = compare(row + 4 * o);
    if (!Number.isNaN(c) && !(c <= best)) best = c;
  }
  return best;
}

import { parallaxOf } from '../../core/bow/sharedEnds';
import type { Vec2 } from '../../core/geometry/vec3';
import type { Frame } from '../film/frame';
import { type Address, kernels, lumaAddress, Region, singles } from '../kernels/kernels';
import { RunningTemplate } from './runningTemplate';

/** Samples to either side of the end along and across the bow, and how much bow they cover (mm). */
const ALONG = 40;
const ACROSS = 6;
const REACH_ALONG_MM = 75;
const REACH_ACROSS_MM = 22;
const ROW = 2 * ALONG + 1;
const SIZE = ROW * (2 * ACROSS + 1);

/** Picture scale at an end of the bow, px per mm: along the bow (foreshortened) and across it. */
export interface EndScale {
  readonly along: number;
  readonly across: number;
  /** Cosine of the angle between the bow and the line of sight: + where the tip lies farther off than the frog. */
  readonly slant: number;
}

/** Share of a patch that may lie outside the picture. */
const MOST_OUTSIDE = 0.4;

const memory = new Region();

/**
 * Cuts a patch in the kernels' memory, where it stays until the next one; samples outside the picture are NaN. Half of each
 * row's mean goes: what runs along the bow says nothing about how far along it we are. Undefined when too much lies outside.
 */
function cut(frame: Frame, centre: Vec2, u: Vec2, scale: EndScale): Address | undefined {
  const da = (REACH_ALONG_MM / ALONG) * scale.along;
  const db = (REACH_ACROSS_MM / ACROSS) * scale.across;
  const out = memory.take(4 * SIZE);
  const missing = kernels.cutPatch(lumaAddress(frame), frame.width, frame.height, centre[0], centre[1], u[0], u[1], ALONG, da, ACROSS, db, out);
  return missing < MOST_OUTSIDE * SIZE ? out : undefined;
}

/** A copy of such a patch. */
function cutOut(frame: Frame, centre: Vec2, u: Vec2, scale: EndScale): Float32Array | undefined {
  const at = cut(frame, centre, u, scale);
  return at === undefined ? undefined : singles(at, SIZE).slice();
}

/** Place in mm of a sample, along the bow (+ toward and beyond the tip) and across it. */
const alongOf = (i: number) => ((i % ROW) - ALONG) * (REACH_ALONG_MM / ALONG);
const acrossOf = (i: number) => Math.abs(Math.floor(i / ROW) - ACROSS) * (REACH_ACROSS_MM / ACROSS);

/** The look of one end of the bow along its line: what is searched to tell how far the bow has moved. */
export class EndPatch {
  private constructor(
    private readonly look: RunningTemplate,
    private readonly slant: number,
  ) {}

  /** Cuts the patch at an end of the hair; undefined when too little of it lies in the picture. */
  static cut(frame: Frame, end: Vec2, direction: Vec2, scale: EndScale, which: 'frog' | 'tip'): EndPatch | undefined {
    const values = cutOut(frame, end, direction, scale);
    if (!values) return undefined;
    // Beyond the tip there is only the room; beyond the frog come hand and screw, which move along.
    const trust = (i: number) => {
      const along = alongOf(i);
      const beyond = which === 'tip' && along > 15 ? 0.08 : 1;
      return beyond / (1 + (acrossOf(i) / 9) ** 2 + (along / 50) ** 2);
    };
    return new EndPatch(new RunningTemplate(values, trust), scale.slant);
  }

  learn(frame: Frame, end: Vec2, direction: Vec2, scale: EndScale): void {
    const values = cutOut(frame, end, direction, scale);
    if (values) this.look.learn(values, SIZE);
  }

  /**
   * By how much (px) this end's look is found nearer the tip for each mm that what is seen lies farther off than the hair's
   * line: nothing from where it was cut, more the more the bow has turned to the line of sight since.
   */
  parallax(scale: EndScale): number {
    return parallaxOf(scale.across, scale.slant, this.slant);
  }

  /** Tells how much the picture looks like this end at a place: weighted correlation, -1..1; NaN when it leaves the picture. */
  private likeness(frame: Frame, direction: Vec2, scale: EndScale): (centre: Vec2) => number {
    const compare = this.look.compare();
    return (centre) => {
      const here = cut(frame, centre, direction, scale);
      return here === undefined ? Number.NaN : compare(here);
    };
  }

  /** How much the picture at a place looks like this end, -1..1; within 2 px (at 960 across) along the bow the best. Undefined where it leaves the picture. */
  likenessAt(frame: Frame, place: Vec2, direction: Vec2, scale: EndScale): number | undefined {
    const step = Math.max(frame.width, frame.height) / 960;
    const likeness = this.likeness(frame, direction, scale);
    const at = (by: number) => likeness([place[0] + direction[0] * by * step, place[1] + direction[1] * by * step]);
    const seen = [-2, 0, 2].map(at).filter((v) => !Number.isNaN(v));
    return seen.length > 0 ? Math.max(...seen) : undefined;
  }

  /**
   * Looks for this end along the bow's line, within `reach` px of the expected place. A best place at the
   * border of the search, or one whose patch leaves the picture, is not trusted.
   */
  find(frame: Frame, expected: Vec2, direction: Vec2, scale: EndScale, reach: number): FoundEnd | undefined {
    const step = Math.max(frame.width, frame.height) / 960;
    const n = Math.round(reach / step);
    const likeness = this.likeness(frame, direction, scale);
    const place = (at: number): Vec2 => [expected[0] + direction[0] * at, expected[1] + direction[1] * at];
    const scores = new Float32Array(2 * n + 1).fill(Number.NaN);
    const at = (i: number) => {
      if (Number.isNaN(scores[i]!)) scores[i] = likeness(place((i - n) * step));
      return scores[i]!;
    };
    let best = -1;
    for (let i = 0; i < scores.length; i += 2) if (at(i) > (best < 0 ? -1 : scores[best]!)) best = i;
    if (best < 2 || best > scores.length - 3) return undefined;
    for (const i of [best - 1, best + 1]) if (at(i) > at(best)) best = i;
    if (best < 1 || best > scores.length - 2) return undefined;
    const l = at(best - 1);
    const m = at(best);
    const h = at(best + 1);
    if (Number.isNaN(l) || Number.isNaN(h)) return undefined;
    const bend = l - 2 * m + h;
    const fine = bend < -1e-9 ? Math.max(-1, Math.min(1, (0.5 * (l - h)) / bend)) : 0;
    // A second place nearly as good makes the first one doubtful.
    let rival = -1;
    for (let i = 0; i < scores.length; i++) if (Math.abs(i - best) * step > 8 * step && scores[i]! > rival) rival = scores[i]!;
    return { point: place((best - n + fine) * step), score: m, clear: m - rival };
  }
}

export interface FoundEnd {
  readonly point: Vec2;
  readonly score: number;
  /** How much better than the next best place elsewhere. */
  readonly clear: number;
}

import { heldAtShoulder } from '../instrument/family';
import type { Measured, Quantity } from '../measures/measures';
import { goodEdges } from '../rubric/band';
import type { Bands } from '../rubric/rubric';
import { deviation, mean, median } from '../statistics';
import type { Stroke } from '../strokes/stroke';
import type { TakeMeasures } from '../take/analyse';

/** What is followed from take to take. */
export const TRENDS = [
  'skew_at_tip',
  'contact_fraction',
  'contact_range',
  'instrument_swing_deg',
  'instrument_pitch_deg',
  'instrument_heading_deg',
  'head_tilt_deg',
  'elbow_at_middle',
  'arm_bow_gap_deg',
  'level_range_deg',
  'level_hold_deg',
] as const;
export type Trend = (typeof TRENDS)[number];

/** One take's number of a trend. */
export interface TrendPoint {
  readonly value: number;
  /** How far the strokes differ, 1 sigma. */
  readonly spread: number;
  /** Strokes it was taken from. */
  readonly strokes: number;
  /** The part of the uncertainty that a take's strokes share: camera and marks. */
  readonly shared: number;
}

/** The arm keeps its level in a bow within so many degrees (measurement reference, section 6). */
const LEVEL_HOLD = 5;
/** Fewer strokes say nothing of a take (ours). */
const LEAST_STROKES = 3;

interface Kind {
  readonly title: string;
  readonly unit: 'deg' | 'strip';
  /** One stroke's number and its uncertainty. */
  read(stroke: Stroke, take: TakeMeasures): Measured | undefined;
  /** What is good, in the trend's unit; undefined where this school does not ask for it. */
  good(bands: Bands): readonly [number, number] | undefined;
}

/** Fewer frames say nothing of a stroke. */
const LEAST_FRAMES = 5;

/** The middle value of a frame quantity over a stroke. */
const middleOfStroke =
  (quantity: Quantity) =>
  (stroke: Stroke, take: TakeMeasures): Measured | undefined => {
    const values = take.frames.slice(stroke.first, stroke.last + 1).flatMap((f) => f.values[quantity] ?? []);
    return values.length >= LEAST_FRAMES ? { value: median(values.map((v) => v.value)), u: mean(values.map((v) => v.u)) } : undefined;
  };

const heldUp = (take: TakeMeasures): boolean => heldAtShoulder(take.family);

export const TREND_KINDS: Record<Trend, Kind> = {
  skew_at_tip: { title: 'Bow at the tip', unit: 'deg', read: (s) => s.thirds.tip.skew_deg, good: (b) => [-b.skew.good, b.skew.good] },
  contact_fraction: {
    title: 'Contact point, share of the strip',
    unit: 'strip',
    read: (s) => s.contact_fraction,
    good: (b) => [b.contactFraction.middle - b.contactFraction.good, b.contactFraction.middle + b.contactFraction.good],
  },
  contact_range: { title: 'Contact point, wandering in a bow', unit: 'strip', read: (s) => s.contactRange, good: (b) => [0, b.contactRange.good] },
  instrument_swing_deg: { title: 'Instrument, swing in a bow', unit: 'deg', read: (s) => s.instrumentSwing, good: (b) => [0, b.swing.good] },
  instrument_pitch_deg: {
    title: 'Scroll, up or down',
    unit: 'deg',
    read: (s, take) => (heldUp(take) ? middleOfStroke('instrument_pitch_deg')(s, take) : undefined),
    good: (b) => goodEdges(b.pitch),
  },
  instrument_heading_deg: {
    title: 'Scroll, to the left',
    unit: 'deg',
    read: (s, take) => (heldUp(take) ? middleOfStroke('instrument_heading_deg')(s, take) : undefined),
    good: (b) => goodEdges(b.heading),
  },
  head_tilt_deg: { title: 'Head, laid down', unit: 'deg', read: middleOfStroke('head_tilt_deg'), good: (b) => goodEdges(b.headTilt) },
  elbow_at_middle: { title: 'Elbow in mid-bow', unit: 'deg', read: (s) => s.elbowAtMiddle, good: (b) => goodEdges(b.elbowAtMiddle) },
  level_range_deg: { title: 'Level, frog and tip against the middle', unit: 'deg', read: (s) => s.levelRange, good: (b) => [0, b.levelKept.good] },
  level_hold_deg: { title: 'Arm, leaving its level in a bow', unit: 'deg', read: (s) => s.levelHold, good: () => [0, LEVEL_HOLD] },
  arm_bow_gap_deg: {
    title: 'Upper arm against the bow',
    unit: 'deg',
    read: middleOfStroke('arm_bow_gap_deg'),
    good: (b) => b.armBowGap && [-b.armBowGap.good, b.armBowGap.good],
  },
};

/** A take's number from its strokes' numbers; undefined where too few strokes show it. */
export function pointFrom(values: readonly Measured[]): TrendPoint | undefined {
  if (values.length < LEAST_STROKES) return undefined;
  const middle = mean(values.map((v) => v.value));
  const spread = deviation(values.map((v) => v.value));
  // Within a take, camera and marks err alike: their doubt does not average away.
  return { value: middle, spread, strokes: values.length, shared: mean(values.map((v) => v.u)) };
}

/** A take's number of a trend; undefined where too few strokes show it. */
export const trendPoint = (take: TakeMeasures, trend: Trend): TrendPoint | undefined => pointFrom(take.strokes.flatMap((s) => TREND_KINDS[trend].read(s, take) ?? []));

/** What changed from one take to another. */
export interface Change {
  /** Second less first. */
  readonly by: number;
  /** Standard uncertainty of the change. */
  readonly u: number;
  /** Nearer to what is good, further from it, or no more than the measuring error. */
  readonly verdict: 'better' | 'worse' | 'same';
}

/** Changes smaller than this many standard uncertainties are none (measurement reference, section 6). */
const REAL = 2;

/**
 * Whether a trend got better: the change must exceed 2 sqrt(v1/n1 + v2/n2 + c1^2 + c2^2), v the variance between
 * strokes, n their number, c the shared part of u; and lead toward what is good.
 */
export function changeOf(before: TrendPoint, after: TrendPoint, good: readonly [number, number]): Change {
  const by = after.value - before.value;
  const u = Math.sqrt(before.spread ** 2 / before.strokes + after.spread ** 2 / after.strokes + before.shared ** 2 + after.shared ** 2);
  const outside = (v: number) => Math.max(0, good[0] - v, v - good[1]);
  const gain = outside(before.value) - outside(after.value);
  const verdict = Math.abs(by) <= REAL * u || gain === 0 ? 'same' : gain > 0 ? 'better' : 'worse';
  return { by, u, verdict };
}

import type { Measured } from '../measures/measures';

export const THIRDS = ['frog', 'middle', 'tip'] as const;
export type Third = (typeof THIRDS)[number];

/** Third of the bow that a bow position (0 frog .. 1 tip) lies in. */
export const thirdOf = (position: number): Third => (position < 1 / 3 ? 'frog' : position < 2 / 3 ? 'middle' : 'tip');

/** Means over the frames of one third of the bow in one stroke; absent where nothing was measured. */
export interface ThirdSummary {
  readonly seconds: number;
  readonly skew_deg?: Measured;
  readonly contact_mm?: Measured;
  readonly contact_fraction?: Measured;
  readonly inclination_deg?: Measured;
}

/** One bow stroke. Times in seconds from the first frame; positions 0 frog .. 1 tip. */
export interface Stroke {
  readonly index: number;
  readonly from: number;
  readonly to: number;
  /** First and last place in the list of frame measures. */
  readonly first: number;
  readonly last: number;
  readonly direction: 'down' | 'up';
  /** The string played most of the time; absent when unknown. */
  readonly string?: string;
  readonly fromPosition: number;
  readonly toPosition: number;
  readonly meanSpeed: number;
  readonly peakSpeed: number;
  readonly thirds: Readonly<Record<Third, ThirdSummary>>;
  readonly skew_deg?: Measured;
  readonly contact_mm?: Measured;
  readonly contact_fraction?: Measured;
  /** Largest less smallest contact fraction within the stroke (5 % to 95 %). */
  readonly contactRange?: Measured;
  /** Range of the direction of the instrument's long axis in the room, degrees; absent where it was not followed. */
  readonly instrumentSwing?: Measured;
  /** Part of the hand's way in the upper half that the elbow's opening makes; absent where the arm was not measured or the upper half not played. */
  readonly forearmShare?: Measured;
  /** Elbow's angle in the middle of the bow, degrees; absent where the arm was not measured or the middle not played. */
  readonly elbowAtMiddle?: Measured;
  /** How far the upper arm leaves its expected course, degrees; absent where the arm was not measured well enough. */
  readonly levelHold?: Measured;
  /** How much the fingers' middle joints change over a whole bow, degrees: the mean of their own changes; absent where the hand was not measured. */
  readonly handMobility?: Measured;
  /** How far the bow's level near frog or tip departs from that in the middle, degrees: the larger one; absent where a third was not played. */
  readonly levelRange?: Measured;
  /** Degrees of skew over a whole bow; + the tip swings to the scroll along the bow. */
  readonly arcIndex?: Measured;
}

import type { Quantity } from '../../measures/measures';
import type { Rubric } from '../../rubric/rubric';
import type { Stroke, Third } from '../../strokes/stroke';

/** One row of the catalogue: what is measured, where the edge is, what it is called. */
interface FaultBase {
  readonly id: string;
  /** Shown as the finding's title: where, then what. */
  title(third: Third | 'all'): string;
  /** Edges of what is good, from bands already scaled to the stage. */
  band(bands: Rubric['bands']): readonly [number, number];
  /** Unit written behind values in sentences. */
  readonly unit: 'deg' | 'strip';
  readonly exercises: readonly string[];
}

/** Judged frame by frame within strokes. */
export interface FrameFault extends FaultBase {
  readonly kind: 'frame';
  readonly quantity: Quantity;
  beyond(bands: Rubric['bands']): (value: number) => number;
}

/** Judged by one number a stroke. */
export interface StrokeFault extends FaultBase {
  readonly kind: 'stroke';
  readonly quantity: string;
  /** Frame quantity it rests on, to know what could be judged. */
  readonly restsOn: Quantity;
  measure(stroke: Stroke): { value: number; u: number } | undefined;
  beyond(bands: Rubric['bands']): (value: number) => number;
}

export type Fault = FrameFault | StrokeFault;

/** "Past the middle, " and the like, to begin a title. */
export const where = (third: Third | 'all'): string =>
  third === 'tip' ? 'Past the middle, ' : third === 'frog' ? 'Near the frog, ' : third === 'middle' ? 'In the middle of the bow, ' : 'Along the whole bow, ';

import type { SoundEvents } from '../../crossings/soundEvents';
import { FAMILIES, type Family, heldAtShoulder } from '../../instrument/family';
import type { FrameMeasures, Measured, Quantity } from '../../measures/measures';
import { type Band, beyond } from '../../rubric/band';
import type { Bands, Sound } from '../../rubric/rubric';
import type { Stroke, Third } from '../../strokes/stroke';
import type { CauseId, Evidence } from '../finding';

/** How a value is written: degrees, share of the strip, shoulder widths, finger widths, milliseconds, millimetres, a share, or a number alone. */
export type Unit = 'deg' | 'strip' | 'shoulders' | 'fingers' | 'ms' | 'mm' | 'share' | 'plain';

/** The drawing of a value against its band. */
export interface Scale {
  readonly range: readonly [number, number];
  /** Words at its left end, over what is good, at its right end. */
  readonly ends: readonly [string, string, string];
}

/** One row of the catalogue: what is measured, where the edge is, what it is called. */
interface FaultBase {
  readonly id: string;
  /** Shown as the finding's title: where, then what; `word` is what the rubric calls its {@link sound}. */
  title(third: Third | 'all', word?: string): string;
  /** The sound it is about, for which teachers have words of their own. */
  readonly sound?: Sound;
  /** The rubric's band, already scaled to the stage; undefined where this school does not ask for it. */
  band(bands: Bands): Band | undefined;
  /** Which side of the band is the fault. */
  readonly side: 'above' | 'below' | 'either';
  readonly unit: Unit;
  readonly scale: Scale;
  /** Families it is judged for; all where left out. */
  readonly families?: readonly Family[];
  /** Values that are not judged here: an exercise on purpose, or another row's. */
  spared?(value: number): boolean;
  readonly exercises: readonly string[];
  /** Not told when one of these is found: it would be the same fault twice. */
  readonly unless?: readonly string[];
}

/** Judged frame by frame within strokes. */
export interface FrameFault extends FaultBase {
  readonly kind: 'frame';
  readonly quantity: Quantity;
  /** Only where the bow is there: from, to as shares of the hair. */
  readonly within?: readonly [number, number];
}

/** A posture: judged by the share of the measured time. */
export interface PostureFault extends FaultBase {
  readonly kind: 'posture';
  /** The edge counts as passed by more than so many standard uncertainties; one where left out. */
  readonly excess?: number;
  readonly quantity: Quantity;
  /** Only where the bow is there: from, to as shares of the hair. */
  readonly within?: readonly [number, number];
  /** The same fault seen in another quantity: judged where the first does not show it. */
  readonly or?: Pick<PostureFault, 'quantity' | 'scale'> & Partial<Pick<PostureFault, 'title' | 'unit' | 'side'>> & { band(bands: Bands): Band | undefined };
}

/** Judged by one number a stroke. */
export interface StrokeFault extends FaultBase {
  readonly kind: 'stroke';
  readonly quantity: string;
  /** Frame quantity it rests on, to know what could be judged; none where the number carries all doubt itself. */
  readonly restsOn?: Quantity;
  measure(stroke: Stroke): { value: number; u: number } | undefined;
  /** Whether a number beyond the edge is this fault in this stroke; always where left out. */
  shows?(stroke: Stroke): boolean;
}

/** One number for a whole take, and where it shows. */
export interface TakeNumber extends Measured {
  readonly stretches: readonly { readonly from: number; readonly to: number; readonly stroke: number }[];
  /** How many strokes or crossings could show it. */
  readonly eligible: number;
  readonly string?: string;
  readonly cause?: CauseId;
  readonly evidence?: readonly Evidence[];
}

/** Judged by one number for the whole take, from what picture and sound tell together. */
export interface TakeFault extends FaultBase {
  readonly kind: 'take';
  readonly quantity: string;
  /** What it was looked for in. */
  readonly over: 'crossings' | 'bow changes' | 'bows';
  /** Each occurrence counts by itself: it must be a habit, in so many bows and so large a share of them. */
  readonly counted?: true;
  measure(events: SoundEvents, strokes: readonly Stroke[], rest: { readonly frames: readonly FrameMeasures[]; readonly bands: Bands }): TakeNumber | undefined;
}

export type Fault = FrameFault | PostureFault | StrokeFault | TakeFault;

/** Fields of the rows that count bows: how large a share of them shows the fault. */
export const COUNTED_BOWS = {
  kind: 'take',
  over: 'bows',
  counted: true,
  unit: 'share',
  side: 'above',
  scale: { range: [0, 1], ends: ['never', '', 'every bow'] },
} as const satisfies Partial<TakeFault>;

/** Violin and viola: held up by the head and arm. */
export const HELD_UP: readonly Family[] = FAMILIES.filter(heldAtShoulder);

/** Distance of a value beyond the fault's edge, + beyond. */
export const beyondOf =
  (fault: Fault, band: Band): ((value: number) => number) =>
  (value) =>
    fault.spared?.(value) ? -1 : beyond(band, fault.side, value);

/** "Past the middle, " and the like, to begin a title. */
export const where = (third: Third | 'all'): string =>
  third === 'tip' ? 'Past the middle, ' : third === 'frog' ? 'Near the frog, ' : third === 'middle' ? 'In the middle of the bow, ' : 'Along the whole bow, ';

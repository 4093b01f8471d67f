import type { Family } from '../../src/core/instrument/family';
import { OPEN_STRING_HZ } from '../../src/core/sound/openStrings';
import type { StrokeSpec } from '../presets/scenario';

/** Semitones over the open string of each finger in first position, the second finger high on violin and viola (common practice, no source). */
const SEMITONES: Record<Family, readonly number[]> = { violin: [0, 2, 4, 5, 7], viola: [0, 2, 4, 5, 7], cello: [0, 2, 3, 4, 5], bass: [0, 2, 2, 4, 4] };

/** Pitch of a stroke's note. */
export const pitchOf = (family: Family, stroke: StrokeSpec): number => OPEN_STRING_HZ[family][stroke.string]! * 2 ** (SEMITONES[family][stroke.finger ?? 0]! / 12);

/** A note as it was meant. */
export interface Note {
  /** Seconds from the first frame. */
  readonly from: number;
  readonly to: number;
  readonly string: string;
  readonly finger: number;
  readonly hz: number;
}

/** A string that sounds beside or instead of the one meant. */
export interface StrayNote {
  /** Seconds from the first frame. */
  readonly from: number;
  readonly to: number;
  readonly string: string;
}

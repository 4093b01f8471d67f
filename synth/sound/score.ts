import type { Family } from '../../src/core/instrument/family';
import type { StrokeSpec } from '../presets/scenario';

/** Open strings from the lowest, Hz at A = 440, tuned in pure fifths (common practice, no source). */
export const OPEN_STRING_HZ: Record<Family, readonly number[]> = {
  violin: [195.56, 293.33, 440, 660],
  viola: [130.37, 195.56, 293.33, 440],
  cello: [65.19, 97.78, 146.67, 220],
  bass: [41.25, 55, 73.33, 97.78],
};

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

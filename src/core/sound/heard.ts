import type { Tone } from './tone';

/** A note as it was heard. Times in seconds from the beginning of the sound. */
export interface HeardNote {
  readonly from: number;
  readonly to: number;
  /** Index of the string from the lowest on which the pitch most likely lies in first position. */
  readonly string: number;
  /** Semitones over that open string. */
  readonly stop: number;
  readonly hz: number;
  /** 0..1 */
  readonly confidence: number;
  /** It begins anew on the pitch of the note before: a new bow, not a new pitch. */
  readonly again: boolean;
  readonly tone: Tone;
}

/** Another string than the one under way sounds too. */
export interface SecondString {
  readonly from: number;
  readonly to: number;
  /** Index from the lowest. */
  readonly string: number;
  /** The string of the note under way. */
  readonly beside: number;
  /** Its harmonics against those of the note under way, dB. */
  readonly level: number;
  readonly confidence: number;
}

/** What a clip's sound tells. */
export interface Heard {
  /** How the instrument is tuned, cents from A = 440, with standard uncertainty. */
  readonly cents: number;
  readonly cents_u: number;
  readonly notes: readonly HeardNote[];
  readonly seconds: readonly SecondString[];
}

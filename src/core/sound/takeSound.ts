import type { Measured } from '../measures/measures';
import type { Heard, HeardNote, SecondString } from './heard';

/** The sound of a take beside its picture. */
export interface TakeSound {
  /** In the clock of the sound. */
  readonly heard: Heard;
  /** How much later the sound comes than the picture, seconds; absent where the two could not be laid together. */
  readonly late?: Measured | undefined;
}

/** Notes and second strings in the clock of the picture; `shift` instead of the measured offset where the teacher gave one (seconds, + = sound late). */
export function inFilmTime({ heard, late }: TakeSound, shift: number = late?.value ?? 0): { notes: HeardNote[]; seconds: SecondString[] } {
  const moved = <T extends { from: number; to: number }>(span: T): T => ({ ...span, from: span.from - shift, to: span.to - shift });
  return { notes: heard.notes.map(moved), seconds: heard.seconds.map(moved) };
}

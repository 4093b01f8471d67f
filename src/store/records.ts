import type { CauseId } from '../core/findings/finding';
import type { Marks } from '../core/formats/marks';
import type { Family } from '../core/instrument/family';
import type { DismissalReason } from '../core/rubric/dismissals';
import type { Rubric } from '../core/rubric/rubric';
import type { Refusal } from '../core/start/outcome';
import type { Third } from '../core/strokes/stroke';
import type { TakeMeasures } from '../core/take/analyse';
import type { Task } from '../core/take/task';

/** A student as the teacher knows them. */
export interface StudentRecord {
  readonly id: string;
  readonly name: string;
  readonly family: Family;
  readonly size: string;
  /** When they began to play, ISO date: how far they are in a take follows from it. */
  readonly startedOn: string;
  readonly rubric: string;
  /** How the instrument is held; to the right-handed way where absent. */
  readonly side?: 'left' | 'right';
  /** Where they are taught. */
  readonly place: string;
}

/** Facts of a film found when it was taken in. */
export interface FilmRecord {
  readonly width: number;
  readonly height: number;
  readonly frames: number;
  readonly duration: number;
  readonly hasSound: boolean;
}

/** What looking for the instrument without marks came to: frames to start from, the best first, or why there is none. */
export type StartRecord = { readonly candidates: readonly Marks[] } | { readonly refused: Refusal };

/** One filmed take. */
export interface TakeRecord {
  readonly id: string;
  readonly studentId: string;
  readonly title: string;
  /** ISO date. */
  readonly filmedOn: string;
  readonly film: FilmRecord;
  readonly marks?: Marks;
  /** Absent while nobody has looked. */
  readonly start?: StartRecord;
  readonly reviewedAt?: string;
  /** The rubric it was reviewed with, at its version then. */
  readonly reviewedWith?: { readonly rubric: string; readonly version: number };
  /** How the week that follows is planned; defaults where absent. */
  readonly plan?: PlanRecord;
  /** What was played; ordinary playing where absent. */
  readonly task?: Task;
  /** How far the lens was zoomed, where the teacher said so before there were marks; then these say it. */
  readonly zoom?: number;
  /** How much later the sound comes than the picture, seconds, where the teacher set it; measured otherwise. */
  readonly soundShift?: number;
  /** Asked to be measured and not done yet: taken up again after a reload. */
  readonly measureWanted?: boolean;
}

/** The teacher's choices for a week's plan. */
export interface PlanRecord {
  readonly minutesADay: number;
  /** Exercises taken out, by name. */
  readonly without: readonly string[];
}

/** The film itself, kept apart so that lists stay quick. */
export interface MediaRecord {
  readonly takeId: string;
  readonly blob: Blob;
}

/** What was measured, with the marks it came from. */
export interface MeasuresRecord {
  readonly takeId: string;
  readonly marks: Marks;
  readonly measures: TakeMeasures;
}

/** The teacher's own word on where a fault shows and what causes it. */
export interface Adjustment {
  readonly third?: Third | 'all';
  readonly cause?: CauseId;
}

export type Verdict = 'confirmed' | 'dismissed';

/** The teacher's word on one finding of one take. */
export interface VerdictRecord {
  readonly takeId: string;
  readonly fault: string;
  readonly verdict?: Verdict;
  /** Why it was set aside, where the teacher said. */
  readonly reason?: DismissalReason;
  /** The number it rested on when the word was given. */
  readonly value?: number;
  /** What the teacher sees otherwise than measured. */
  readonly adjusted?: Adjustment;
  readonly note?: string;
  /** Made a focus of the week. */
  readonly focus?: boolean;
}

/** One version of a rubric of the teacher's own. */
export type RubricRecord = Rubric;

/** A place of the teacher's round, and when it is visited next (ISO date). */
export interface PlaceRecord {
  readonly place: string;
  readonly nextVisit?: string;
}

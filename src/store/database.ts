import { format, subMonths } from 'date-fns';
import Dexie, { type Table } from 'dexie';
import type { Stage } from '../core/rubric/rubric';
import type { MeasuresRecord, MediaRecord, PlaceRecord, RubricRecord, StudentRecord, TakeRecord, VerdictRecord } from './records';

/** Months that a student of a stage has likely played. */
const MONTHS_IN: Record<Stage, number> = { 'first-term': 2, 'first-year': 8, later: 24 };

/** Everything the application keeps, in this browser only. */
export class Database extends Dexie {
  declare students: Table<StudentRecord, string>;
  declare takes: Table<TakeRecord, string>;
  declare media: Table<MediaRecord, string>;
  declare measures: Table<MeasuresRecord, string>;
  declare verdicts: Table<VerdictRecord, [string, string]>;
  declare places: Table<PlaceRecord, string>;
  declare rubrics: Table<RubricRecord, [string, number]>;

  constructor(name = 'gestometra') {
    super(name);
    this.version(1).stores({
      students: 'id, name',
      takes: 'id, studentId, filmedOn',
      media: 'takeId',
      measures: 'takeId',
      verdicts: '[takeId+fault], takeId',
    });
    this.version(2).stores({ rubrics: '[id+version], id', places: 'place' });
    // Students were kept with their stage alone: a likely day of their start stands in for it until the teacher gives it.
    this.version(3).upgrade((change) =>
      change
        .table('students')
        .toCollection()
        .modify((student: { stage?: Stage; startedOn?: string }) => {
          student.startedOn ??= format(subMonths(new Date(), MONTHS_IN[student.stage ?? 'later']), 'yyyy-MM-dd');
          delete student.stage;
        }),
    );
  }
}

export const database = new Database();

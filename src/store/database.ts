import Dexie, { type Table } from 'dexie';
import type { MeasuresRecord, MediaRecord, PlaceRecord, RubricRecord, StudentRecord, TakeRecord, VerdictRecord } from './records';

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
  }
}

export const database = new Database();

import type { Database } from './database';
import type { PlaceRecord } from './records';
import type { TakeWithStudent } from './takes';

export const listPlaces = (db: Database): Promise<PlaceRecord[]> => db.places.toArray();

/** When a place is visited next; undefined when no visit is planned. */
export async function saveVisit(db: Database, place: string, nextVisit: string | undefined): Promise<void> {
  await db.places.put({ place, ...(nextVisit ? { nextVisit } : {}) });
}

/** What a take still needs of the teacher, the most pressing first. */
export const NEEDS = ['judge', 'confirm', 'mark', 'measure', 'nothing'] as const;
export type Need = (typeof NEEDS)[number];

export function needOf({ take }: TakeWithStudent, measured: ReadonlySet<string>): Need {
  if (take.reviewedAt) return 'nothing';
  if (measured.has(take.id)) return 'judge';
  if (take.marks) return 'measure';
  return take.start && 'candidates' in take.start ? 'confirm' : 'mark';
}

/** The takes of one place of the round. */
export interface RoundStop {
  readonly place: string;
  readonly nextVisit: string | undefined;
  /** By need, then the newest first. */
  readonly takes: readonly TakeWithStudent[];
  /** How many wait for the teacher. */
  readonly waiting: number;
}

/**
 * Takes by place, in the order of the next visits; places whose visit is past or not planned come after, by name.
 * @param today ISO date
 */
export function roundOf(takes: readonly TakeWithStudent[], places: readonly PlaceRecord[], measured: ReadonlySet<string>, today: string): RoundStop[] {
  const visit = new Map(places.map((p) => [p.place, p.nextVisit]));
  const byPlace = new Map<string, TakeWithStudent[]>();
  for (const entry of takes) byPlace.set(entry.student.place, [...(byPlace.get(entry.student.place) ?? []), entry]);
  const rank = (entry: TakeWithStudent) => NEEDS.indexOf(needOf(entry, measured));
  const due = (stop: RoundStop) => (stop.nextVisit && stop.nextVisit >= today ? stop.nextVisit : '9999');
  return [...byPlace]
    .map(([place, list]): RoundStop => {
      const sorted = [...list].sort((a, b) => rank(a) - rank(b) || b.take.filmedOn.localeCompare(a.take.filmedOn));
      return { place, nextVisit: visit.get(place), takes: sorted, waiting: list.filter((e) => !e.take.reviewedAt).length };
    })
    .sort((a, b) => due(a).localeCompare(due(b)) || a.place.localeCompare(b.place));
}

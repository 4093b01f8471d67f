import { z } from 'zod';
import { parseMarks } from '../core/formats/marks';
import { FAMILIES } from '../core/instrument/family';
import type { Database } from './database';
import { addTake } from './takes';

const demoSchema = z.object({
  places: z.array(z.object({ place: z.string(), nextVisit: z.string() })).default([]),
  students: z.array(
    z.object({
      id: z.string(),
      name: z.string(),
      family: z.enum(FAMILIES),
      size: z.string(),
      startedOn: z.iso.date(),
      rubric: z.string(),
      place: z.string(),
      side: z.enum(['left', 'right']).optional(),
    }),
  ),
  takes: z.array(
    z.object({
      id: z.string(),
      studentId: z.string(),
      title: z.string(),
      filmedOn: z.string(),
      film: z.object({ width: z.number(), height: z.number(), frames: z.number(), duration: z.number(), hasSound: z.boolean() }),
      video: z.string(),
      marks: z.string().optional(),
    }),
  ),
});

/**
 * Fills an empty database with the demo students when the server offers them. Answers the ids of the takes
 * that came with marks, none when there is no demo or something is already kept.
 */
export async function loadDemo(db: Database, fetchFile: (path: string) => Promise<Response> = (path) => fetch(path)): Promise<string[]> {
  if ((await db.students.count()) > 0) return [];
  const response = await fetchFile('/demo/index.json').catch(() => undefined);
  if (!response?.ok || !response.headers.get('content-type')?.includes('json')) return [];
  const demo = demoSchema.parse(await response.json());
  await db.places.bulkPut(demo.places);
  await db.students.bulkPut(demo.students);
  for (const { video, marks, ...take } of demo.takes) {
    const blob = await (await fetchFile(`/demo/${video}`)).blob();
    const marksText = marks ? await (await fetchFile(`/demo/${marks}`)).text() : undefined;
    await addTake(db, { ...take, blob, ...(marksText ? { marks: parseMarks(marksText) } : {}) });
  }
  return demo.takes.filter((t) => t.marks).map((t) => t.id);
}

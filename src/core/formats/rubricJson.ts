import { z } from 'zod';
import type { Band } from '../rubric/band';
import { BAND_FACTS, type BandName } from '../rubric/bandFacts';
import { changeBand } from '../rubric/editing';
import { completed, type Rubric, SOUNDS } from '../rubric/rubric';

/** A rubric file that cannot be used; the message is for the teacher. */
export class RubricFileError extends Error {
  override readonly name = 'RubricFileError';
}

const number = z.number();
const band = z.union([
  z.strictObject({ middle: number, good: number, fault: number }),
  z.strictObject({ least: number, fault: number, most: number }),
  z.strictObject({ good: number, fault: number, allStages: z.literal(true).optional() }),
]);
const file = z.object({
  format: z.literal('gestometra-rubric/1'),
  id: z.string().min(1),
  name: z.string().min(1),
  version: z.number().int().positive(),
  bands: z.partialRecord(z.enum(Object.keys(BAND_FACTS) as [BandName, ...BandName[]]), band),
  words: z.partialRecord(z.enum(SOUNDS), z.string().min(1)).optional(),
});

export const rubricToText = ({ id, name, version, bands, words }: Rubric): string =>
  `${JSON.stringify({ format: 'gestometra-rubric/1', id, name, version, bands, ...(words ? { words } : {}) }, null, 1)}\n`;

const sameKind = (a: Band, b: Band) => 'middle' in a === 'middle' in b && 'least' in a === 'least' in b;

/**
 * A rubric from a file; bands it does not name are as usual.
 * @throws RubricFileError naming what is wrong: not a rubric, a band of another kind, edges crossed.
 */
export function parseRubric(text: string): Rubric {
  let read: unknown;
  try {
    read = JSON.parse(text);
  } catch {
    throw new RubricFileError('This is not a rubric file: it is not JSON. Save one from the page of rubrics.');
  }
  const result = file.safeParse(read);
  if (!result.success) {
    const { path, message } = result.error.issues[0]!;
    throw new RubricFileError(`This rubric file cannot be used: ${path.join(' ') || 'file'}, ${message}.`);
  }
  const { id, name, version, bands, words } = result.data;
  const usual = completed({ id, name, version, bands: {} as Rubric['bands'] }).bands;
  const given = Object.entries(bands) as [BandName, Band][];
  for (const [key, value] of given) {
    const known = usual[key];
    if (known && !sameKind(known, value)) throw new RubricFileError(`This rubric file cannot be used: "${BAND_FACTS[key].name}" has edges of another kind.`);
  }
  const rubric = completed({ id, name, version, bands: Object.fromEntries(given) as unknown as Rubric['bands'] });
  for (const [key, value] of given) {
    try {
      changeBand(rubric, key, value);
    } catch (error) {
      throw new RubricFileError(`This rubric file cannot be used: "${BAND_FACTS[key].name}": ${(error as Error).message}`);
    }
  }
  return words ? { ...rubric, words: words as NonNullable<Rubric['words']> } : rubric;
}

import type { Band, LowerBand, TwoSidedBand } from './band';
import { BAND_FACTS, type BandName } from './bandFacts';
import { type Bands, type Rubric, SOUND_WORDS, SOUNDS, type Sound } from './rubric';

/** A change that would make a band say nothing; the message is for the teacher. */
export class BandError extends Error {
  override readonly name = 'BandError';
}

export type BandPatch = Partial<Pick<TwoSidedBand, 'middle' | 'good' | 'fault'> & Pick<LowerBand, 'least'>>;

/** A rubric of the teacher's own to begin with, from another. */
export const copyRubric = (rubric: Rubric, id: string, name: string): Rubric => ({ ...rubric, id, name: named(name), version: 1 });

/** The same rubric under another name; what it asks, and so its version, stays. */
export const renameRubric = (rubric: Rubric, name: string): Rubric => ({ ...rubric, name: named(name) });

function named(name: string): string {
  const words = name.trim();
  if (!words) throw new BandError('A rubric needs a name.');
  return words;
}

const NO_WIDTH = 'What is good must have some width.';
const CROSSED = 'A fault cannot begin inside of what is good: move its edge out, or the good edge in.';

/**
 * The rubric with one band changed. Numbers in the band's own unit.
 * @throws BandError when the band would not be one: edges crossed, or no width left.
 */
export function changeBand(rubric: Rubric, name: BandName, patch: BandPatch): Rubric {
  const band = rubric.bands[name];
  if (!band) throw new BandError(`"${BAND_FACTS[name].name}" is not asked by this rubric.`);
  const next = { ...band, ...patch } as Band;
  for (const value of Object.values(next)) if (typeof value === 'number' && !Number.isFinite(value)) throw new BandError('Give a number.');
  if ('least' in next) {
    if (next.fault > next.least) throw new BandError(CROSSED);
    if (next.least >= next.most) throw new BandError(NO_WIDTH);
    return { ...rubric, bands: { ...rubric.bands, [name]: next } as Bands };
  }
  if (!(next.good > 0)) throw new BandError(NO_WIDTH);
  if (next.fault < next.good) throw new BandError(CROSSED);
  return { ...rubric, bands: { ...rubric.bands, [name]: next } as Bands };
}

/** The rubric with a word of the teacher's own for a sound; an empty one brings the usual word back. */
export function changeWord(rubric: Rubric, sound: Sound, word: string): Rubric {
  const { [sound]: _, ...others } = rubric.words ?? {};
  const own = word.trim();
  const words = own && own !== SOUND_WORDS[sound] ? { ...others, [sound]: own } : others;
  const { words: __, ...rest } = rubric;
  return Object.keys(words).length > 0 ? { ...rest, words } : rest;
}

/** The rubric as the next version, to be kept beside those before it. */
export const nextVersion = (rubric: Rubric): Rubric => ({ ...rubric, version: rubric.version + 1 });

/** Whether two rubrics ask the same. */
export const asksTheSame = (a: Rubric, b: Rubric): boolean => JSON.stringify(sorted(a.bands)) === JSON.stringify(sorted(b.bands));

/** Whether two rubrics use the same words for sounds. */
export const saysTheSame = (a: Rubric, b: Rubric): boolean => SOUNDS.every((sound) => a.words?.[sound] === b.words?.[sound]);

const sorted = (bands: Bands) => Object.entries(bands).sort(([a], [b]) => a.localeCompare(b));

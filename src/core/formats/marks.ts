import { z } from 'zod';
import { BACK_POINTS } from '../body/lumbarArch';
import { LEAST_ZOOM, MOST_ZOOM } from '../geometry/camera';
import type { Dimensions } from '../instrument/dimensions';
import { dimensionsOf } from '../instrument/dimensions';
import { FAMILIES } from '../instrument/family';
import { INSTRUMENT_LANDMARKS } from '../instrument/landmarks';

const BODY = ['shoulder', 'elbow', 'wrist', 'hip', 'knee', 'ankle', 'ear'].flatMap((part) => [`body.${part}.left`, `body.${part}.right`]);
const HANDS = Array.from({ length: 21 }, (_, n) => [`hand.bow.${n}`, `hand.left.${n}`]).flat();

/** Every point name a marks file may use. */
export const POINT_NAMES: ReadonlySet<string> = new Set([
  ...INSTRUMENT_LANDMARKS,
  'bow.frog',
  'bow.tip',
  'bow.stickTip',
  'bow.screw',
  'body.nose',
  ...BODY,
  ...BACK_POINTS.map((p) => `body.back.${p}`),
  ...HANDS,
]);

const point = z.tuple([z.number(), z.number()]);

/** `guessed`: placed by judgement where it was hidden; `found`: by the landmark network, until someone moves it. */
const markedFrame = z.object({ t: z.number().min(0), points: z.record(z.string(), point), guessed: z.array(z.string()).optional(), found: z.array(z.string()).optional() });

const marksSchema = z.object({
  format: z.literal('gestometra-marks/1'),
  /** `zoom`: how far the lens was zoomed, times the main one, where it is known. */
  video: z.object({ width: z.number().positive(), height: z.number().positive(), zoom: z.number().min(LEAST_ZOOM).max(MOST_ZOOM).optional() }),
  instrument: z.object({
    family: z.enum(FAMILIES),
    size: z.string(),
    dimensions: z.record(z.string(), z.number()).optional(),
    /** How the player holds it; left out, the marks themselves tell. */
    side: z.enum(['right', 'left']).optional(),
  }),
  plumb: z.tuple([point, point]).optional(),
  frames: z.array(markedFrame).min(1),
  /** Frames found to agree with a found first one: they tell more of camera and instrument, and are not marks to lead on from. */
  agreeing: z.array(markedFrame).optional(),
});

/** Marks of one clip: landmarks in pixels of the upright picture. */
export type Marks = z.infer<typeof marksSchema>;

/** A marks file that cannot be used; the message says what is wrong and what to do. */
export class MarksFileError extends Error {
  override readonly name = 'MarksFileError';
}

/**
 * Reads a marks file.
 * @throws MarksFileError in plain words.
 */
export function parseMarks(text: string): Marks {
  let raw: unknown;
  try {
    raw = JSON.parse(text);
  } catch {
    throw new MarksFileError('This marks file is not readable as JSON. Export it again from the take.');
  }
  const result = marksSchema.safeParse(raw);
  if (!result.success) {
    const issue = result.error.issues[0]!;
    if ((raw as { format?: unknown } | null)?.format !== 'gestometra-marks/1') {
      throw new MarksFileError('This is not a marks file of this application (its format line is missing or of another version).');
    }
    throw new MarksFileError(`The marks file is incomplete at "${issue.path.join('.') || 'the top'}": ${issue.message}.`);
  }
  checkMarks(result.data);
  return result.data;
}

/** Refuses names, sizes and places that cannot be right. @throws MarksFileError */
export function checkMarks(marks: Marks): void {
  try {
    markedDimensions(marks);
  } catch (error) {
    throw new MarksFileError((error as Error).message);
  }
  const { width, height } = marks.video;
  for (const frame of [...marks.frames, ...(marks.agreeing ?? [])]) {
    for (const [name, [x, y]] of Object.entries(frame.points)) {
      if (!POINT_NAMES.has(name)) throw new MarksFileError(`"${name}" is not a point that can be marked. Remove it or correct its name.`);
      const far = Math.max(width, height);
      const inside = x >= 0 && y >= 0 && x <= width && y <= height;
      // An end of the bow may lie a little outside the picture; the instrument's own points may not.
      const near = name.startsWith('bow.') && x >= -far && y >= -far && x <= 2 * far && y <= 2 * far;
      if (!inside && !near) {
        throw new MarksFileError(`"${name}" at ${frame.t} s lies outside the picture (${Math.round(x)}, ${Math.round(y)} in ${width} x ${height}). Mark it again or leave it out.`);
      }
    }
  }
}

/** Dimensions of the marked instrument with the teacher's own measurements laid over. @throws RangeError */
export const markedDimensions = (marks: Marks): Dimensions =>
  dimensionsOf(marks.instrument.family, marks.instrument.size, marks.instrument.dimensions as Partial<Dimensions> | undefined);

/** Marks that do not say how far the lens was zoomed, with what the film notes of it, where it does. */
export const withNotedZoom = (marks: Marks, noted: number | undefined): Marks =>
  noted === undefined || marks.video.zoom !== undefined ? marks : { ...marks, video: { ...marks.video, zoom: noted } };

export const marksToText = (marks: Marks): string => `${JSON.stringify(marks, null, 1)}\n`;

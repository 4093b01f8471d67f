import { readFileSync } from 'node:fs';
import { ALL_FORMATS, BufferSource, BufferTarget, Conversion, Input, MovOutputFormat, Mp4OutputFormat, Output } from 'mediabunny';

/** Where `serve.ts` puts the film of two bows. */
export const TWO_BOWS = '.cache/e2e-two-bows.mp4';
/** Seconds. */
const LASTS = 5.2;

/** The first two bows of a demo film, pictures and sound as they are there; with a phone's notes as QuickTime. */
export async function twoBows(notes?: Readonly<Record<string, string>>): Promise<Buffer> {
  const input = new Input({ formats: ALL_FORMATS, source: new BufferSource(readFileSync('demo/ilvi-tube-glide.mp4')) });
  const target = new BufferTarget();
  const output = new Output({ format: notes ? new MovOutputFormat({ metadataFormat: 'mdta' }) : new Mp4OutputFormat(), target });
  const cut = await Conversion.init({ input, output, trim: { start: 0, end: LASTS }, ...(notes ? { tags: { raw: { ...notes } } } : {}) });
  await cut.execute();
  return Buffer.from(target.buffer!);
}

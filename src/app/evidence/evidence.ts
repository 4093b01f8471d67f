import { BufferTarget, CanvasSource, Output, QUALITY_HIGH, WebMOutputFormat } from 'mediabunny';
import type { TakeMeasures } from '../../core/take/analyse';
import type { OpenFilm } from '../film/useFilm';
import { type BurnOptions, burnIn } from './burnIn';
import { facesAt } from './face';

/** Longest side of what is given out, pixels: enough to see, small enough to send. */
const LONGEST = 1280;

/** Nothing is given out with a face that was to be covered and could not be. */
function checkFace(take: TakeMeasures, index: number, { covered }: BurnOptions): void {
  if (covered && !facesAt(take, index)) throw new Error('the face was not found, so it cannot be covered. Take "the face covered" off if it may be seen.');
}

function canvasFor({ width, height }: { readonly width: number; readonly height: number }): OffscreenCanvas {
  const k = Math.min(1, LONGEST / Math.max(width, height));
  // Encoders want even sides.
  return new OffscreenCanvas(2 * Math.round((width * k) / 2), 2 * Math.round((height * k) / 2));
}

/** One moment as a picture (PNG) with the drawing burnt in. */
export async function evidenceStill(film: OpenFilm, take: TakeMeasures, index: number, options: BurnOptions): Promise<Blob> {
  checkFace(take, index, options);
  const canvas = canvasFor(film.facts);
  const picture = await film.frame(take.frames[index]!.frame);
  burnIn(canvas.getContext('2d')!, picture, take, index, options);
  picture.close();
  return canvas.convertToBlob({ type: 'image/png' });
}

/**
 * A stretch of the film (WebM, without sound) with the drawing burnt in, at a share of its speed.
 * @param from,to seconds
 * @throws Error in plain words where this browser cannot encode.
 */
export async function evidenceClip(film: OpenFilm, take: TakeMeasures, [from, to]: readonly [number, number], speed: number, options: BurnOptions): Promise<Blob> {
  const frames = take.frames.flatMap((f, i) => (f.t >= from && f.t <= to ? [i] : []));
  if (frames.length < 2) throw new Error('There are too few pictures in this stretch for a clip.');
  for (const i of frames) checkFace(take, i, options);
  const canvas = canvasFor(film.facts);
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const source = new CanvasSource(canvas, { codec: 'vp9', bitrate: QUALITY_HIGH });
  output.addVideoTrack(source);
  await output.start();
  const start = take.frames[frames[0]!]!.t;
  for (const [n, i] of frames.entries()) {
    const t = take.frames[i]!.t;
    const next = take.frames[frames[n + 1] ?? i]!.t;
    const picture = await film.frame(take.frames[i]!.frame);
    burnIn(canvas.getContext('2d')!, picture, take, i, options);
    picture.close();
    await source.add((t - start) / speed, Math.max(0.01, next - t) / speed);
  }
  await output.finalize();
  return new Blob([target.buffer!], { type: 'video/webm' });
}

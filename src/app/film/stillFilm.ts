import { BufferTarget, CanvasSource, Output, QUALITY_VERY_HIGH, WebMOutputFormat } from 'mediabunny';

/** Longest side of the film a still becomes, pixels: as much as a phone's film has. */
const LONGEST = 1920;
/** Enough frames for what is measured to settle, at a rate the networks look at. */
const FRAMES = 12;
const FRAMES_PER_SECOND = 10;

export const isStill = (file: File): boolean => /^image\/(png|jpe?g)$/.test(file.type) || /\.(png|jpe?g)$/i.test(file.name);

/**
 * A still (PNG or JPEG, turned as its camera says) as a film of a second in which nothing moves, so that everything
 * that is told of a posture is told of it too.
 * @throws Error in plain words where the picture cannot be read or this browser cannot encode.
 */
export async function filmOfStill(file: File): Promise<File> {
  let picture: ImageBitmap;
  try {
    picture = await createImageBitmap(file);
  } catch {
    throw new Error('This picture could not be read. Save it as PNG or JPEG and try again.');
  }
  const k = Math.min(1, LONGEST / Math.max(picture.width, picture.height));
  // Encoders want even sides.
  const canvas = new OffscreenCanvas(2 * Math.round((picture.width * k) / 2), 2 * Math.round((picture.height * k) / 2));
  const c = canvas.getContext('2d')!;
  c.imageSmoothingQuality = 'high';
  c.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  const target = new BufferTarget();
  const output = new Output({ format: new WebMOutputFormat(), target });
  const source = new CanvasSource(canvas, { codec: 'vp9', bitrate: QUALITY_VERY_HIGH });
  output.addVideoTrack(source, { frameRate: FRAMES_PER_SECOND });
  await output.start();
  for (let i = 0; i < FRAMES; i++) await source.add(i / FRAMES_PER_SECOND, 1 / FRAMES_PER_SECOND);
  await output.finalize();
  return new File([target.buffer!], file.name.replace(/\.[^.]+$/, '.webm'), { type: 'video/webm' });
}

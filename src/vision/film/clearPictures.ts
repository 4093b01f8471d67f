import { type Light, lift, liftOf, lightOf, sharpen } from '../image/tone';
import type { FilmPicture } from './frame';

/** Side of the small copy that tells how bright a picture is. */
const SMALL = 32;
/** A blurred film is sharpened by what a copy softened this much (px at 960 across, sigma) lacks, so many times (ours: brings back films blurred by 1.6 px). */
const SOFT = 1.7;
const AMOUNT = 2;

/** Sigma (px at 960 across) that takes the grain from a lifted picture (ours: with it the body network told the arm in nine of ten frames of a darkened clip, without in half). */
const GRAIN = 1;

let small: OffscreenCanvasRenderingContext2D | undefined;

function lightIn(picture: ImageBitmap): Light {
  small ??= new OffscreenCanvas(SMALL, SMALL).getContext('2d', { willReadFrequently: true })!;
  small.drawImage(picture, 0, 0, SMALL, SMALL);
  return lightOf(small.getImageData(0, 0, SMALL, SMALL).data);
}

/** What is done to pictures beside lifting dark ones: edges sharpened, or the grain that a lift brings out smoothed away. */
export type Clearing = 'lifted' | 'sharpened' | 'smoothed';

/** The pictures as networks see them best. `light`: as they were filmed. Each one given is closed where another takes its place. */
export async function* clearPictures(pictures: AsyncIterable<FilmPicture>, clearing?: Clearing): AsyncGenerator<FilmPicture & { readonly light: Light }> {
  for await (const { index, picture } of pictures) yield { index, ...clearPicture(picture, clearing) };
}

/** The same for one picture. */
export function clearPicture(given: ImageBitmap, clearing: Clearing = 'lifted'): { readonly picture: ImageBitmap; readonly light: Light } {
  const light = lightIn(given);
  const exponent = liftOf(light);
  const asItIs = exponent === undefined && clearing !== 'sharpened';
  return { picture: asItIs ? given : toned(given, exponent, clearing), light };
}

function toned(picture: ImageBitmap, exponent: number | undefined, clearing: Clearing): ImageBitmap {
  const { width, height } = picture;
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  const read = (sigma: number) => {
    context.filter = sigma > 0 ? `blur(${(sigma * Math.max(width, height)) / 960}px)` : 'none';
    context.drawImage(picture, 0, 0);
    return context.getImageData(0, 0, width, height);
  };
  const image = read(clearing === 'smoothed' ? GRAIN : 0);
  if (clearing === 'sharpened') sharpen(image.data, read(SOFT).data, AMOUNT);
  if (exponent !== undefined) lift(image.data, exponent);
  context.putImageData(image, 0, 0);
  picture.close();
  return canvas.transferToImageBitmap();
}

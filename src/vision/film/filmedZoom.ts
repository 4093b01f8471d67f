import type { Input } from 'mediabunny';
import { LEAST_ZOOM, MOST_ZOOM } from '../../core/geometry/camera';

/** Under this name phones note the focal length that would show as much on 35 mm film, in mm (from memory: QuickTime metadata of phones). */
export const EQUIVALENT_FOCAL = 'com.apple.quicktime.camera.focal_length.35mm_equivalent';
/** What a phone's main lens comes to on 35 mm film, mm (from memory: 24 to 28); those within a quarter of it are taken for it. */
const MAIN_LENS = 26;
const LIKE_MAIN = 1.25;

const isLens = (focal: number): boolean => focal >= LEAST_ZOOM * MAIN_LENS && focal <= MOST_ZOOM * MAIN_LENS;

/** Reads a number that a film's notes hold as text, as a whole number or as one with a binary point, highest byte first. */
function numberIn(value: unknown): number | undefined {
  if (typeof value === 'string') return Number.parseFloat(value);
  if (!(value instanceof Uint8Array)) return undefined;
  const view = new DataView(value.buffer, value.byteOffset, value.byteLength);
  const { byteLength: size } = view;
  const whole = size === 1 ? view.getUint8(0) : size === 2 ? view.getUint16(0) : size === 4 ? view.getUint32(0) : size === 8 ? Number(view.getBigUint64(0)) : undefined;
  if (whole === undefined || isLens(whole)) return whole;
  return size === 4 ? view.getFloat32(0) : size === 8 ? view.getFloat64(0) : undefined;
}

/** How far the lens was zoomed, times a phone's main one, by what the film notes of it; undefined where it notes nothing that can be. */
export async function zoomOf(input: Pick<Input, 'getMetadataTags'>): Promise<number | undefined> {
  let noted: unknown;
  try {
    noted = (await input.getMetadataTags()).raw?.[EQUIVALENT_FOCAL];
  } catch {
    // Notes that cannot be read are as good as none.
    return undefined;
  }
  const focal = numberIn(noted);
  if (focal === undefined || !isLens(focal)) return undefined;
  const zoom = focal / MAIN_LENS;
  return zoom < LIKE_MAIN && zoom > 1 / LIKE_MAIN ? 1 : Math.round(100 * zoom) / 100;
}

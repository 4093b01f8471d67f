import { lumaOf } from './gray';

/** Red, green, blue and opacity, row by row. */
type Pixels = Uint8ClampedArray;

/** Brightness of a picture, 0..255. */
export interface Light {
  readonly mean: number;
  /** Of its brighter half: a lit player in a dark hall is no dark picture. */
  readonly bright: number;
}

/** Pictures whose brighter half is darker than this are lifted, to the second, and by no more than the last (exponent; ours). */
const DARK = 90;
const LIFT_TO = 140;
const LEAST_EXPONENT = 0.4;

/** Mean brightness of a picture and of its brighter half. */
export function lightOf(data: Pixels): Light {
  const luma = lumaOf(data).sort();
  const mean = (part: Uint8Array) => (part.length > 0 ? part.reduce((a, b) => a + b, 0) / part.length : 0);
  return { mean: mean(luma), bright: mean(luma.subarray(luma.length >> 1)) };
}

/** Exponent (of brightness as a share of white) that brings a dark picture to what networks are used to; undefined for one that is bright enough. */
export function liftOf({ bright }: Light): number | undefined {
  if (bright >= DARK) return undefined;
  return Math.max(LEAST_EXPONENT, Math.log(LIFT_TO / 255) / Math.log(Math.max(1, bright) / 255));
}

/** Raises every colour to an exponent, in place. */
export function lift(data: Pixels, exponent: number): void {
  const table = Uint8ClampedArray.from({ length: 256 }, (_, v) => Math.round(255 * (v / 255) ** exponent));
  for (let i = 0; i < data.length; i++) if ((i & 3) !== 3) data[i] = table[data[i]!]!;
}

/** Adds so many times what a softened copy lacks, in place: brings blurred edges back. */
export function sharpen(data: Pixels, soft: Pixels, amount: number): void {
  for (let i = 0; i < data.length; i++) if ((i & 3) !== 3) data[i] = data[i]! + amount * (data[i]! - soft[i]!);
}

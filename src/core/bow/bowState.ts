import { add, addScaled, cross, DEGREES, normalize, RADIANS, scale, subtract, type Vec3 } from '../geometry/vec3';
import { onString, type StringLine } from '../instrument/strings';

/** The bow against the instrument in four numbers, on a given string. */
export interface BowState {
  /** Contact of hair and string, mm from the bridge along the strings, + toward the fingerboard. */
  readonly contact: number;
  /** Degrees; 0 parallel to the bridge, + tip toward the scroll. */
  readonly skew: number;
  /** Degrees; + on the low strings. */
  readonly inclination: number;
  /** Share of the hair between frog and contact: 0 frog, 1 tip. */
  readonly position: number;
}

/** A bow on one of the strings. */
export interface BowOnString {
  readonly state: BowState;
  /** Place of the string in the family's list, lowest first. */
  readonly string: number;
}

/**
 * Unit vector of the hair from frog to tip in the instrument frame.
 * `side` is the family's side sign s. Definitions of skew and inclination after Schoonderwaldt and
 * Demoucron, J. Acoust. Soc. Am. 126 (2009), cited from memory.
 */
export function hairDirection(skewDeg: number, inclinationDeg: number, side: 1 | -1): Vec3 {
  return normalize([Math.tan(skewDeg * RADIANS), side, -side * Math.tan(inclinationDeg * RADIANS)]);
}

export const skewOf = (b: Vec3, side: 1 | -1): number => Math.atan2(b[0], side * b[1]) * DEGREES;
export const inclinationOf = (b: Vec3, side: 1 | -1): number => Math.atan2(-side * b[2], side * b[1]) * DEGREES;

export interface HairLine {
  readonly frog: Vec3;
  readonly tip: Vec3;
  readonly contact: Vec3;
}

/**
 * The middle of the ribbon of hair lies so far over the middle of the string (mm): half a string and half a ribbon
 * (common practice, no source: strings of a violin are 0.3 to 0.9 mm thick, a ribbon some 0.3). Seen from low a hair
 * that was taken to lie in the middle of the string would seem 1 to 3 mm nearer to the bridge or farther from it.
 */
const HAIR_OVER_STRING = 0.6;

/** From the middle of the string to the middle of the hair that lies on it, in the direction b. */
export function overString(b: Vec3, string: Pick<StringLine, 'bridge' | 'nut'>): Vec3 {
  const square = normalize(cross(b, subtract(string.nut, string.bridge)));
  return scale(square, square[2] < 0 ? -HAIR_OVER_STRING : HAIR_OVER_STRING);
}

/** Both ends of the hair, which lies on the string, and the contact, in the middle of the string; instrument frame, mm. */
export function hairLine(state: BowState, string: StringLine, hair: number, side: 1 | -1): HairLine {
  const contact = onString(string, state.contact);
  const b = hairDirection(state.skew, state.inclination, side);
  const over = add(contact, overString(b, string));
  return {
    contact,
    frog: addScaled(over, b, -state.position * hair),
    tip: addScaled(over, b, (1 - state.position) * hair),
  };
}

/** The four numbers from the hair's ends, taking the place of the line nearest the string as contact. */
export function bowStateOf(frog: Vec3, tip: Vec3, string: StringLine, side: 1 | -1): BowState {
  const along = subtract(tip, frog);
  const b = normalize(along);
  const d = normalize(subtract(string.nut, string.bridge));
  const w = subtract(frog, string.bridge);
  const bd = b[0] * d[0] + b[1] * d[1] + b[2] * d[2];
  const bw = b[0] * w[0] + b[1] * w[1] + b[2] * w[2];
  const dw = d[0] * w[0] + d[1] * w[1] + d[2] * w[2];
  const slant = 1 - bd * bd;
  const onHair = (bd * dw - bw) / slant;
  const onStringAt = (dw - bd * bw) / slant;
  return {
    contact: string.bridge[0] + onStringAt * d[0],
    skew: skewOf(b, side),
    inclination: inclinationOf(b, side),
    position: onHair / Math.hypot(along[0], along[1], along[2]),
  };
}

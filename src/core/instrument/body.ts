import { RADIANS, type Vec3 } from '../geometry/vec3';
import type { Dimensions } from './dimensions';

/**
 * The body of an instrument in its own coordinates: u along the body from the bridge toward the scroll,
 * y toward the low strings, w above the plane of the body's edge. Built from a full-size violin (from
 * memory, lutherie common practice) scaled by body length; the strings stand at an angle to it.
 */
export interface BodyFrame {
  /** Millimetres per millimetre of a full-size violin. */
  readonly scale: number;
  /** Slope of the strings against the edge plane, toward the nut. */
  readonly tiltRad: number;
  /** The bridge is cut lower on the high side, so the plate leans against the chord of the outer strings. */
  readonly rollRad: number;
  /** Height of the string plane above the edge plane at the bridge. */
  readonly height: number;
  /** Height of the ribs (mm of a full-size violin). */
  readonly ribs: number;
  /** How far the body lies nearer the scroll than with a bridge at its usual place (mm of a full-size violin). */
  readonly along: number;
}

export const FULL_BODY = 356;
export const STRING_SLOPE_DEG = 8;
/** Bridge 1.4 mm lower over a spread of 34 mm (from memory, lutherie common practice: 1 to 2 mm). */
export const BRIDGE_LEAN_DEG = 2.36;
export const ARCHING = 15;
/** Tips of the corners, full-size violin: 125 and 207 below the upper edge (from memory, lutherie common practice). */
export const UPPER_CORNER = { u: 70, y: 80 } as const;
export const LOWER_CORNER = { u: -12, y: 94 } as const;

/** The plate's rim lies so far over the edge plane, mm of a full-size violin (from memory: plates of 4 mm at the edge). */
export const RIM = 2;

export function bodyFrame(dimensions: Dimensions, offset: { height?: number; tiltRad?: number; rollRad?: number; along?: number; ribs?: number } = {}): BodyFrame {
  const scale = dimensions.body / FULL_BODY;
  const { bridgeRadius: r, bridgeSpread } = dimensions;
  const sagitta = r - Math.sqrt(r * r - (bridgeSpread / 2) ** 2);
  return {
    scale,
    tiltRad: STRING_SLOPE_DEG * RADIANS + (offset.tiltRad ?? 0),
    rollRad: BRIDGE_LEAN_DEG * RADIANS + (offset.rollRad ?? 0),
    height: dimensions.stringHeight - sagitta + (offset.height ?? 0),
    ribs: dimensions.ribs / scale + (offset.ribs ?? 0),
    along: offset.along ?? 0,
  };
}

/** A point given in body coordinates of a full-size violin (u, y, w), in the instrument frame of this body. */
export function bodyPoint(frame: BodyFrame, u: number, y: number, w: number): Vec3 {
  const { scale, tiltRad, rollRad, height } = frame;
  const a = (u + frame.along) * scale;
  const b = y * scale;
  const c = w * scale - height;
  // Roll about the strings first (the high side stands nearer the strings), then the strings' slope.
  const cr = Math.cos(rollRad);
  const sr = Math.sin(rollRad);
  const y1 = b * cr + c * sr;
  const z1 = -b * sr + c * cr;
  const ct = Math.cos(tiltRad);
  const st = Math.sin(tiltRad);
  return [a * ct - z1 * st, y1, a * st + z1 * ct];
}

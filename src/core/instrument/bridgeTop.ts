import type { Vec3 } from '../geometry/vec3';
import type { InstrumentModel } from './landmarks';
import { bridgeArc } from './strings';

/** How thick a bridge is at its top, mm of a full-size violin (from memory, lutherie common practice: 1.2 to 1.5). */
const TOP_THICK = 1.3;

/** A strip about the top of the bridge, as flat as the bridge's arc: rows across all strings, columns along them. */
export const STRIP = { rows: 35, columns: 65 } as const;
/** Millimetres of a full-size violin between columns. */
const PITCH = 0.5;
/** The rows reach so far toward the outer strings. */
const REACH = 0.95;

/** Millimetres along the strings between two columns of the strip. */
export const stripPitch = (model: InstrumentModel): number => PITCH * model.frame.scale;

/** How far (mm) a column lies from the bridge, + toward the nut. */
const columnAt = (model: InstrumentModel, column: number): number => (column - (STRIP.columns - 1) / 2) * stripPitch(model);

/** A place of the strip in the instrument frame (mm). */
export function stripPlace(model: InstrumentModel, row: number, column: number): Vec3 {
  const half = model.bridgeSpread / 2;
  const y = REACH * half * (1 - (2 * row) / (STRIP.rows - 1));
  return [columnAt(model, column), y, bridgeArc(model, y)];
}

/** Where (mm along the strings, from the notches) the edge of the bridge's top lies that stands out against what is behind it, for an eye on the nut's side (+) or on the player's (-). */
export const farEdge = (model: InstrumentModel, side: number): number => (-Math.sign(side) * TOP_THICK * model.frame.scale) / 2;

import { addScaled, DEGREES, subtract, type Vec3 } from '../geometry/vec3';
import { type Family, STRINGS } from './family';
import type { InstrumentModel } from './landmarks';

/** One string as the straight line from its notch in the bridge to the nut, in the instrument frame. */
export interface StringLine {
  readonly name: string;
  readonly bridge: Vec3;
  readonly nut: Vec3;
}

/** Height (mm) of the bridge's arc over the chord of its outer notches, at a distance y (mm) from its middle. */
export function bridgeArc({ dimensions: { bridgeRadius: r }, bridgeSpread }: InstrumentModel, y: number): number {
  return Math.sqrt(r * r - y * y) - Math.sqrt(r * r - (bridgeSpread / 2) ** 2);
}

/** Ends of the strings from the lowest to the highest. Inner notches stand above the chord by the bridge's arc. Four strings in every family. */
export function notches(model: InstrumentModel): { readonly bridge: Vec3; readonly nut: Vec3 }[] {
  const half = model.bridgeSpread / 2;
  const nutHalf = model.dimensions.nutSpread / 2;
  return [1, 1 / 3, -1 / 3, -1].map((share) => {
    const y = share * half;
    return { bridge: [0, y, bridgeArc(model, y)], nut: [model.stringLength, share * nutHalf, 0.7 * (1 - share * share)] };
  });
}

/** The strings from the lowest to the highest. */
export const stringLines = (model: InstrumentModel, family: Family): StringLine[] => notches(model).map((ends, i) => ({ name: STRINGS[family][i]!, ...ends }));

/** Where the string stands at a distance x (mm) from the bridge. */
export const onString = (line: StringLine, x: number): Vec3 => addScaled(line.bridge, subtract(line.nut, line.bridge), x / line.nut[0]);

/**
 * Inclination (degrees, + on the low strings) at which the bow lies on each string and leaves it.
 * Closed form of the bridge's arc: natural level asin(y / R), boundary = slope of the chord between notches.
 */
export interface StringLevels {
  readonly natural: readonly number[];
  /** One fewer than strings: between string i and i + 1. */
  readonly boundary: readonly number[];
}

export function stringLevels(model: InstrumentModel, family: Family): StringLevels {
  const lines = stringLines(model, family);
  const r = model.dimensions.bridgeRadius;
  return {
    natural: lines.map((line) => Math.asin(line.bridge[1] / r) * DEGREES),
    boundary: lines.slice(1).map((line, i) => {
      const low = lines[i]!.bridge;
      return Math.atan2(line.bridge[2] - low[2], low[1] - line.bridge[1]) * DEGREES;
    }),
  };
}

/** Index of the string whose sector holds an inclination. */
export function sectorOf(levels: StringLevels, inclinationDeg: number): number {
  let i = 0;
  while (i < levels.boundary.length && inclinationDeg < levels.boundary[i]!) i++;
  return i;
}

/** Degrees left to the nearer boundary of the string's sector; negative outside it. */
export function levelMargin(levels: StringLevels, string: number, inclinationDeg: number): number {
  const toLower = string > 0 ? levels.boundary[string - 1]! - inclinationDeg : Number.POSITIVE_INFINITY;
  const toHigher = string < levels.boundary.length ? inclinationDeg - levels.boundary[string]! : Number.POSITIVE_INFINITY;
  return Math.min(toLower, toHigher);
}

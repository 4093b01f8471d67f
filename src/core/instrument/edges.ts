import { addScaled, subtract, type Vec2, type Vec3 } from '../geometry/vec3';
import type { InstrumentModel } from './landmarks';
import { notches } from './strings';

/** Straight lines of the instrument that a picture shows sharply. Strings count from the lowest. */
export const INSTRUMENT_EDGES = ['string.0', 'string.1', 'string.2', 'string.3', 'fingerboard.low', 'fingerboard.high'] as const;
export type InstrumentEdge = (typeof INSTRUMENT_EDGES)[number];

export const isStringEdge = (edge: InstrumentEdge): boolean => edge.startsWith('string.');

/** Beyond this the left hand covers strings and fingerboard (mm of a full-size violin from the bridge). */
const HAND_FROM = 140;
/** Nearest the bridge the strings are lost among bridge and bow (mm of a full-size violin). */
const STRINGS_FROM = 12;

/** Stretch of an edge that can be seen, mm from the bridge along the strings. */
export function edgeSpan(model: InstrumentModel, edge: InstrumentEdge): readonly [from: number, to: number] {
  const k = model.frame.scale;
  return [isStringEdge(edge) ? STRINGS_FROM * k : model.fingerboardEndX + 4 * k, HAND_FROM * k];
}

/** Place of an edge at a distance x (mm) from the bridge, instrument frame. */
export function edgePoint(model: InstrumentModel, edge: InstrumentEdge, x: number): Vec3 {
  if (isStringEdge(edge)) {
    const notch = notches(model)[Number(edge.slice(7))]!;
    return addScaled(notch.bridge, subtract(notch.nut, notch.bridge), x / model.stringLength);
  }
  const side = edge === 'fingerboard.low' ? 'low' : 'high';
  const end = model.landmarks[`instrument.fingerboardEnd.${side}`];
  const nut = model.landmarks[`instrument.nut.${side}`];
  return addScaled(end, subtract(nut, end), (x - end[0]) / (nut[0] - end[0]));
}

/** An edge seen in the picture: a straight image line through two places and how far it may be off sideways there (px, 1 sigma). */
export interface EdgeSighting {
  readonly edge: InstrumentEdge;
  readonly a: Vec2;
  readonly b: Vec2;
  readonly sigmaA: number;
  readonly sigmaB: number;
  /** Where along the edge (mm from the bridge) the two places were looked for. */
  readonly from: number;
  readonly to: number;
}

import { addScaled, distance, subtract, type Vec3 } from '../geometry/vec3';
import { bodyPoint, LOWER_CORNER, RIM, UPPER_CORNER } from './body';
import { dimensionsOf } from './dimensions';
import { type InstrumentModel, instrumentModel, SHAPE } from './landmarks';
import { halfOutline } from './outline';

/**
 * Curves of the instrument that a picture shows as edges: the rim of the top plate, the rim of the back where the ribs
 * face the camera, the sides of the fingerboard and its free end.
 */
export const CONTOURS = ['plate.low', 'plate.high', 'back.low', 'back.high', 'fingerboard.low', 'fingerboard.high', 'fingerboard.end'] as const;
export type Contour = (typeof CONTOURS)[number];

/** A place on a contour that stays the same place when the shape changes: a number of the outline's table, or a share of the way along. */
export interface ContourStation {
  readonly contour: Contour;
  readonly at: number;
}

const OUTLINE = halfOutline(12);
/** The back's lower edge lies so far under its ribs (mm of a full-size violin, from memory). */
const BACK_RIM = -2;
/** Beyond these the rim is hidden by neck and hand, or by chin and shoulder (mm of a full-size violin from the bridge). */
const RIM_FROM = -150;
const RIM_TO = 172;
/** The tips of the corners are worn and cut differently: what lies nearer them than this is left out (mm). */
const CORNER_ROOM = 7;
/** The left hand covers the fingerboard beyond (mm of a full-size violin from the bridge). */
const HAND_FROM = 135;

const nearCorner = (u: number): boolean => [UPPER_CORNER, LOWER_CORNER].some((corner) => Math.abs(u - corner.u) < CORNER_ROOM);

/** Stations spread over all contours, for a model of any shape. */
export function contourStations(): ContourStation[] {
  const out: ContourStation[] = [];
  for (const contour of CONTOURS) {
    if (contour === 'fingerboard.end') for (let i = 0; i <= 8; i++) out.push({ contour, at: 0.1 + 0.1 * i });
    else if (contour.startsWith('fingerboard')) for (let i = 0; i < 16; i++) out.push({ contour, at: (i + 0.5) / 16 });
    else
      OUTLINE.forEach(([u], i) => {
        if (u > RIM_FROM && u < RIM_TO && !nearCorner(u)) out.push({ contour, at: i });
      });
  }
  return out;
}

/** Where a station lies, in the instrument frame (mm). */
export function contourPlace(model: InstrumentModel, { contour, at }: ContourStation): Vec3 {
  const { landmarks: lm, frame } = model;
  if (contour === 'fingerboard.end') {
    const [low, high] = [lm['instrument.fingerboardEnd.low'], lm['instrument.fingerboardEnd.high']];
    const half = (low[1] - high[1]) / 2;
    const radius = model.dimensions.bridgeRadius;
    const rise = Math.sqrt(radius ** 2 - (half * (1 - 2 * at)) ** 2) - Math.sqrt(radius ** 2 - half ** 2);
    const [x, y, z] = addScaled(low, subtract(high, low), at);
    return [x, y, z + rise];
  }
  const side = contour.endsWith('low') ? 'low' : 'high';
  if (contour.startsWith('fingerboard')) {
    const end = lm[`instrument.fingerboardEnd.${side}`];
    const nut = lm[`instrument.nut.${side}`];
    const to = (HAND_FROM * frame.scale - end[0]) / (nut[0] - end[0]);
    return addScaled(end, subtract(nut, end), at * to);
  }
  const [u, width] = OUTLINE[at]!;
  const y = (side === 'low' ? 1 : -1) * width * model.stretch.across;
  return bodyPoint(frame, u * model.stretch.along, y, contour.startsWith('plate') ? RIM : BACK_RIM - frame.ribs);
}

let shaping: readonly number[] | undefined;

/** The numbers of an instrument's shape (places in SHAPE) that move contours; the others only move single landmarks. */
export function contourShape(): readonly number[] {
  shaping ??= SHAPE.flatMap((_, i) => {
    const dimensions = dimensionsOf('violin', '4/4');
    const [usual, other] = [0, 1].map((v) =>
      instrumentModel(
        dimensions,
        SHAPE.map((__, k) => (k === i ? v : 0)),
      ),
    );
    return contourStations().some((station) => distance(contourPlace(usual!, station), contourPlace(other!, station)) > 1e-9) ? [i] : [];
  });
  return shaping;
}

/** A place a little (mm) further in than a station: on the plate, the fingerboard, or higher on the ribs. */
export function contourInside(model: InstrumentModel, station: ContourStation, by: number): Vec3 {
  const [x, y, z] = contourPlace(model, station);
  if (station.contour === 'fingerboard.end') return [x + by, y, z];
  if (station.contour.startsWith('back')) return [x, y, z + by];
  return [x, y - Math.sign(y) * by, z];
}

/** Direction of the contour at a station, instrument frame, not normalised: rims from the upper to the lower end, fingerboard toward the nut, its end toward the high side. */
export function contourDirection(model: InstrumentModel, { contour, at }: ContourStation): Vec3 {
  const step = contour.startsWith('fingerboard') ? 0.02 : 1;
  const ends = contour.startsWith('fingerboard') ? [at - step, at + step] : [Math.max(0, at - step), Math.min(OUTLINE.length - 1, at + step)];
  return subtract(contourPlace(model, { contour, at: ends[1]! }), contourPlace(model, { contour, at: ends[0]! }));
}

/** A place where a contour was seen to pass: only its distance across the contour is known. */
export interface ContourSighting {
  readonly station: ContourStation;
  readonly place: readonly [number, number];
  /** Unit vector across the contour in the picture. */
  readonly across: readonly [number, number];
  /** Standard uncertainty across, pixels. */
  readonly sigma: number;
}

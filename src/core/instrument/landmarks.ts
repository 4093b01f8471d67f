import type { Vec3 } from '../geometry/vec3';
import { type BodyFrame, bodyFrame, bodyPoint, LOWER_CORNER, RIM, UPPER_CORNER } from './body';
import type { Dimensions } from './dimensions';

/** Named points of the instrument; low and high name the side of the lowest and highest string. */
export const INSTRUMENT_LANDMARKS = [
  'instrument.nut.low',
  'instrument.nut.high',
  'instrument.fingerboardEnd.low',
  'instrument.fingerboardEnd.high',
  'instrument.bridge.low',
  'instrument.bridge.high',
  'instrument.bridgeFoot.low',
  'instrument.bridgeFoot.high',
  'instrument.scroll',
  'instrument.endButton',
  'instrument.tailpieceEnd',
  'instrument.upperCorner.low',
  'instrument.upperCorner.high',
  'instrument.lowerCorner.low',
  'instrument.lowerCorner.high',
] as const;
export type InstrumentLandmark = (typeof INSTRUMENT_LANDMARKS)[number];

export const isInstrumentLandmark = (name: string): name is InstrumentLandmark => (INSTRUMENT_LANDMARKS as readonly string[]).includes(name);

/**
 * What may differ between this very instrument and the defaults of its size: one standardised number
 * (mean 0, standard uncertainty 1) each, in the order of {@link SHAPE}. Sigmas in mm of a full-size
 * violin, or radians; ours, from the spread known in lutherie.
 */
export const SHAPE: readonly { readonly name: string; readonly sigma: number }[] = [
  { name: 'body height under the strings', sigma: 1.5 },
  { name: 'body tilt', sigma: 0.014 },
  { name: 'body roll', sigma: 0.02 },
  { name: 'string length', sigma: 3 },
  { name: 'bridge spread', sigma: 0.6 },
  { name: 'nut height', sigma: 1.5 },
  { name: 'nut width', sigma: 0.7 },
  { name: 'nut end low z', sigma: 0.8 },
  { name: 'nut end high z', sigma: 0.8 },
  { name: 'fingerboard end x', sigma: 2.5 },
  { name: 'fingerboard height', sigma: 1.5 },
  { name: 'fingerboard roll', sigma: 1 },
  { name: 'fingerboard width', sigma: 1 },
  { name: 'feet width', sigma: 1 },
  { name: 'feet height', sigma: 1 },
  { name: 'feet x', sigma: 1.5 },
  { name: 'scroll x', sigma: 6 },
  { name: 'scroll y', sigma: 2 },
  { name: 'scroll z', sigma: 8 },
  { name: 'end button x', sigma: 4 },
  { name: 'end button y', sigma: 2 },
  { name: 'end button z', sigma: 4 },
  { name: 'tailpiece end x', sigma: 5 },
  { name: 'tailpiece end y', sigma: 2 },
  { name: 'tailpiece end z', sigma: 4 },
  { name: 'body length', sigma: 3 },
  { name: 'bridge along the body', sigma: 3 },
  ...['upper corner low', 'upper corner high', 'lower corner low', 'lower corner high'].flatMap((corner) => [
    { name: `${corner} u`, sigma: 3 },
    { name: `${corner} y`, sigma: 2.5 },
    { name: `${corner} w`, sigma: 1.5 },
  ]),
  { name: 'body width', sigma: 2.5 },
  { name: 'rib height', sigma: 1.5 },
];

export type Shape = ArrayLike<number>;
export const DEFAULT_SHAPE: Shape = new Float64Array(SHAPE.length);

/** One instrument: its dimensions and how its shape departs from them. */
export interface InstrumentModel {
  readonly dimensions: Dimensions;
  readonly frame: BodyFrame;
  readonly landmarks: Readonly<Record<InstrumentLandmark, Vec3>>;
  readonly stringLength: number;
  readonly bridgeSpread: number;
  /** Fingerboard end from the bridge along x. */
  readonly fingerboardEndX: number;
  /** How much longer and wider the body's outline is than its size says, as factors. */
  readonly stretch: { readonly along: number; readonly across: number };
}

/** Places every landmark in the instrument frame (mm). Shape numbers are standardised, see {@link SHAPE}. */
export function instrumentModel(dimensions: Dimensions, shape: Shape = DEFAULT_SHAPE): InstrumentModel {
  const k = bodyFrame(dimensions).scale;
  const s = SHAPE.map((entry, i) => (shape[i] ?? 0) * entry.sigma);
  const frame = bodyFrame(dimensions, { height: s[0]! * k, tiltRad: s[1]!, rollRad: s[2]!, along: s[26]!, ribs: s[40]! });
  const stringLength = dimensions.stringLength + s[3]! * k;
  const bridgeSpread = dimensions.bridgeSpread + s[4]!;
  const half = bridgeSpread / 2;

  // Nut: 24 wide under strings spread 16.5; its ends lie where the fingerboard's arc has fallen away.
  const nutHalf = (dimensions.nutSpread * (24 / 16.5) + s[6]!) / 2;
  const nutZ = -0.6 * k + s[5]! * k;
  const endX = dimensions.bridgeToFingerboard + s[9]! * k;
  const endHalf = 21 * k + s[12]! / 2;
  // Strings 5.5 (low) and 3.5 (high) above the fingerboard's end; from the outer string to its corner the arc falls 2.7 more.
  const endLowZ = (-8.2 + s[10]! + s[11]!) * k;
  const endHighZ = (-6.2 + s[10]! - s[11]!) * k;
  const feetHalf = 20.75 + s[13]! / 2;
  const length = 1 + s[25]! / 356;
  const corner = (u: number, y: number, at: number): Vec3 => bodyPoint(frame, u * length + s[at]!, y + Math.sign(y) * s[at + 1]!, RIM + s[at + 2]!);
  const shifted = (p: Vec3, at: number): Vec3 => [p[0] + s[at]! * k, p[1] + s[at + 1]! * k, p[2] + s[at + 2]! * k];
  return {
    dimensions,
    frame,
    stringLength,
    bridgeSpread,
    fingerboardEndX: endX,
    stretch: { along: length, across: 1 + s[39]! / 208 },
    landmarks: {
      'instrument.nut.low': [stringLength, nutHalf, nutZ + s[7]!],
      'instrument.nut.high': [stringLength, -nutHalf, nutZ + s[8]!],
      'instrument.fingerboardEnd.low': [endX, endHalf, endLowZ],
      'instrument.fingerboardEnd.high': [endX, -endHalf, endHighZ],
      'instrument.bridge.low': [0, half, 0],
      'instrument.bridge.high': [0, -half, 0],
      // The bridge stands under the strings wherever on the body that is.
      'instrument.bridgeFoot.low': bodyPoint(frame, s[15]! - frame.along, feetHalf, 13.5 + s[14]!),
      'instrument.bridgeFoot.high': bodyPoint(frame, s[15]! - frame.along, -feetHalf, 13.5 + s[14]!),
      'instrument.scroll': shifted([stringLength + 107 * k, 0, -4 * k], 16),
      'instrument.endButton': shifted(bodyPoint(frame, -167 * length, 0, RIB_MIDDLE - frame.ribs / 2), 19),
      'instrument.tailpieceEnd': shifted(bodyPoint(frame, -158, 0, 18), 22),
      'instrument.upperCorner.low': corner(UPPER_CORNER.u, UPPER_CORNER.y, 27),
      'instrument.upperCorner.high': corner(UPPER_CORNER.u, -UPPER_CORNER.y, 30),
      'instrument.lowerCorner.low': corner(LOWER_CORNER.u, LOWER_CORNER.y, 33),
      'instrument.lowerCorner.high': corner(LOWER_CORNER.u, -LOWER_CORNER.y, 36),
    },
  };
}
/** The end button sits so far over the middle of the ribs (mm of a full-size violin). */
const RIB_MIDDLE = 0.5;

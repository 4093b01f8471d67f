import type { Vec3 } from '../geometry/vec3';
import type { InstrumentModel } from './landmarks';

/** From the nut: how far along, to its side and under the strings a peg's head sits (mm of a full-size violin; from memory). */
const HEAD = { along: 14, aside: 32, under: 14 } as const;

/** Head of the lowest string's peg, instrument frame, mm: the one nearest to the nut on that string's side (common practice, no source). */
export function lowestPeg({ landmarks, stringLength, frame: { scale } }: InstrumentModel): Vec3 {
  return [stringLength + HEAD.along * scale, Math.sign(landmarks['instrument.nut.low'][1]) * HEAD.aside * scale, -HEAD.under * scale];
}

import { FINGERS, type HandPoints } from '../../src/core/body/hand';
import { toOuter } from '../../src/core/geometry/pose';
import { rotate } from '../../src/core/geometry/rotation';
import { add, addScaled, cross, dot, normalize, RADIANS, scale, subtract, type Vec3 } from '../../src/core/geometry/vec3';
import type { InstrumentBuild } from '../instrument/build';
import type { Moment } from '../motion/performance';
import type { FretSpec } from './fretSpec';
import { fingerJoints, handScale, type Palm, reach, thumbJoints } from './hand';

export interface FretHand {
  readonly palm: Palm;
  readonly joints: HandPoints;
}

/** Places of the fingertips from the nut, shares of the string length (whole tones and semitones, closed form 1 - 2^(-n/12)). */
const PLACES = { shoulder: [0.109, 0.206, 0.251, 0.333], cello: [0.109, 0.159, 0.206, 0.251] } as const;

/** How far a wholly collapsed wrist swings under the neck, degrees; how far a good one hangs out from under the knuckles, radians (ours). */
const SWING = 48;
const HANGS = 0.08;

/**
 * The left hand about the neck in first position. `pressed` (0..1 a finger) tells how far each finger is down on
 * the string it plays; lifted fingers hover over it.
 */
export function fretHand(moment: Moment, build: InstrumentBuild, stature: number, pressed: readonly number[], spec: FretSpec): FretHand {
  const s = handScale(stature);
  const nut = build.model.stringLength;
  const k = build.model.frame.scale;
  const low = build.model.landmarks['instrument.nut.low'];
  const high = build.model.landmarks['instrument.nut.high'];
  const cello = build.endpin > 0;
  const places = cello ? PLACES.cello : PLACES.shoulder;
  const side = Math.sign(low[1] - high[1]) || 1;
  const room = (p: Vec3): Vec3 => toOuter(moment.instrument, p);
  const across = rotate(moment.instrument.rotation, [0, 1, 0]);
  const along = rotate(moment.instrument.rotation, [1, 0, 0]);
  const up = rotate(moment.instrument.rotation, [0, 0, 1]);
  const width = Math.abs(low[1] - high[1]);
  // The knuckles lie beside the high side of the board, the hand stands below it.
  const base = cello ? room([nut - 0.165 * nut, high[1] - side * 24 * s, low[2] + 22 * s]) : room([nut - 0.13 * nut, high[1] - side * 17 * s, low[2] - 26 * s]);
  // A collapsed wrist swings under the neck until the palm lies against it.
  const swing = SWING * spec.collapse * RADIANS;
  const wrist = cello
    ? room([nut - 0.19 * nut, high[1] - side * 100 * s, low[2] - 26 * s])
    : room([nut - 0.13 * nut - 8 * s, high[1] - side * 17 * s + side * 88 * s * Math.sin(swing - HANGS), low[2] - 26 * s - 88 * s * Math.cos(swing - HANGS)]);
  const palmAlong = normalize(subtract(base, wrist));
  // The palm faces the neck; index knuckle nearest the scroll.
  const toScroll = normalize(addScaled(along, palmAlong, -dot(along, palmAlong)));
  const turned = cello ? toScroll : normalize(addScaled(scale(toScroll, 0.87), scale(across, side), -0.5));
  const radial = normalize(addScaled(turned, palmAlong, -dot(turned, palmAlong)));
  const outward = cello ? up : scale(across, -side);
  const normal = cross(palmAlong, radial);
  const dorsal = dot(normal, outward) >= 0 ? normal : scale(normal, -1);
  const palm: Palm = { wrist, along: palmAlong, radial, dorsal };
  const line = (share: number, string: number, height: number): Vec3 => {
    const y = low[1] + (high[1] - low[1]) * (0.156 + 0.229 * string);
    return room([nut * (1 - share), y, low[2] + height]);
  };
  const fingers = FINGERS.map((_, i) => {
    const down = pressed[i] ?? 0;
    const target = line(places[i]!, moment.string, (7 + (1 - down) * (11 + 3 * i)) * Math.min(1.2, Math.max(0.75, k)));
    return fingerJoints(palm, i, reach(palm, i, target, s), s);
  });
  const thumbTip = cello ? room([nut * (1 - 0.17), 0, low[2] - 40 * s]) : room([nut * (1 - 0.12), low[1] + side * (5 + 0.1 * width), low[2] - 6 * s]);
  const bulge = add(scale(up, -1), scale(along, 0.5));
  return { palm, joints: [wrist, ...thumbJoints(palm, thumbTip, bulge, 18, s), ...fingers.flat()] };
}

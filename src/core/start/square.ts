import type { Vec2 } from '../geometry/vec3';
import { INPUT } from './landmarkMaps';
import type { Region } from './playerRegion';

/** A square of the film's picture as the network is shown it, turned by so many radians. */
export interface Square extends Region {
  readonly turn: number;
}

/** Film pixels of a place in the network's picture. */
export function fromInput(square: Square, [x, y]: Vec2): Vec2 {
  const k = square.side / INPUT;
  const dx = (x + 0.5 - INPUT / 2) * k;
  const dy = (y + 0.5 - INPUT / 2) * k;
  const c = Math.cos(square.turn);
  const s = Math.sin(square.turn);
  return [square.middle[0] + c * dx + s * dy, square.middle[1] - s * dx + c * dy];
}

/** The network's picture of a place in film pixels; inverse of {@link fromInput}. */
export function toInput(square: Square, [u, v]: Vec2): Vec2 {
  const k = INPUT / square.side;
  const dx = (u - square.middle[0]) * k;
  const dy = (v - square.middle[1]) * k;
  const c = Math.cos(square.turn);
  const s = Math.sin(square.turn);
  return [c * dx - s * dy + INPUT / 2 - 0.5, s * dx + c * dy + INPUT / 2 - 0.5];
}

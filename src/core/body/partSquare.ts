import type { Vec2 } from '../geometry/vec3';

/** A square of the picture that holds a part of the player, a hand or the head: px. */
export interface PartSquare {
  readonly centre: Vec2;
  readonly side: number;
}

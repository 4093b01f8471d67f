import type { Vec3 } from '../geometry/vec3';
import { bodyPoint, RIM } from './body';
import type { InstrumentModel } from './landmarks';
import { halfOutline } from './outline';

/** How finely the outline's curves are drawn. */
const STEPS = 8;

/** The outline of the top plate, once around from its upper end by the low side and back by the high one, instrument frame, mm. */
export function plateOutline({ frame, stretch }: InstrumentModel): Vec3[] {
  const half = halfOutline(STEPS);
  const edge = (side: 1 | -1) => half.map(([u, w]) => bodyPoint(frame, u * stretch.along, side * w * stretch.across, RIM));
  return [...edge(1), ...edge(-1).reverse()];
}

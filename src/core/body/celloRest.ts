import type { Vec3 } from '../geometry/vec3';
import { bodyPoint } from '../instrument/body';
import type { InstrumentModel } from '../instrument/landmarks';
import type { UsualPlace } from './torso';

/** How far the back's upper edge is from the bridge's line, mm of a full-size violin (from memory). */
const UPPER_EDGE = 185;

/** Upper edge of a cello's back, which leans on the player's breastbone; instrument frame, mm. */
export const upperBackEdge = ({ frame }: InstrumentModel): Vec3 => bodyPoint(frame, UPPER_EDGE, 0, -frame.ribs);

/** Where that edge lies on the player: that it is the breastbone is common practice, the numbers are ours. */
export const ON_BREASTBONE: UsualPlace = { at: [100, 30, -145], sigma: [40, 50, 45] };

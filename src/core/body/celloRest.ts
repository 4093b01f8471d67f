import { dot, mix, subtract, type Vec3 } from '../geometry/vec3';
import { bodyPoint } from '../instrument/body';
import type { InstrumentModel } from '../instrument/landmarks';
import { torsoAxes } from './torso';

/** How far the back's upper edge is from the bridge's line, mm of a full-size violin (from memory). */
const UPPER_EDGE = 185;

/** Upper edge of a cello's back, which leans on the player's breastbone; instrument frame, mm. */
export const upperBackEdge = ({ frame }: InstrumentModel): Vec3 => bodyPoint(frame, UPPER_EDGE, 0, -frame.ribs);

/** Where that edge lies from between the shoulders: forward, to the left, up, mm of a grown player, and how far players differ (1 sigma; that it lies on the breastbone is common practice, the numbers are ours). */
const ON_BREASTBONE = { at: [100, 30, -145], sigma: [40, 50, 45] } as const;

/** What is usual of the way a cello leans on its player, residuals over their standard deviations; `k` is the player's height over a grown one's, `tilt` widens what rests on a doubtful vertical. */
export function restResiduals(right: Vec3, left: Vec3, edge: Vec3, up: Vec3, k: number, tilt: number): number[] {
  const axes = torsoAxes(right, left, up);
  const d = subtract(edge, mix(right, left, 0.5));
  return [dot(d, axes.forward), dot(d, axes.left), dot(d, up)].map((p, j) => (p - ON_BREASTBONE.at[j]! * k) / (ON_BREASTBONE.sigma[j]! * k * tilt));
}

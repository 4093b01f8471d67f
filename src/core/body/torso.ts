import { addScaled, cross, DEGREES, dot, length, mix, normalize, subtract, type Vec3 } from '../geometry/vec3';

/** Where the end button is from between the shoulders: forward, to the left, up (mm of a grown player), and the instrument's heading (degrees). To which side of the throat it lies is left to what is seen: believed to 40 mm it turned the trunk by a degree or two (ours). */
export const HOLD = { at: [80, 0, 10], sigma: [35, 70, 35], heading: 42, headingSigma: 12 } as const;
const LEVEL_SHOULDERS = 0.1;

/** Axes of the torso, level: forward to the chest's side, left, from the line between the shoulders. */
export function torsoAxes(right: Vec3, left: Vec3, up: Vec3): { forward: Vec3; left: Vec3 } {
  const across = subtract(left, right);
  const toLeft = normalize(addScaled(across, up, -dot(across, up)));
  return { forward: cross(toLeft, up), left: toLeft };
}

/** Horizontal angle from one direction to another, degrees, + to the left (against the clock seen from above). */
export function headingFrom(forward: Vec3, direction: Vec3, up: Vec3): number {
  return Math.atan2(dot(cross(forward, direction), up), dot(addScaled(forward, up, -dot(forward, up)), direction)) * DEGREES;
}

/** Where something usually is from between the shoulders: forward, to the left, up, mm of a grown player, and how far players differ (1 sigma). */
export interface UsualPlace {
  readonly at: readonly [number, number, number];
  readonly sigma: readonly [number, number, number];
}

/** How far a place is from the usual one, residuals over their standard deviations; `k` is the player's height over a grown one's, `tilt` widens what rests on a doubtful vertical. */
export function placeResiduals(right: Vec3, left: Vec3, place: Vec3, usual: UsualPlace, up: Vec3, k: number, tilt: number): number[] {
  const axes = torsoAxes(right, left, up);
  const d = subtract(place, mix(right, left, 0.5));
  return [dot(d, axes.forward), dot(d, axes.left), dot(d, up)].map((p, j) => (p - usual.at[j]! * k) / (usual.sigma[j]! * k * tilt));
}

/** The instrument of a player of violin or viola, camera axes, mm. */
export interface HeldInstrument {
  readonly endButton: Vec3;
  /** Unit vector toward the scroll. */
  readonly ahead: Vec3;
}

/**
 * What is usual of the way a violin or viola lies on the player: the end button's place from between the shoulders,
 * shoulders about level, the instrument's heading. Residuals over their standard deviations; `k` is the player's
 * height over a grown one's, `tilt` widens what rests on a doubtful vertical.
 */
export function holdResiduals(right: Vec3, left: Vec3, { endButton, ahead }: HeldInstrument, up: Vec3, k: number, tilt: number): number[] {
  return [
    ...placeResiduals(right, left, endButton, HOLD, up, k, tilt),
    dot(subtract(left, right), up) / length(subtract(left, right)) / (LEVEL_SHOULDERS * tilt),
    (headingFrom(torsoAxes(right, left, up).forward, ahead, up) - HOLD.heading) / HOLD.headingSigma,
  ];
}

import type { Pose } from '../geometry/pose';
import { rotate } from '../geometry/rotation';
import { DEGREES, dot, normalize, RADIANS, type Vec3 } from '../geometry/vec3';
import type { Zenith } from '../geometry/zenith';
import { solveLeastSquares } from '../linalg/leastSquares';

/**
 * What is usual where nothing tells up, degrees: how far a phone looks down and leans to a side, how a violin or viola lies
 * (its scroll raised, its high-string side lower); each with its standard deviation (phones ours; the hold common practice, no source).
 */
const USUAL = { down: [15, 10], lean: [0, 4], pitch: [0, 9], roll: [25, 14] } as const;

/** Up in the camera's frame of a phone that looks down and leans by so many degrees. */
const upOf = ([down, lean]: readonly [number, number]): Vec3 => {
  const [d, l] = [down * RADIANS, lean * RADIANS];
  return [Math.sin(l) * Math.cos(d), -Math.cos(l) * Math.cos(d), -Math.sin(d)];
};

/**
 * Up as it most likely is where no line of the room tells it: from how phones are set up and how the instrument is held
 * in most of these poses. Good for what hardly hangs on it; nothing of the instrument's own level may be told by it.
 */
export function supposedUp(poses: readonly Pose[]): Zenith {
  const mean = (axis: Vec3) => normalize(poses.map((p) => rotate(p.rotation, axis)).reduce<Vec3>((a, b) => [a[0] + b[0], a[1] + b[1], a[2] + b[2]], [0, 0, 1e-9]));
  const [x, y, z] = [mean([1, 0, 0]), mean([0, 1, 0]), mean([0, 0, 1])];
  const { state, covariance } = solveLeastSquares<readonly [number, number]>({
    start: [USUAL.down[0], USUAL.lean[0]],
    unknowns: 2,
    increments: [0.1, 0.1],
    step: ([down, lean], delta) => [down + delta[0]!, lean + delta[1]!],
    residuals: (at) => {
      const up = upOf(at);
      const held = { pitch: Math.asin(Math.max(-1, Math.min(1, dot(x, up)))) * DEGREES, roll: Math.atan2(dot(y, up), dot(z, up)) * DEGREES };
      const off = (value: number, [usual, sigma]: readonly [number, number]) => (value - usual) / sigma;
      const phone = [off(at[0], USUAL.down), off(at[1], USUAL.lean)];
      return poses.length > 0 ? [...phone, off(held.pitch, USUAL.pitch), off(held.roll, USUAL.roll)] : phone;
    },
  });
  const [a, b, , d] = covariance!;
  return { direction: upOf(state), sigmaDeg: Math.sqrt((a! + d! + Math.hypot(a! - d!, 2 * b!)) / 2) };
}

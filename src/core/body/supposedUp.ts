import type { Camera } from '../geometry/camera';
import type { Pose } from '../geometry/pose';
import { rotate } from '../geometry/rotation';
import { add, addScaled, DEGREES, dot, normalize, RADIANS, scale, subtract, type Vec3 } from '../geometry/vec3';
import { type ImageSegment, planeOf, type Zenith } from '../geometry/zenith';
import { solveLeastSquares } from '../linalg/leastSquares';

/**
 * What is usual where nothing tells up, degrees: how far a phone looks down and leans to a side, how a violin or viola lies
 * (its scroll raised, its high-string side lower); each with its standard deviation (phones ours; the hold common practice, no source).
 */
const USUAL = { down: [15, 10], lean: [0, 4], pitch: [0, 9], roll: [25, 14] } as const;

/** A line marked as plumb is off by so much, in its picture or by a hand-held phone that moves on (degrees, ours). */
const PLUMB_SIGMA = 1;

/** Up in the camera's frame of a phone that looks down and leans by so many degrees. */
const upOf = ([down, lean]: readonly [number, number]): Vec3 => {
  const [d, l] = [down * RADIANS, lean * RADIANS];
  return [Math.sin(l) * Math.cos(d), -Math.cos(l) * Math.cos(d), -Math.sin(d)];
};

/**
 * Up as it most likely is where the lines of the room do not tell it: from how phones are set up, how the instrument is held
 * in most of these poses, and a single line marked as plumb. Good for what hardly hangs on it; nothing of the instrument's
 * own level may be told by it.
 */
export function supposedUp(poses: readonly Pose[], marked?: { readonly camera: Camera; readonly plumb: ImageSegment }): Zenith & Required<Pick<Zenith, 'tilts'>> {
  const mean = (axis: Vec3) => normalize(poses.map((p) => rotate(p.rotation, axis)).reduce(add, [0, 0, 1e-9]));
  const [x, y, z] = [mean([1, 0, 0]), mean([0, 1, 0]), mean([0, 0, 1])];
  const plane = marked && planeOf(marked.camera, marked.plumb);
  const { state, covariance } = solveLeastSquares<readonly [number, number]>({
    start: [USUAL.down[0], USUAL.lean[0]],
    unknowns: 2,
    increments: [0.1, 0.1],
    step: ([down, lean], delta) => [down + delta[0]!, lean + delta[1]!],
    residuals: (at) => {
      const up = upOf(at);
      const held = { pitch: arcsine(dot(x, up)), roll: Math.atan2(dot(y, up), dot(z, up)) * DEGREES };
      const off = (value: number, [usual, sigma]: readonly [number, number]) => (value - usual) / sigma;
      return [
        off(at[0], USUAL.down),
        off(at[1], USUAL.lean),
        ...(poses.length > 0 ? [off(held.pitch, USUAL.pitch), off(held.roll, USUAL.roll)] : []),
        ...(plane ? [arcsine(dot(plane, up)) / PLUMB_SIGMA] : []),
      ];
    },
  });
  const direction = upOf(state);
  // Columns of the covariance's Cholesky factor are independent deviations.
  const [a, b, , d] = covariance!;
  const [l11, l21] = [Math.sqrt(a!), b! / Math.sqrt(a!)];
  const perDegree = ([down, lean]: readonly [number, number]) => subtract(upOf([state[0] + down, state[1] + lean]), direction);
  const [byDown, byLean] = [perDegree([1, 0]), perDegree([0, 1])];
  return {
    direction,
    sigmaDeg: Math.sqrt((a! + d! + Math.hypot(a! - d!, 2 * b!)) / 2),
    tilts: [addScaled(scale(byDown, l11), byLean, l21), scale(byLean, Math.sqrt(d! - l21 * l21))],
  };
}

const arcsine = (sine: number): number => Math.asin(Math.max(-1, Math.min(1, sine))) * DEGREES;

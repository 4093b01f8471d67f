import { type Camera, project, ray } from '../geometry/camera';
import { type Pose, toInner, toOuter } from '../geometry/pose';
import { rotate } from '../geometry/rotation';
import { addScaled, DEGREES, distance, dot, normalize, scale, subtract, type Vec2, type Vec3 } from '../geometry/vec3';
import { propagated } from '../linalg/propagate';
import { solveTerms, type Term } from '../linalg/termLeastSquares';
import type { Measured } from '../measures/measures';
import { type LeftHand, USUAL_SPREAD, usualLeftHand } from './leftHand';
import { GROWN, type Length, SEGMENTS } from './stature';

/** Wrist to middle knuckle as a share of the height, and how far people differ (from memory, hand tables). */
const HAND = { share: 0.0525, spread: 0.07 } as const;
/** How well a joint is placed by hand, mm of a grown player (ours). */
const PLACED = 9;
/** Two ways to lay the arm in depth that explain the picture about as well (difference of chi squared) tell nothing. */
const AS_WELL = 4;
/** Bodies and definitions add so much, degrees. */
const MODEL = 4;
/** A larger doubt tells nothing: the wrist bends toward the camera or away from it. */
const LIMIT = 20;

/**
 * Bend of the left wrist, degrees: 0 in line with the forearm, + toward the palm, - bent back, the palm against the neck.
 * `outward` is where the back of the hand looks, away from the neck toward the player's left.
 */
export function leftWristBend({ elbow, wrist, knuckle }: LeftHand<Vec3>, outward: Vec3): number {
  const forearm = normalize(subtract(wrist, elbow));
  const back = normalize(addScaled(outward, forearm, -dot(outward, forearm)));
  const hand = subtract(knuckle, wrist);
  return -Math.atan2(dot(hand, back), dot(hand, forearm)) * DEGREES;
}

/** What the left wrist is told from; camera axes, mm. */
export interface LeftWristEvidence {
  readonly camera: Camera;
  readonly pose: Pose;
  /** Length of the string, and the nut's end on the side of the highest string, in the instrument's frame. */
  readonly stringLength: number;
  readonly nutHigh: Vec3;
  readonly marked: LeftHand<Vec2>;
  readonly stature: Length;
}

/** Bend of the left wrist from three joints placed by hand, the lengths of arm and hand, and the neck in the hand. Undefined where depth leaves it open. */
export function leftWristSeen({ camera, pose, stringLength, nutHigh, marked, stature }: LeftWristEvidence): Measured | undefined {
  const k = stature.value / GROWN;
  const usual = usualLeftHand(stringLength, nutHigh, stature.value);
  const knuckle = toOuter(pose, usual.knuckle);
  const outward = scale(rotate(pose.rotation, [0, 1, 0]), Math.sign(nutHigh[1]) || -1);
  const sigma = (camera.focal * PLACED * k) / knuckle[2];
  const [hand, forearm] = [HAND.share * stature.value, SEGMENTS.forearm.share * stature.value];
  const seen = (at: number, [x, y]: Vec2): Term => ({
    at: [at, at + 1, at + 2],
    residuals: (v) => {
      const p = project(camera, v as unknown as Vec3);
      return p ? [(p[0] - x) / sigma, (p[1] - y) / sigma] : [100, 100];
    },
  });
  const apart = (a: number, b: number, size: number, spread: number): Term => ({
    at: [a, a + 1, a + 2, b, b + 1, b + 2],
    residuals: (v) => [(distance([v[0]!, v[1]!, v[2]!], [v[3]!, v[4]!, v[5]!]) / size - 1) / spread],
  });
  const atNeck = (at: number, joint: keyof LeftHand<Vec3>): Term => ({
    at: [at, at + 1, at + 2],
    residuals: (v) => {
      const p = toInner(pose, [v[0]!, v[1]!, v[2]!]);
      return usual[joint].map((u, i) => (p[i]! - u) / (USUAL_SPREAD[joint][i]! * k));
    },
  });
  const spread = Math.hypot(SEGMENTS.forearm.spread, stature.sigma / stature.value);
  const terms: Term[] = [
    seen(0, marked.elbow),
    seen(3, marked.wrist),
    seen(6, marked.knuckle),
    apart(0, 3, forearm, spread),
    apart(3, 6, hand, Math.hypot(HAND.spread, stature.sigma / stature.value)),
    atNeck(0, 'elbow'),
    atNeck(3, 'wrist'),
    atNeck(6, 'knuckle'),
  ];
  const on = (p: Vec2, depth: number): Vec3 => {
    const r = ray(camera, p);
    return scale(r, depth / r[2]);
  };
  // Both hand and forearm may lead to the camera or away from it.
  const solutions = [-0.6, 0.6].flatMap((a) =>
    [-0.6, 0.6].map((b) => {
      const wrist = on(marked.wrist, knuckle[2] + a * hand);
      const elbow = on(marked.elbow, wrist[2] + b * forearm);
      const { values, cost, system } = solveTerms({ start: Float64Array.from([...elbow, ...wrist, ...knuckle]), local: 9, half: 8, step: () => 0.02, terms });
      const bend = (v: ArrayLike<number>) => leftWristBend({ elbow: [v[0]!, v[1]!, v[2]!], wrist: [v[3]!, v[4]!, v[5]!], knuckle: [v[6]!, v[7]!, v[8]!] }, outward);
      return { cost, value: bend(values), u: () => Math.hypot(MODEL, propagated(Array.from(values), system.covarianceBlock(0, 9), bend)) };
    }),
  );
  const best = solutions.reduce((a, b) => (b.cost < a.cost ? b : a));
  const u = best.u();
  const open = solutions.some((s) => s.cost < best.cost + AS_WELL && Math.abs(s.value - best.value) > 1.5 * u);
  return open || !(u <= LIMIT) ? undefined : { value: best.value, u };
}

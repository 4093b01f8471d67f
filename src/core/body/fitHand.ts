import { type Camera, project } from '../geometry/camera';
import { add, scale, type Vec2, type Vec3 } from '../geometry/vec3';
import { propagated } from '../linalg/propagate';
import { solveTerms, type Term } from '../linalg/termLeastSquares';
import { median } from '../statistics';
import { FINGERS } from './hand';
import { fingerAt, fingerChain, HAND_NUMBERS, handPoints, palmOf, THUMB_AT, TURN, thumbChain, WRIST } from './handModel';
import { deeper, type HeldJoint, handMiddle, heldSigma } from './handView';
import { WRIST_AT_FROG } from './wristAtFrog';

/** What is known of the bow hand in a frame. */
export interface HandEvidence {
  readonly t: number;
  /** Where the bow is: frog end of the hair, and its axes along the hair, toward the player, out of the top; camera axes, mm. */
  readonly frog: Vec3;
  readonly axes: readonly [Vec3, Vec3, Vec3];
  readonly position: number;
  /** The 21 points a general hand network saw, px. */
  readonly seen?: readonly Vec2[] | undefined;
  /** The 21 joints as the hand network of our own saw them. */
  readonly held?: readonly HeldJoint[] | undefined;
  /** Points placed by hand, px. */
  readonly marked?: ReadonlyMap<number, Vec2> | undefined;
}

export interface HandInput {
  readonly camera: Camera;
  readonly frames: readonly HandEvidence[];
  /** Size of the player against a grown one, about 0.6..1. */
  readonly size: number;
  /** Size of the bow against a full one. */
  readonly bowScale: number;
}

export interface HandFit {
  /** The 21 points in camera axes, mm, a frame each. */
  readonly frames: readonly (readonly Vec3[])[];
  /** Width of the palm in the picture, px. */
  readonly palm: number;
  /** Standard uncertainty of a number made from a frame's points. */
  sigmaOf(frame: number, value: (points: readonly Vec3[]) => number): number;
}

const MEMORY = 0.35;
/** A hold changes slowly: what is usual counts once in so many seconds. */
const HELD = 1.2;
/** Points of the network: a frame's own error and one lasting through the clip joined, share of the palm's width; thumb and the outer little finger are often taken for something else (arm and hand recipe). */
const POINT_SIGMA = 0.065;
const WEIGHT = (point: number): number => (point >= 1 && point <= 4 ? 0.25 : point >= 18 ? 0.6 : 1);
/** Joints placed by eye, px at 960 across: they lie in the flesh (ours, from another renderer's marks). */
const MARK_SIGMA = 2.5;
/**
 * How far depths of our own network are off, mm of a grown hand; joints off by more than so many sigmas lose their say; a
 * finger whose joints are within so many sigmas of where the teacher placed them is seen rightly (ours).
 */
const HELD_JOINT = { depth: 14, lost: 2, agrees: 0.7 } as const;
/**
 * Our network tells depths from the middle of the hand, and errs about where that is in all frames alike; the frog from which it is reckoned may be
 * mistaken, too (mm of a grown player, ours: believed, a middle 25 mm too near bent index, middle and ring finger by 8 to 12
 * degrees too much, as in a close-up of another renderer).
 */
const MIDDLE_SIGMA = 25;
const HAND_SIZE_SIGMA = 0.07;
const BONE_SIGMA = 0.05;
/** Bends and their spread, degrees: knuckle, sideways, middle joint; the end joint follows the middle one (arm and hand recipe; anatomy, from memory). */
const FINGER_PRIOR = { mcp: [25, 35], spread: [0, 12], pip: [45, 40], dip: [3, 10], follows: 0.6 } as const;
const LITTLE_PRIOR = { mcp: [20, 45], spread: [0, 14], pip: [40, 50], dip: [3, 22], follows: 0.6 } as const;
/** Two turns at the thumb's base, knuckle, end joint (from memory; wide enough for the holds of two renderers, straight and bent back too). */
const THUMB_PRIOR = [
  [0, 30],
  [0, 30],
  [15, 40],
  [12, 40],
] as const;
/** How far the wrist may be from its usual place, mm; where the fingertips are along the hair, mm of a grown hand, and their spread (common practice of the hold; ours). */
const WRIST_SIGMA = 28;
const TIP_ALONG = { thumb: [9, 14], index: [36, 16], middle: [12, 13], ring: [-9, 13], little: [-30, 16] } as const;
const TIPS = ['thumb', ...FINGERS] as const;
/** Tips stay where they are along a stroke (mm a frame), and lie on the stick: so far from its axis. */
const TIP_STAYS = 4.5;
const ON_STICK = { at: 13, sigma: 4, little: 9 } as const;
/** Stick's axis over the hair near the frog, mm of a full bow (from memory). */
export const STICK_OVER_HAIR = 21;
/** Turns of the hand from the usual, degrees; and from frame to frame. */
const TURN_SIGMA = 30;
const TURN_STEP = 14;
const BEND_STEP = 12;
/** The thumb gives less along the bow than the fingers do (degrees, ours). */
const THUMB_STEP = 4;
/** Points that place a finger: of the thumb knuckle, end joint, tip; of the others middle joint, end joint, tip. */
export const PLACING = { thumb: [2, 3, 4], index: [6, 7, 8], middle: [10, 11, 12], ring: [14, 15, 16], little: [18, 19, 20] } as const;
const THUMB_BASE = 1;
/** In smaller palms the network bends fingers too little, by 7 to 27 degrees at 35 px on two renderers, 3 to 10 at 44: nothing is said (px wide, ours). */
export const LEAST_PALM = 42;
/**
 * Nearer to the line of sight than this (degrees, at the frog) the bow hides the fingers behind one another: the thumb alone
 * can be told (ours: on twelve close-ups of 1 to 13 degrees fingers were 20 to 60 degrees off, on one of 21 to 25 degrees 5).
 */
export const FINGERS_HIDDEN = 16;
/** Up to this angle (degrees) one finger is half behind the next (ours: at 20 degrees fingers were 8 to 24 degrees off, at 30 and more 3 to 7). */
export const FINGERS_OVERLAP = 30;

const SIZE = 0;
const BONES = 1;
const TIP = BONES + 15;
const MIDDLE = TIP + 15;
const GLOBALS = MIDDLE + 1;

/** Whether the teacher placed all these points in one of the frames. */
export const isPlaced = (frames: readonly HandEvidence[], points: readonly number[]): boolean =>
  frames.some(({ marked }) => marked !== undefined && points.every((p) => marked.has(p)));

/**
 * A jointed hand laid on all frames at once: what a network or the teacher saw, the fingertips on the stick where
 * they stay, joints within their usual range. Undefined where no frame shows a hand large enough.
 */
export function fitHand({ camera, frames: given, size, bowScale }: HandInput): HandFit | undefined {
  const palmOfSeen = (seen: readonly Vec2[]) => Math.hypot(seen[5]![0] - seen[17]![0], seen[5]![1] - seen[17]![1]);
  // Beside a hand placed by the teacher a tiny one that the network saw is something else, or seen edge-on.
  const byHand = given.some((f) => f.marked);
  const frames = byHand ? given.map((f) => (f.seen && palmOfSeen(f.seen) < LEAST_PALM ? { ...f, seen: undefined } : f)) : given;
  const shown = frames.filter((f) => f.seen || f.held || f.marked);
  if (shown.length === 0) return undefined;
  const palms = frames.flatMap(({ seen }) => (seen ? [palmOfSeen(seen)] : []));
  const palm = palms.length > 0 ? median(palms) : (58 * size * camera.focal) / shown[0]!.frog[2];
  if (palm < LEAST_PALM) return undefined;
  const n = frames.length;
  const spacing = n > 1 ? (frames[n - 1]!.t - frames[0]!.t) / (n - 1) : MEMORY;
  const alike = Math.sqrt(Math.max(1, MEMORY / Math.max(1e-3, spacing)));
  const held = Math.sqrt(Math.max(1, HELD / Math.max(1e-3, spacing)));
  const local = HAND_NUMBERS * n;
  const G = (i: number) => local + i;
  const markSigma = (MARK_SIGMA * Math.max(camera.width, camera.height)) / 960;
  // Where the teacher placed a finger, what the network takes for it has no say.
  const overruled = new Set<number>(TIPS.flatMap((finger) => (isPlaced(frames, PLACING[finger]) ? PLACING[finger] : [])));
  if (overruled.has(PLACING.thumb[0])) overruled.add(THUMB_BASE);
  /** Whether our own network has a finger where the teacher placed it: then it may tell of it in the other frames. */
  const agrees = (points: readonly number[]) =>
    frames.some(({ frog, axes, marked, held }) => {
      if (!marked || !held || !points.every((p) => marked.has(p))) return false;
      const middle = handMiddle(frog, axes, size);
      const off = points.map((p) => {
        const [mark, joint] = [marked.get(p)!, held[p]!];
        return Math.hypot(mark[0] - joint.point[0], mark[1] - joint.point[1]) / Math.hypot(heldSigma(joint, middle, camera.focal, size), markSigma);
      });
      return Math.hypot(...off) < HELD_JOINT.agrees * Math.sqrt(2 * off.length);
    });
  const gainsaid = new Set<number>(TIPS.flatMap((finger) => (finger === 'thumb' || !agrees(PLACING[finger]) ? PLACING[finger].filter((p) => overruled.has(p)) : [])));
  if (gainsaid.has(PLACING.thumb[0])) gainsaid.add(THUMB_BASE);
  const terms: Term[] = [];
  const prior = (at: number, value: number, sigma: number) => terms.push({ at: [at], residuals: ([x]) => [(x! - value) / sigma] });
  const start = new Float64Array(local + GLOBALS);

  prior(G(SIZE), 0, HAND_SIZE_SIGMA);
  prior(G(MIDDLE), 0, MIDDLE_SIGMA * size);
  for (let b = 0; b < 15; b++) prior(G(BONES + b), 0, BONE_SIGMA);
  TIPS.forEach((tip, f) => {
    const [along, sigma] = TIP_ALONG[tip];
    const at = TIP + 3 * f;
    start[G(at)] = along * size;
    start[G(at + 1)] = tip === 'thumb' ? 8 : -8;
    start[G(at + 2)] = STICK_OVER_HAIR * bowScale - 6;
    prior(G(at), along * size, sigma * size);
    const off = tip === 'little' ? ON_STICK.little : ON_STICK.sigma;
    terms.push({ at: [G(at + 1), G(at + 2)], residuals: ([y, z]) => [(Math.hypot(y!, z! - STICK_OVER_HAIR * bowScale) - ON_STICK.at * size) / (off * size)] });
  });
  const six = (o: number) => [0, 1, 2, 3, 4, 5].map((k) => o + k);
  const palmFrom = (v: readonly number[]) => palmOf([v[0]!, v[1]!, v[2]!], [v[3]!, v[4]!, v[5]!]);
  const boneIds = (f: number) => [0, 1, 2].map((b) => G(BONES + 3 * f + b));
  const lengths = (v: readonly number[]) => v.map((x) => Math.exp(x));

  frames.forEach((frame, i) => {
    const o = HAND_NUMBERS * i;
    const toCamera = (p: Vec3): Vec3 => frame.axes.reduce<Vec3>((sum, axis, k) => add(sum, scale(axis, p[k]!)), frame.frog);
    const usual = [WRIST_AT_FROG.at[0] + WRIST_AT_FROG.travel * (frame.position - WRIST_AT_FROG.middle), WRIST_AT_FROG.at[1], WRIST_AT_FROG.at[2]];
    usual.forEach((value, k) => {
      start[o + WRIST + k] = value * size;
      prior(o + WRIST + k, value * size, WRIST_SIGMA * size * alike);
    });
    for (let k = 0; k < 3; k++) prior(o + TURN + k, 0, TURN_SIGMA * alike);
    FINGERS.forEach((finger, f) => {
      const p = finger === 'little' ? LITTLE_PRIOR : FINGER_PRIOR;
      const a = o + fingerAt(f);
      [p.mcp, p.spread, p.pip].forEach(([value, sigma], k) => {
        start[a + k] = value;
        prior(a + k, value, sigma * held);
      });
      start[a + 3] = p.follows * p.pip[0] + p.dip[0];
      terms.push({ at: [a + 2, a + 3], residuals: ([pip, dip]) => [(dip! - p.follows * pip! - p.dip[0]) / (p.dip[1] * alike)] });
    });
    THUMB_PRIOR.forEach(([value, sigma], k) => {
      start[o + THUMB_AT + k] = value;
      prior(o + THUMB_AT + k, value, sigma * (k < 3 ? alike : held));
    });
    if (i > 0) {
      for (let k = 0; k < HAND_NUMBERS; k++) {
        if (k < TURN) continue;
        const step = (k < 6 ? TURN_STEP : k >= THUMB_AT && k < THUMB_AT + 4 ? THUMB_STEP : BEND_STEP) * Math.max(0.3, (frame.t - frames[i - 1]!.t) / 0.15);
        terms.push({ at: [o + k, o + k - HAND_NUMBERS], residuals: ([a, b]) => [(a! - b!) / step] });
      }
    }
    /** Sight of a point, and which numbers it depends on. */
    const sight = (point: number, at: readonly number[], placed: (v: readonly number[]) => Vec3) => {
      const mark = frame.marked?.get(point);
      const seen = mark ?? (overruled.has(point) ? undefined : frame.seen?.[point]);
      if (!seen) return;
      const sigma = mark ? markSigma : (POINT_SIGMA * palm * alike) / Math.sqrt(WEIGHT(point));
      terms.push({
        at,
        residuals: (v) => {
          const p = project(camera, toCamera(placed(v)));
          return p ? [(p[0] - seen[0]) / sigma, (p[1] - seen[1]) / sigma] : [50, 50];
        },
        ...(mark ? {} : { robust: 2 }),
      });
    };
    const middle = handMiddle(frame.frog, frame.axes, size);
    /** What our own network has for a point. */
    const own = (point: number, at: readonly number[], placed: (v: readonly number[]) => Vec3) => {
      const joint = gainsaid.has(point) || frame.marked?.has(point) ? undefined : frame.held?.[point];
      if (!joint) return;
      const sigma = heldSigma(joint, middle, camera.focal, size) * alike;
      const deep = HELD_JOINT.depth * size * alike;
      terms.push({
        at: [...at, G(MIDDLE)],
        residuals: (v) => {
          const there = toCamera(placed(v));
          const p = project(camera, there);
          const further = v[v.length - 1]!;
          return p ? [(p[0] - joint.point[0]) / sigma, (p[1] - joint.point[1]) / sigma, (deeper(there, middle) - further - joint.deeper) / deep] : [50, 50, 50];
        },
        robust: HELD_JOINT.lost,
      });
    };
    const look = (...given: Parameters<typeof sight>) => {
      sight(...given);
      own(...given);
    };
    look(0, six(o).slice(0, 3), (v) => [v[0]!, v[1]!, v[2]!]);
    TIPS.forEach((_, f) => {
      const angles = f === 0 ? THUMB_AT : fingerAt(f - 1);
      const ids = [...six(o), ...[0, 1, 2, 3].map((k) => o + angles + k), G(SIZE), ...boneIds(f)];
      const chain = (v: readonly number[]) =>
        f === 0
          ? thumbChain(palmFrom(v), v.slice(6, 10), size * Math.exp(v[10]!), lengths(v.slice(11, 14)))
          : fingerChain(palmFrom(v), FINGERS[f - 1]!, v.slice(6, 10), size * Math.exp(v[10]!), lengths(v.slice(11, 14)));
      for (let j = 0; j < 4; j++) look(1 + 4 * f + j, ids, (v) => chain(v)[j]!);
      terms.push({
        at: [...ids, G(TIP + 3 * f), G(TIP + 3 * f + 1), G(TIP + 3 * f + 2)],
        residuals: (v) => {
          const tip = chain(v)[3]!;
          return [0, 1, 2].map((k) => (tip[k]! - v[14 + k]!) / (TIP_STAYS * size * alike));
        },
      });
    });
  });
  const solved = solveTerms({ start, local, half: 2 * HAND_NUMBERS - 1, step: (u) => (u >= G(SIZE) && u < G(TIP) ? 1e-4 : 0.01), terms });
  const { values, system } = solved;
  const hand = Math.exp(values[G(SIZE)]!) * size;
  const bones = [0, 1, 2, 3, 4].map((f) => lengths([0, 1, 2].map((b) => values[G(BONES + 3 * f + b)]!)));
  const pointsOf = (i: number, numbers: readonly number[]): Vec3[] =>
    handPoints(numbers, hand, bones).map((p) => frames[i]!.axes.reduce<Vec3>((sum, axis, k) => add(sum, scale(axis, p[k]!)), frames[i]!.frog));
  const numbersOf = (i: number) => Array.from(values.subarray(HAND_NUMBERS * i, HAND_NUMBERS * (i + 1)));
  const covariances = new Map<number, Float64Array>();
  return {
    frames: frames.map((_, i) => pointsOf(i, numbersOf(i))),
    palm,
    sigmaOf(i, value) {
      let covariance = covariances.get(i);
      if (!covariance) {
        covariance = system.covarianceBlock(HAND_NUMBERS * i, HAND_NUMBERS);
        covariances.set(i, covariance);
      }
      return propagated(numbersOf(i), covariance, (numbers) => value(pointsOf(i, numbers)));
    },
  };
}

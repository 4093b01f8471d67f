import { type Camera, project, ray } from '../geometry/camera';
import { add, cross, DEGREES, distance, dot, length, mix, normalize, scale, subtract, type Vec2, type Vec3 } from '../geometry/vec3';
import { propagated } from '../linalg/propagate';
import { solveTerms, type Term } from '../linalg/termLeastSquares';
import { ON_BREASTBONE } from './celloRest';
import { seenTurn, turnResidual } from './seenTurn';
import { STANCE_JOINTS, type Stance, type StanceJoint } from './stance';
import { GROWN, headSize, type Length, SEGMENTS } from './stature';
import { type HeldInstrument, HOLD, holdResiduals, placeResiduals } from './torso';

/** What was seen of the player over a short while. */
export interface StanceEvidence {
  /** Places in the picture, px; absent where a joint is not to be told. */
  readonly seen: Readonly<Partial<Record<StanceJoint, Vec2>>>;
  /** How far the network's looks at a joint differ, px across and down (1 sigma): what jumps about is not well seen. */
  readonly unsteady?: Readonly<Partial<Record<StanceJoint, Vec2>>> | undefined;
  /** Those of them that were placed by hand. */
  readonly placed?: ReadonlySet<StanceJoint> | undefined;
  /** The network's own guess in space, mm, camera axes from between the hips; only a hint. */
  readonly space: Readonly<Partial<Record<StanceJoint, Vec3>>>;
  /** The head as its face shows it: unit vector from the right ear to the left, camera axes. Ears and nose are then seen as it has them. */
  readonly toLeftEar?: Vec3 | undefined;
  /** Of violin and viola; absent where it was lost, its left wrist where the hand was away from the neck. */
  readonly instrument?: (HeldInstrument & { readonly leftWrist?: Vec3 | undefined }) | undefined;
  /** The upper edge of a cello's back, camera axes, mm; absent where it was lost. */
  readonly celloEdge?: Vec3 | undefined;
}

export interface StanceInput {
  readonly camera: Camera;
  readonly evidence: StanceEvidence;
  readonly stature: Length;
  /** Direction up in the camera's frame, and its standard uncertainty in degrees. */
  readonly up: Vec3;
  readonly upSigmaDeg: number;
}

export interface StanceFit {
  readonly stance: Stance;
  /** Standard uncertainty of a number made from the joints. */
  sigmaOf(value: (stance: Stance) => number): number;
}

/** A joint in the network's eye: off across and down by so much, and how well it is placed across and down (1 sigma). */
interface JointEye {
  readonly off: Vec2;
  readonly sigma: Vec2;
}

/** Shares of the torso's height in the picture of an upright player (ours, measured through 34 clips of two renderers). */
const EYE: Readonly<Record<StanceJoint, JointEye>> = {
  'shoulder.right': { off: [0, 0], sigma: [0.06, 0.06] },
  'shoulder.left': { off: [0, 0], sigma: [0.06, 0.06] },
  'hip.right': { off: [0, 0.045], sigma: [0.03, 0.07] },
  'hip.left': { off: [0, 0.045], sigma: [0.03, 0.07] },
  'knee.right': { off: [0, 0], sigma: [0.03, 0.05] },
  'knee.left': { off: [0, 0], sigma: [0.03, 0.05] },
  'ankle.right': { off: [0, -0.045], sigma: [0.025, 0.035] },
  'ankle.left': { off: [0, -0.045], sigma: [0.025, 0.035] },
  'elbow.left': { off: [0, -0.06], sigma: [0.08, 0.08] },
  // The hand about the neck draws the network's wrist up to it.
  'wrist.left': { off: [-0.04, -0.15], sigma: [0.08, 0.13] },
  'ear.right': { off: [0.06, 0.045], sigma: [0.035, 0.035] },
  'ear.left': { off: [0, 0.025], sigma: [0.035, 0.045] },
  nose: { off: [0, -0.04], sigma: [0.025, 0.03] },
};
/** The same for a joint placed by hand. */
const BY_HAND: JointEye = { off: [0, 0], sigma: [0.025, 0.025] };
/** The same for ears and nose of a head whose face was seen, */
const BY_FACE: JointEye = { off: [0, 0], sigma: [0.02, 0.02] };
/** and how well the line through the ears is known then (radians, 1 sigma; ours). */
const EARS_SIGMA = 0.07;
/** Outside of the picture a network can but guess, */
const OUTSIDE = 4;
/** and a player whose lower half is outside it squeezes into the picture: the trunk is then seen shorter than this share of what the instrument's distance asks for. */
const SQUEEZED = 0.85;
/** In a close-up, where the trunk would fill more than this share of the picture's height, the network's body is made up (ours). */
export const TOO_CLOSE = 0.75;
/**
 * Depths of the network's own space are off by so much, mm: they only choose between before and behind (what the trunk's
 * turn tells is taken out of them by `seenTurn`); the head's parts are better.
 */
const DEPTH_SIGMA = { body: 400, head: 60 } as const;
/** More lengths between joints as shares of the height, and how far people differ (1 sigma, share of the length; body segment tables, from memory). */
const LENGTHS = {
  hips: { share: 0.104, spread: 0.1 },
  thigh: { share: 0.24, spread: 0.06 },
  shin: { share: 0.235, spread: 0.06 },
} as const;
/** Ears apart, and the nose's tip before the line between them and below it, mm: of a grown player (from memory, anthropometric tables). */
const HEAD = { ears: 148, nose: 100, drop: 18, spread: 0.08 } as const;
/** Hips and ankles of one who stands or sits are about level (mm, 1 sigma). */
const LEVEL = { hips: 18, ankles: 15 } as const;
/** How far trunks lean, degrees (1 sigma, ours): wide enough to let any posture be seen. */
const LEAN = 12;
/** Where the head is over the shoulders, mm of a grown player: forward, left, up (ours, from renders). */
const HEAD_AT = { at: [40, 30, 215], sigma: [60, 50, 60] } as const;
/** How well the place of the left wrist below the neck is known, mm of a grown player. */
const LEFT_WRIST_SIGMA = 40;

const AT: Readonly<Record<StanceJoint, number>> = Object.fromEntries(STANCE_JOINTS.map((j, i) => [j, 3 * i])) as Record<StanceJoint, number>;
const COUNT = 3 * STANCE_JOINTS.length;

/** Joints whose depths are compared with the network's own. */
const DEPTHS: readonly (readonly [StanceJoint, StanceJoint, keyof typeof DEPTH_SIGMA])[] = [
  ['hip.right', 'shoulder.right', 'body'],
  ['hip.left', 'shoulder.left', 'body'],
  ['shoulder.right', 'shoulder.left', 'body'],
  ['hip.right', 'hip.left', 'body'],
  ['hip.right', 'knee.right', 'body'],
  ['hip.left', 'knee.left', 'body'],
  ['knee.right', 'ankle.right', 'body'],
  ['knee.left', 'ankle.left', 'body'],
  ['shoulder.left', 'elbow.left', 'body'],
  ['ear.right', 'ear.left', 'head'],
  ['ear.right', 'nose', 'head'],
  ['ear.left', 'nose', 'head'],
];

const LOWER = /^(hip|knee|ankle)/;
const OF_HEAD = /^(ear|nose)/;

const at3 = (v: readonly number[], i: number): Vec3 => [v[i]!, v[i + 1]!, v[i + 2]!];

/**
 * The whole player in space over a short while: what the network sees in the picture, lengths of the body, the
 * instrument's place on it, and the floor, joined by robust least squares. Undefined where too little was seen, or from too close.
 */
export function fitStance({ camera, evidence, stature, up, upSigmaDeg }: StanceInput): StanceFit | undefined {
  const { seen, space, instrument, celloEdge, placed, toLeftEar, unsteady } = evidence;
  const corners = (['shoulder.right', 'shoulder.left', 'hip.right', 'hip.left'] as const).map((j) => seen[j]);
  if (corners.some((c) => c === undefined)) return undefined;
  const [sr, sl, hr, hl] = corners as [Vec2, Vec2, Vec2, Vec2];
  const torso = Math.hypot(sr[0] + sl[0] - hr[0] - hl[0], sr[1] + sl[1] - hr[1] - hl[1]) / 2;
  if (torso < 20) return undefined;
  const k = stature.value / GROWN;
  const byInstrument = instrument ? instrument.endButton[2] + HOLD.at[0] * k * BEHIND : celloEdge && celloEdge[2] + ON_BREASTBONE.at[0] * k * BEHIND;
  const depth = byInstrument ?? (SEGMENTS.trunk.share * stature.value * camera.focal) / torso;
  // An upright trunk as it would be seen at that distance.
  const foreshortened = Math.sqrt(1 - dot(up, normalize(ray(camera, sr))) ** 2);
  const squeezed = torso < (SQUEEZED * foreshortened * SEGMENTS.trunk.share * stature.value * camera.focal) / depth;
  if (SEGMENTS.trunk.share * stature.value * camera.focal > TOO_CLOSE * camera.height * depth) return undefined;
  const told = (joint: StanceJoint, [x, y]: Vec2) => x >= 0 && y >= 0 && x <= camera.width && y <= camera.height && !(squeezed && LOWER.test(joint) && !placed?.has(joint));
  const eyeFor = (joint: StanceJoint): JointEye => (placed?.has(joint) ? BY_HAND : toLeftEar && OF_HEAD.test(joint) ? BY_FACE : EYE[joint]);
  const tilt = Math.max(1, Math.hypot(1, upSigmaDeg / 6));
  const H = COUNT;
  const terms: Term[] = [{ at: [H], residuals: ([x]) => [(x! - stature.value) / stature.sigma] }];
  const on = (joints: readonly StanceJoint[]) => joints.flatMap((j) => [AT[j], AT[j] + 1, AT[j] + 2]);

  for (const joint of STANCE_JOINTS) {
    const p = seen[joint];
    if (!p) continue;
    const eye = eyeFor(joint);
    const { off, sigma } = eye;
    const wider = torso * (told(joint, p) ? 1 : OUTSIDE);
    const jumps = eye === EYE[joint] ? unsteady?.[joint] : undefined;
    const [across, down] = [Math.hypot(sigma[0] * wider, jumps?.[0] ?? 0), Math.hypot(sigma[1] * wider, jumps?.[1] ?? 0)];
    const [x, y] = [p[0] - off[0] * torso, p[1] - off[1] * torso];
    terms.push({
      at: on([joint]),
      residuals: (v) => {
        const there = project(camera, at3(v, 0));
        return there ? [(there[0] - x) / across, (there[1] - y) / down] : [100, 100];
      },
      robust: 2,
    });
  }
  for (const [a, b, of] of DEPTHS) {
    const [p, q] = [space[a], space[b]];
    if (toLeftEar && of === 'head') continue;
    if (p && q) terms.push({ at: [AT[a] + 2, AT[b] + 2], residuals: ([za, zb]) => [(zb! - za! - (q[2] - p[2])) / DEPTH_SIGMA[of]], robust: 2 });
  }
  if (toLeftEar)
    terms.push({
      at: on(['ear.right', 'ear.left']),
      residuals: (v) => scale(subtract(normalize(subtract(at3(v, 3), at3(v, 0))), toLeftEar), 1 / EARS_SIGMA) as unknown as number[],
    });
  const segment = (a: StanceJoint, b: StanceJoint, { share, spread }: { share: number; spread: number }) =>
    terms.push({ at: [...on([a, b]), H], residuals: (v) => [(distance(at3(v, 0), at3(v, 3)) / (share * v[6]!) - 1) / spread] });
  segment('shoulder.right', 'shoulder.left', SEGMENTS.shoulders);
  segment('hip.right', 'hip.left', LENGTHS.hips);
  segment('shoulder.left', 'elbow.left', SEGMENTS.upperArm);
  segment('elbow.left', 'wrist.left', SEGMENTS.forearm);
  for (const side of ['right', 'left'] as const) {
    segment(`hip.${side}`, `knee.${side}`, LENGTHS.thigh);
    segment(`knee.${side}`, `ankle.${side}`, LENGTHS.shin);
  }
  terms.push({
    at: [...on(['shoulder.right', 'shoulder.left', 'hip.right', 'hip.left']), H],
    residuals: (v) => {
      const [right, left] = [at3(v, 0), at3(v, 3)];
      const d = subtract(mix(right, left, 0.5), mix(at3(v, 6), at3(v, 9), 0.5));
      const size = length(d);
      const across = normalize(subtract(left, right));
      const ahead = cross(across, up);
      return [
        (size / (SEGMENTS.trunk.share * v[12]!) - 1) / SEGMENTS.trunk.spread,
        ...[across, ahead].map((axis) => ((dot(d, axis) / size) * DEGREES) / LEAN),
        dot(subtract(at3(v, 6), at3(v, 9)), up) / (LEVEL.hips * tilt),
        // Hips and shoulders face one way.
        dot(normalize(subtract(at3(v, 9), at3(v, 6))), ahead) / 0.25,
      ];
    },
  });
  const turn = seenTurn([(corner) => space[corner]], up);
  if (turn !== undefined) terms.push({ at: on(['shoulder.right', 'shoulder.left']), residuals: (v) => [turnResidual(at3(v, 0), at3(v, 3), turn, up)], robust: 1.5 });
  terms.push({ at: on(['ankle.right', 'ankle.left']), residuals: (v) => [dot(subtract(at3(v, 0), at3(v, 3)), up) / (LEVEL.ankles * k * tilt)] });
  terms.push({
    at: [...on(['ear.right', 'ear.left', 'nose', 'shoulder.right', 'shoulder.left']), H],
    residuals: (v) => {
      const [right, left, nose] = [at3(v, 0), at3(v, 3), at3(v, 6)];
      const size = headSize(v[15]!);
      const middle = mix(right, left, 0.5);
      const across = normalize(subtract(left, right));
      const d = subtract(nose, middle);
      const shoulders = mix(at3(v, 9), at3(v, 12), 0.5);
      const toLeft = normalize(subtract(at3(v, 12), at3(v, 9)));
      const over = subtract(middle, shoulders);
      return [
        (distance(right, left) / (HEAD.ears * size) - 1) / HEAD.spread,
        (length(d) / (Math.hypot(HEAD.nose, HEAD.drop) * size) - 1) / HEAD.spread,
        dot(d, across) / 8,
        ...[dot(over, cross(toLeft, up)), dot(over, toLeft), dot(over, up)].map((p, j) => (p - HEAD_AT.at[j]! * k) / (HEAD_AT.sigma[j]! * k * tilt)),
      ];
    },
  });
  if (instrument) {
    terms.push({ at: on(['shoulder.right', 'shoulder.left']), residuals: (v) => holdResiduals(at3(v, 0), at3(v, 3), instrument, up, k, tilt) });
    const { leftWrist } = instrument;
    if (leftWrist) terms.push({ at: on(['wrist.left']), residuals: (v) => scale(subtract(at3(v, 0), leftWrist), 1 / (LEFT_WRIST_SIGMA * k)) as unknown as number[] });
  }

  if (celloEdge) terms.push({ at: on(['shoulder.right', 'shoulder.left']), residuals: (v) => placeResiduals(at3(v, 0), at3(v, 3), celloEdge, ON_BREASTBONE, up, k, tilt) });

  const start = firstGuess();
  for (const i of start.keys()) if (i < COUNT) terms.push({ at: [i], residuals: ([x]) => [(x! - start[i]!) / GUESS_SIGMA] });

  const solved = solveTerms({ start, local: COUNT, half: COUNT - 1, step: () => 0.02, terms });
  const stanceOf = (v: ArrayLike<number>): Stance => Object.fromEntries(STANCE_JOINTS.map((j) => [j, [v[AT[j]]!, v[AT[j] + 1]!, v[AT[j] + 2]!]])) as unknown as Stance;
  let covariance: Float64Array | undefined;
  return {
    stance: stanceOf(solved.values),
    sigmaOf(value) {
      covariance ??= solved.system.covarianceBlock(0, COUNT);
      return propagated(Array.from(solved.values.subarray(0, COUNT)), covariance, (v) => value(stanceOf(v)));
    },
  };

  /** Every joint where it is seen, at the depth the instrument or the torso's size tells, set apart in depth as the network guesses. */
  function firstGuess(): Float64Array {
    const x = new Float64Array(COUNT + 1);
    x[H] = stature.value;
    const shoulders = space['shoulder.left'] && space['shoulder.right'] ? (space['shoulder.left'][2] + space['shoulder.right'][2]) / 2 : 0;
    const centre: Vec2 = [(sr[0] + sl[0]) / 2, (sr[1] + sl[1]) / 2];
    // Left and right of a pair out of sight must not begin in one place: it would have no direction.
    const aside = (joint: StanceJoint) => (joint.endsWith('.left') ? 1 : joint.endsWith('.right') ? -1 : 0) * GUESS_ASIDE * stature.value * (sl[0] < sr[0] ? -1 : 1);
    for (const joint of STANCE_JOINTS) {
      const z = depth + 0.7 * ((space[joint]?.[2] ?? shoulders) - shoulders);
      const p = seen[joint];
      const place = p ? scale(ray(camera, p), z) : add(scale(ray(camera, centre), z), add(scale(up, GUESS_DROP[joint] * stature.value), [aside(joint), 0, 0]));
      x.set(place, AT[joint]);
    }
    return x;
  }
}

/** A player half turned has the shoulders behind the instrument by such a share of how far they are behind it: a first guess. */
const BEHIND = 0.5;
/** What nothing else tells stays about where it was guessed, mm: wide enough to say nothing beside any evidence. */
const GUESS_SIGMA = 500;
/** How far to their side joints that were not seen are guessed, share of the height. */
const GUESS_ASIDE = 0.04;
/** Heights over the shoulders, shares of the height, of joints that were not seen. */
const GUESS_DROP: Readonly<Record<StanceJoint, number>> = {
  'shoulder.right': 0,
  'shoulder.left': 0,
  'hip.right': -0.29,
  'hip.left': -0.29,
  'knee.right': -0.53,
  'knee.left': -0.53,
  'ankle.right': -0.77,
  'ankle.left': -0.77,
  'elbow.left': -0.11,
  'wrist.left': 0,
  'ear.right': 0.13,
  'ear.left': 0.13,
  nose: 0.12,
};

import type { BowInSpace } from '../bow/bowInSpace';
import { type Camera, project, ray } from '../geometry/camera';
import { add, addScaled, cross, distance, dot, mix, normalize, scale, subtract, type Vec2, type Vec3 } from '../geometry/vec3';
import { propagated } from '../linalg/propagate';
import { solveTerms, type Term } from '../linalg/termLeastSquares';
import { median } from '../statistics';
import { seenTurn, turnResidual } from './seenTurn';
import { type BodyJoint, type BodySighting, LOOKS_APART, seenTorso } from './sighting';
import { GROWN, type Length, SEGMENTS } from './stature';
import { type HeldInstrument, HOLD, holdResiduals } from './torso';
import { WRIST_AT_FROG } from './wristAtFrog';

/** What is known of instrument and bow in a frame in which the networks looked, camera axes, mm. */
export interface ArmEvidence {
  readonly body: BodySighting;
  /** Absent where the bow was not seen. */
  readonly bow?: BowInSpace | undefined;
  /** Absent where the instrument was lost. */
  readonly instrument?: HeldInstrument | undefined;
}

/** Places of joints in the picture, px, by the frame's place in the film. */
export type MarkedJoints = ReadonlyMap<number, Readonly<Partial<Record<BodyJoint, Vec2>>>>;

export interface ArmInput {
  readonly camera: Camera;
  readonly frames: readonly ArmEvidence[];
  readonly stature: Length;
  /** Direction up in the camera's frame, and its standard uncertainty in degrees. */
  readonly up: Vec3;
  readonly upSigmaDeg: number;
  /** Joints the teacher placed, by frame. */
  readonly marked?: MarkedJoints;
}

export interface ArmFrame {
  readonly shoulder: Vec3;
  readonly elbow: Vec3;
  readonly wrist: Vec3;
  readonly otherShoulder: Vec3;
}

export interface ArmFit {
  readonly frames: readonly ArmFrame[];
  /** Share of the frames in which network and bow agree on the wrist. */
  readonly trust: number;
  /** Median distance of the elbow from where the network sees it, share of the torso. */
  readonly misfit: number;
  /** The elbow of a frame as the network saw it in that picture alone, at the depth of the fit: noisier, but no neighbour has drawn it. Undefined where it was not seen. */
  seenElbow(frame: number): Vec3 | undefined;
  /** Standard uncertainty of a number made from a frame's joints. */
  sigmaOf(frame: number, value: (arm: ArmFrame) => number): number;
}

/** Neighbouring frames err alike for about so long (seconds; arm and hand recipe). */
const MEMORY = 0.35;
/** How well the networks place joints in the picture, share of the torso: a frame's own error, and one that lasts through the clip (ours, from renders of two renderers). The elbow's lasts at 0 to 4 %, too, but left as free as that it is drawn about by what is supposed of the arm's lengths: with 2 % the forearm's slope is 0.4 to 1.2 degrees nearer in five of nine films, further off by 0.3 to 0.9 in three. */
const JOINT_SIGMA = { shoulder: 0.05, elbow: 0.05, wrist: 0.05, otherShoulder: 0.06 } as const;
const JOINT_BIAS = { shoulder: 0.04, elbow: 0.02, wrist: 0.035, otherShoulder: 0.05 } as const;
/** How much too high they are seen, share of the torso: a raised arm's shoulder at its top rather than in its middle (ours: violinists; in seven of eight films of two renderers by 0.01 to 0.05, in one too low by 0.04). */
const JOINT_HIGH = { shoulder: 0.025, elbow: 0, wrist: 0, otherShoulder: 0 } as const;
/** How far people's holds differ from the usual place of the wrist, mm of a grown player: through a clip, in how it goes along, and from frame to frame (ours). */
const WRIST_SIGMA = { clip: [25, 20, 20], along: [50, 12, 20], frame: [14, 8, 9] } as const;
const TRAVEL = [WRIST_AT_FROG.travel, 0, 0] as const;
/** Joints move so steadily: mm, mm/s, mm/s2 (arm and hand recipe; common practice, no source). */
const STEADY = { shoulder: 35, otherShoulder: 30, shoulderSpeed: 160, otherSpeed: 120, acceleration: 2500 } as const;
/** Bones in the network's own space are off in depth by this much, mm: enough to choose between an elbow in front and one behind, no more (measured on clips of two renderers: trusted more, every angle got worse). */
const DEPTH_SIGMA = 400;
const MARK_SIGMA = 3;
/** Network and bow agree on the wrist when they are nearer than this share of the torso; beyond the second the network has lost the arm. */
const AGREE = 0.17;
const LOST = 0.3;
/** Between the two, half way: it may be on its way to be lost. */
const STRAYING = 0.13;

/** An elbow the network calls more likely hidden than usual in the clip goes astray long before it says so outright (0.03 where 0.003 is usual): from so many times the usual on its error grows with it, to so many times (ours, from the same clips). */
const DIM = { from: 3, most: 5 } as const;
const hidden = (seen: number): number => 1.001 - seen;

const JOINTS: readonly (keyof ArmFrame)[] = ['shoulder', 'elbow', 'wrist', 'otherShoulder'];
const NAME: Readonly<Record<keyof ArmFrame, BodyJoint>> = { shoulder: 'shoulder.right', elbow: 'elbow.right', wrist: 'wrist.right', otherShoulder: 'shoulder.left' };
const PER_FRAME = 12;
/** Global unknowns in order: height; three segment lengths as logs; eight picture biases; six of the wrist's tie; six of the shoulders' middle places. */
const GLOBAL = { stature: 0, segments: 1, bias: 4, tie: 12, shoulders: 18, count: 24 } as const;

const at3 = (v: readonly number[], i: number): Vec3 => [v[i]!, v[i + 1]!, v[i + 2]!];
const three = (i: number): number[] => [i, i + 1, i + 2];

/**
 * The bow arm in space over a clip: what the networks see in the picture, lengths of the body, and the hand tied
 * to the frog, whose place in space is known, joined by robust least squares over all frames at once. After a
 * recipe tried on renders (see the constants). Undefined with fewer than three frames that show the player.
 */
export function fitArm(input: ArmInput): ArmFit | undefined {
  const { camera, frames, up } = input;
  const n = frames.length;
  const shown = frames.filter((f) => f.body.joints);
  if (shown.length < 3) return undefined;
  const torso = median(shown.map(({ body }) => seenTorso(body.joints!)));
  const k = input.stature.value / GROWN;
  const tieOf = (f: ArmEvidence, offset: Vec3 = WRIST_AT_FROG.at, along: Vec3 = TRAVEL): Vec3 | undefined => {
    if (!f.bow) return undefined;
    const p = f.bow.position - WRIST_AT_FROG.middle;
    return f.bow.axes.reduce<Vec3>((w, axis, i) => addScaled(w, axis, k * (offset[i]! + along[i]! * p)), f.bow.frog);
  };
  const wristMiss = frames.map((f) => {
    const tie = tieOf(f);
    const seen = f.body.joints?.['wrist.right'].point;
    const there = tie && project(camera, tie);
    return seen && there ? Math.hypot(seen[0] - there[0], seen[1] - there[1]) / torso : undefined;
  });
  const told = wristMiss.filter((m) => m !== undefined);
  const trust = told.length > 0 ? told.filter((m) => m < AGREE).length / told.length : 0;

  const usualSight = median(shown.map(({ body }) => body.joints!['elbow.right'].seen));
  const spacing = n > 1 ? (frames[n - 1]!.body.t - frames[0]!.body.t) / (n - 1) : MEMORY;
  const alike = Math.sqrt(Math.max(1, MEMORY / Math.max(1e-3, spacing)));
  const local = PER_FRAME * n;
  const G = (i: number) => local + i;
  const terms: Term[] = [];
  const prior = (unknown: number, value: number, sigma: number) => terms.push({ at: [unknown], residuals: ([x]) => [(x! - value) / sigma] });

  prior(G(GLOBAL.stature), input.stature.value, input.stature.sigma);
  [SEGMENTS.upperArm, SEGMENTS.forearm, SEGMENTS.shoulders].forEach(({ spread }, i) => {
    prior(G(GLOBAL.segments + i), 0, spread);
  });
  JOINTS.forEach((joint, i) => {
    const at = GLOBAL.bias + 2 * i;
    prior(G(at), 0, JOINT_BIAS[joint] * torso);
    prior(G(at + 1), -JOINT_HIGH[joint] * torso, JOINT_BIAS[joint] * torso);
  });
  for (let i = 0; i < 3; i++) {
    prior(G(GLOBAL.tie + i), WRIST_AT_FROG.at[i]! * k, WRIST_SIGMA.clip[i]! * k);
    prior(G(GLOBAL.tie + 3 + i), TRAVEL[i]! * k, WRIST_SIGMA.along[i]! * k);
  }
  const turn = seenTurn(
    shown.map(
      ({ body }) =>
        (corner) =>
          body.joints![corner].space,
    ),
    up,
  );
  if (turn !== undefined) {
    terms.push({
      at: Array.from({ length: 6 }, (_, j) => G(GLOBAL.shoulders + j)),
      residuals: (v) => [turnResidual(at3(v, 0), at3(v, 3), turn, up)],
      robust: 1.5,
    });
  }
  const segment = (a: number, b: number, which: number, share: number, sigma: number): Term => ({
    at: [...three(a), ...three(b), G(GLOBAL.stature), G(GLOBAL.segments + which)],
    residuals: (v) => [(distance(at3(v, 0), at3(v, 3)) - share * v[6]! * Math.exp(v[7]!)) / (sigma * alike)],
  });
  frames.forEach((frame, i) => {
    const o = PER_FRAME * i;
    const place = (joint: keyof ArmFrame) => o + 3 * JOINTS.indexOf(joint);
    terms.push(segment(place('shoulder'), place('elbow'), 0, SEGMENTS.upperArm.share, 4));
    terms.push(segment(place('elbow'), place('wrist'), 1, SEGMENTS.forearm.share, 4));
    terms.push(segment(place('shoulder'), place('otherShoulder'), 2, SEGMENTS.shoulders.share, 12));
    const marked = input.marked?.get(frame.body.frame);
    for (const [q, joint] of JOINTS.entries()) {
      const mark = marked?.[NAME[joint]];
      if (mark) {
        terms.push({ at: three(place(joint)), residuals: (v) => inPicture(camera, at3(v, 0), mark, MARK_SIGMA) });
        continue;
      }
      const seen = frame.body.joints?.[NAME[joint]];
      if (!seen) continue;
      // Where the network has lost the arm it is hardly asked.
      // The elbow goes astray before the wrist does: beside a frame in which the arm is lost a wrist a little off is enough.
      const own = wristMiss[i] ?? 0;
      const about = own > STRAYING ? Math.max(own, wristMiss[i - 1] ?? 0, wristMiss[i + 1] ?? 0) : own;
      const lost = (joint === 'elbow' ? about : own) > LOST ? { shoulder: 1, elbow: 8, wrist: 7, otherShoulder: 1 }[joint] : 1;
      const doubt = trust < 0.5 && joint !== 'otherShoulder' ? 2.6 : 1;
      const dim = joint === 'elbow' ? Math.min(DIM.most, Math.max(1, hidden(seen.seen) / hidden(usualSight) / DIM.from)) : 1;
      const sigma = Math.hypot(JOINT_SIGMA[joint] * torso, LOOKS_APART * (seen.apart ?? 0)) * alike * lost * doubt * dim;
      terms.push({
        at: [...three(place(joint)), G(GLOBAL.bias + 2 * q), G(GLOBAL.bias + 2 * q + 1)],
        residuals: (v) => inPicture(camera, at3(v, 0), [seen.point[0] - v[3]!, seen.point[1] - v[4]!], sigma),
        robust: 1.5,
      });
    }
    const joints = frame.body.joints;
    const hand = frame.body.bowHand?.[0];
    if (hand) {
      const sigma = JOINT_SIGMA.wrist * torso * alike;
      terms.push({ at: three(place('wrist')), residuals: (v) => inPicture(camera, at3(v, 0), hand, sigma), robust: 1.5 });
    }
    if (joints) {
      for (const [a, b] of [
        ['shoulder', 'elbow'],
        ['elbow', 'wrist'],
      ] as const) {
        const depth = joints[NAME[b]].space[2] - joints[NAME[a]].space[2];
        terms.push({ at: [place(a) + 2, place(b) + 2], residuals: ([za, zb]) => [(zb! - za! - depth) / (DEPTH_SIGMA * alike)], robust: 1.5 });
      }
    }
    if (frame.bow) {
      const { axes, frog } = frame.bow;
      const p = frame.bow.position - WRIST_AT_FROG.middle;
      terms.push({
        at: [...three(place('wrist')), ...Array.from({ length: 6 }, (_, j) => G(GLOBAL.tie + j))],
        residuals: (v) => {
          const d = subtract(at3(v, 0), frog);
          return axes.map((axis, j) => (dot(d, axis) - v[3 + j]! - v[6 + j]! * p) / (WRIST_SIGMA.frame[j]! * k * alike));
        },
      });
    }
    for (const [joint, which, sigma] of [
      ['shoulder', 0, STEADY.shoulder],
      ['otherShoulder', 3, STEADY.otherShoulder],
    ] as const) {
      terms.push({
        at: [...three(place(joint)), ...three(G(GLOBAL.shoulders + which))],
        residuals: (v) => [0, 1, 2].map((j) => (v[j]! - v[3 + j]!) / (sigma * alike)),
      });
    }
    if (i > 0) {
      const dt = Math.max(1e-3, frame.body.t - frames[i - 1]!.body.t);
      for (const [joint, speed] of [
        ['shoulder', STEADY.shoulderSpeed],
        ['otherShoulder', STEADY.otherSpeed],
      ] as const) {
        terms.push({ at: [...three(place(joint)), ...three(place(joint) - PER_FRAME)], residuals: (v) => [0, 1, 2].map((j) => (v[j]! - v[3 + j]!) / (speed * dt)) });
      }
    }
    if (i > 0 && i + 1 < n) {
      const [h0, h1] = [frame.body.t - frames[i - 1]!.body.t, frames[i + 1]!.body.t - frame.body.t];
      for (const joint of ['elbow', 'wrist'] as const) {
        terms.push({
          at: [...three(place(joint) - PER_FRAME), ...three(place(joint)), ...three(place(joint) + PER_FRAME)],
          residuals: (v) => [0, 1, 2].map((j) => (2 * ((v[6 + j]! - v[3 + j]!) / h1 - (v[3 + j]! - v[j]!) / h0)) / (h0 + h1) / STEADY.acceleration),
        });
      }
    }
  });
  const held = frames.flatMap((f) => (f.instrument ? [f.instrument] : []));
  const middleOf = (points: readonly Vec3[]): Vec3 => [0, 1, 2].map((j) => median(points.map((p) => p[j]!))) as unknown as Vec3;
  const button = held.length > 0 ? middleOf(held.map((h) => h.endButton)) : undefined;
  const ahead = held.length > 0 ? normalize(middleOf(held.map((h) => h.ahead))) : undefined;
  const tilt = Math.max(1, Math.hypot(1, input.upSigmaDeg / 6));
  if (button && ahead) {
    terms.push({
      at: Array.from({ length: 6 }, (_, j) => G(GLOBAL.shoulders + j)),
      residuals: (v) => holdResiduals(at3(v, 0), at3(v, 3), { endButton: button, ahead }, up, k, tilt),
    });
  }

  const solved = [1, -1].map((side) => {
    const start = new Float64Array(local + GLOBAL.count);
    start[G(GLOBAL.stature)] = input.stature.value;
    for (let j = 0; j < 3; j++) {
      start[G(GLOBAL.tie + j)] = WRIST_AT_FROG.at[j]! * k;
      start[G(GLOBAL.tie + 3 + j)] = TRAVEL[j]! * k;
    }
    fillStart(start, side);
    return solveTerms({ start, local, half: 3 * PER_FRAME - 1, step: (u) => (u >= G(GLOBAL.segments) && u < G(GLOBAL.bias) ? 1e-4 : 0.02), terms });
  });
  const best = solved.reduce((a, b) => (b.cost < a.cost ? b : a));

  /** First guess: shoulders from the instrument's hold, wrist from the bow, elbow on its ray where the forearm reaches; `side` takes the far or the near one. */
  function fillStart(x: Float64Array, side: number): void {
    const width = SEGMENTS.shoulders.share * input.stature.value;
    const far = button ?? [0, 0, (torsoLength(input.stature) * camera.focal) / torso];
    const heading = (HOLD.heading * Math.PI) / 180;
    const flat = ahead ? normalize(addScaled(ahead, up, -dot(ahead, up))) : normalize(cross(up, [1, 0, 0]));
    // Forward is the instrument's direction turned back to the right by its heading.
    const forward: Vec3 = ahead ? add(scale(flat, Math.cos(heading)), scale(cross(flat, up), Math.sin(heading))) : [0, 0, -1];
    const toLeft = cross(up, forward);
    const between = addScaled(addScaled(far, forward, -HOLD.at[0]! * k), up, -HOLD.at[2]! * k);
    const [right, left] = [addScaled(between, toLeft, -width / 2), addScaled(between, toLeft, width / 2)];
    const put = (p: Vec3, i: number) => x.set(p, i);
    put(right, G(GLOBAL.shoulders));
    put(left, G(GLOBAL.shoulders + 3));
    let lastWrist: Vec3 = addScaled(right, forward, 200);
    frames.forEach((f, i) => {
      const o = PER_FRAME * i;
      const wrist = tieOf(f) ?? lastWrist;
      lastWrist = wrist;
      const seen = f.body.joints?.['elbow.right'].point;
      const reach = SEGMENTS.forearm.share * input.stature.value;
      const elbow = seen ? onRay(ray(camera, seen), wrist, reach, side) : addScaled(mix(right, wrist, 0.5), up, -100);
      put(right, o);
      put(elbow, o + 3);
      put(wrist, o + 6);
      put(left, o + 9);
    });
  }

  const armOf = (v: readonly number[]): ArmFrame => ({ shoulder: at3(v, 0), elbow: at3(v, 3), wrist: at3(v, 6), otherShoulder: at3(v, 9) });
  const arms = frames.map((_, i) => armOf(Array.from(best.values.subarray(PER_FRAME * i, PER_FRAME * (i + 1)))));
  const covariances = new Map<number, Float64Array>();
  /** Covariance of a frame's twelve numbers, row-major. */
  const covarianceAt = (frame: number): Float64Array => {
    let c = covariances.get(frame);
    if (!c) {
      c = best.system.covarianceBlock(PER_FRAME * frame, PER_FRAME);
      covariances.set(frame, c);
    }
    return c;
  };
  const misfit = median(
    frames.flatMap((f, i) => {
      const seen = f.body.joints?.['elbow.right'].point;
      const there = project(camera, arms[i]!.elbow);
      return seen && there ? [Math.hypot(seen[0] - there[0], seen[1] - there[1]) / torso] : [];
    }),
  );
  return {
    frames: arms,
    trust,
    misfit,
    seenElbow(frame) {
      const seen = frames[frame]!.body.joints?.['elbow.right'].point;
      if (!seen) return undefined;
      const b = G(GLOBAL.bias + 2 * JOINTS.indexOf('elbow'));
      return scale(ray(camera, [seen[0] - best.values[b]!, seen[1] - best.values[b + 1]!]), arms[frame]!.elbow[2]);
    },
    sigmaOf(frame, value) {
      const o = PER_FRAME * frame;
      return propagated(Array.from(best.values.subarray(o, o + PER_FRAME)), covarianceAt(frame), (v) => value(armOf(v)));
    },
  };
}

/** Shoulders to hips, mm (share of the height, from memory). */
const torsoLength = (stature: Length) => SEGMENTS.trunk.share * stature.value;

/** Residuals of a place against where it is seen; a place behind the camera is far off. */
function inPicture(camera: Camera, p: Vec3, seen: Vec2, sigma: number): number[] {
  const there = project(camera, p);
  return there ? [(there[0] - seen[0]) / sigma, (there[1] - seen[1]) / sigma] : [100, 100];
}

/** The place on a ray (depth 1 a unit) at a distance from a point: the far (side 1) or near one, else the nearest to it. */
function onRay(direction: Vec3, from: Vec3, reach: number, side: number): Vec3 {
  const dd = dot(direction, direction);
  const df = dot(direction, from);
  const root = df * df - dd * (dot(from, from) - reach * reach);
  return scale(direction, (df + side * Math.sqrt(Math.max(0, root))) / dd);
}

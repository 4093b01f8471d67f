import { type Camera, insidePicture, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { rotate } from '../geometry/rotation';
import { mix, normalize, scale, type Vec2, type Vec3 } from '../geometry/vec3';
import { meanSigmaDeg, sigmaByUp, type Zenith } from '../geometry/zenith';
import type { Dimensions } from '../instrument/dimensions';
import { type Family, heldAtShoulder } from '../instrument/family';
import { lowestPeg } from '../instrument/pegs';
import type { MarksSolution } from '../instrument/solveMarks';
import type { TrackedFrame } from '../measures/measureFrames';
import type { Measured, Quantity } from '../measures/measures';
import { mean, median, SIGMA_OF_MEDIAN } from '../statistics';
import { upperBackEdge } from './celloRest';
import type { MarkedJoints } from './fitArm';
import { fitStance, type StanceFit } from './fitStance';
import { HEAD_POINTS, headPose, turnedAway } from './headPose';
import type { Hold } from './holds';
import { usualLeftHand } from './leftHand';
import { leftWristSeen } from './leftWrist';
import { type BackPoint, lumbarArchSeen } from './lumbarArch';
import { type BodySighting, LEAST_SEEN, LOOKS_APART, middleOf, seenChest } from './sighting';
import { headTilt, headTurn, kneeAngle, leftElbowGap, pegToEar, STANCE_JOINTS, type Stance, type StanceJoint, shoulderLift, stanceWidth, trunkLean, trunkStoop } from './stance';
import { headSize, likelyStature } from './stature';
import { torsoAxes } from './torso';

export interface StanceMeasuring {
  readonly family: Family;
  readonly dimensions: Dimensions;
  readonly solution: MarksSolution;
  /** Up, known or supposed. */
  readonly vertical: Zenith;
  readonly tracked: readonly TrackedFrame[];
  readonly bodies: readonly BodySighting[];
  /** Joints the teacher placed, by the frame's place in the film. */
  readonly marked?: MarkedJoints | undefined;
  readonly leftHand?: MarkedLeftHands | undefined;
  readonly back?: MarkedBacks | undefined;
  /** Where the left hand was away from the neck. */
  readonly holds?: readonly Hold[] | undefined;
}

/** Wrist and middle knuckle of the left hand as the teacher placed them, px, by the frame's place in the film. */
export type MarkedLeftHands = ReadonlyMap<number, { readonly wrist: Vec2; readonly knuckle: Vec2 }>;
/** Points of the back's outline, likewise. */
export type MarkedBacks = ReadonlyMap<number, Readonly<Record<BackPoint, Vec2>>>;

/** How the player stood or sat over a short while, camera axes, mm. */
export interface StancePlace {
  /** Seconds. */
  readonly from: number;
  readonly to: number;
  readonly stance: Stance;
  /** Joints that were in sight or placed by hand; the others stand where bodies usually have them. */
  readonly seen: ReadonlySet<StanceJoint>;
}

export interface StanceMeasures {
  /** Values of each frame of the film. */
  readonly frames: readonly Partial<Record<Quantity, Measured>>[];
  readonly stances: readonly StancePlace[];
}

/** People hold a posture: looked-at frames of so many seconds are taken together (ours). */
const SPAN = 1.5;

/** No head turns so far from the chest (degrees, ours): one of the two was taken the wrong way round. */
const MOST_TURN = 110;

/** A number of the stance: how it is made, what the fit's doubt is multiplied by, what bodies and networks add, the largest doubt shown (ours, measured through 34 clips of two renderers). */
interface Tellable {
  /** `peg` is a cello's lowest, camera axes, mm; what needs it is no number without. */
  readonly value: (stance: Stance, up: Vec3, peg: Vec3 | undefined) => number;
  readonly times: number;
  readonly model: number;
  readonly limit: number;
  /** Joints that must have been seen. */
  readonly needs: readonly StanceJoint[];
  /** Told only where these were placed by hand: the network puts them where they usually are. A knee is told from the side only, by its doubt. */
  readonly byHand?: readonly StanceJoint[];
  /** Told only where the face was seen or the ears were placed by hand: the body network turns heads by half of what they are turned. */
  readonly byFace?: true;
  readonly posture?: 'standing' | 'seated';
}

const HEAD: readonly StanceJoint[] = ['ear.right', 'ear.left', 'nose'];
const TRUNK: readonly StanceJoint[] = ['shoulder.right', 'shoulder.left', 'hip.right', 'hip.left'];
const ANKLES: readonly StanceJoint[] = ['ankle.right', 'ankle.left'];
const KNEES: readonly StanceJoint[] = ['knee.right', 'knee.left'];

const TELLABLE: Readonly<Partial<Record<Quantity, Tellable>>> = {
  trunk_lean_deg: { value: trunkLean, times: 0.45, model: 1.2, limit: 3.8, needs: TRUNK },
  trunk_stoop_deg: { value: trunkStoop, times: 1, model: 4.5, limit: 6.5, needs: TRUNK },
  // Of shoulders raised by 75 mm the network's rose by 15 (four players): only where they were placed do they tell.
  shoulder_lift: { value: shoulderLift, times: 1, model: 0.03, limit: 0.12, needs: HEAD, byHand: ['shoulder.right', 'shoulder.left'], posture: 'standing' },
  head_turn_deg: { value: headTurn, times: 1, model: 5, limit: 16, needs: HEAD, byFace: true, posture: 'standing' },
  head_tilt_deg: { value: headTilt, times: 0.75, model: 1, limit: 12, needs: HEAD, posture: 'standing' },
  stance_width: { value: stanceWidth, times: 1, model: 0.03, limit: 0.18, needs: ANKLES },
  left_elbow_gap: { value: leftElbowGap, times: 1, model: 0.03, limit: 0.2, needs: TRUNK, byHand: ['elbow.left'], posture: 'standing' },
  knee_deg: { value: kneeAngle, times: 1, model: 4, limit: 15, needs: [...KNEES, ...ANKLES], byHand: KNEES, posture: 'seated' },
  // What is added is what pegs of cellos differ by.
  peg_ear_mm: { value: (s, _, peg) => (peg ? pegToEar(s, peg) : Number.NaN), times: 1, model: 15, limit: 60, needs: HEAD, posture: 'seated' },
};

/** Measures how the player stands or sits and holds head and trunk, from what the networks and the teacher saw. Pure. */
export function measureStance({ family, dimensions, solution, vertical, tracked, bodies, marked, leftHand, back, holds }: StanceMeasuring): StanceMeasures {
  const place = new Map(tracked.map((f, i) => [f.index, i]));
  const stature = likelyStature(dimensions);
  const up = vertical.direction;
  const standing = heldAtShoulder(family);
  const { landmarks, stringLength } = solution.model;
  const { wrist: wristOnNeck } = usualLeftHand(stringLength, landmarks['instrument.nut.high'], stature.value);
  const byHand = offsetsByHand(bodies, marked);
  const earsPlaced = byHand.has('ear.right') && byHand.has('ear.left');

  const handAway = (span: readonly BodySighting[]) => {
    const t = span[Math.floor(span.length / 2)]!.t;
    return holds?.some((h) => h.kind === 'hands-free' && t >= h.from && t <= h.to);
  };

  const told = spansOf(bodies).flatMap((span) => {
    const seen: Partial<Record<StanceJoint, Vec2>> = {};
    const space: Partial<Record<StanceJoint, Vec3>> = {};
    const cut = isHeadCut(solution.camera, span);
    for (const joint of STANCE_JOINTS) {
      const sightings = span.map((b) => b.joints![joint]);
      const offset = byHand.get(joint);
      if (cut && !offset && HEAD.includes(joint)) continue;
      if (!offset && median(sightings.map((s) => s.seen)) < LEAST_SEEN) continue;
      const middle = (at: (s: (typeof sightings)[number]) => number) => median(sightings.map(at));
      seen[joint] = [middle((s) => s.point[0]) + (offset?.[0] ?? 0), middle((s) => s.point[1]) + (offset?.[1] ?? 0)];
      space[joint] = [middle((s) => s.space[0]), middle((s) => s.space[1]), middle((s) => s.space[2])];
    }
    const head = earsPlaced || cut ? undefined : headOf(solution.camera, span, stature.value);
    if (head) for (const joint of HEAD) if (!byHand.has(joint)) seen[joint] = head.seen[joint]!;
    // The instrument as it was in the middle of the span.
    const poses = span.flatMap((b) => tracked[place.get(b.frame) ?? -1]?.pose ?? []);
    const pose = poses[Math.floor(poses.length / 2)];
    const fit = fitStance({
      camera: solution.camera,
      evidence: {
        seen,
        space,
        unsteady: unsteadiness(span),
        placed: new Set(byHand.keys()),
        toLeftEar: head?.toLeftEar,
        celloEdge: pose && family === 'cello' ? toOuter(pose, upperBackEdge(solution.model)) : undefined,
        ...(pose && standing
          ? {
              instrument: {
                endButton: toOuter(pose, landmarks['instrument.endButton']),
                ahead: rotate(pose.rotation, [1, 0, 0]),
                leftWrist: handAway(span) ? undefined : toOuter(pose, wristOnNeck),
              },
            }
          : {}),
      },
      stature,
      up,
      upSigmaDeg: meanSigmaDeg(vertical),
    });
    if (!fit) return [];
    // Of a head out of sight the fit says nothing, and the trunk may be right all the same.
    if (HEAD.every((j) => seen[j]) && Math.abs(headTurn(fit.stance, up)) > MOST_TURN) return [];
    const stance: StancePlace = { from: span[0]!.t, to: span.at(-1)!.t, stance: fit.stance, seen: new Set(Object.keys(seen) as StanceJoint[]) };
    const peg = pose && family === 'cello' ? toOuter(pose, lowestPeg(solution.model)) : undefined;
    return [{ stance, values: valuesOf(fit, stance.seen, head !== undefined, peg) }];
  });

  function valuesOf(fit: StanceFit, seen: ReadonlySet<StanceJoint>, face: boolean, peg: Vec3 | undefined): Partial<Record<Quantity, Measured>> {
    const entries = Object.entries(TELLABLE).flatMap(([name, { value, times, model, limit, needs, byHand: asked, byFace, posture }]) => {
      if (posture && posture !== (standing ? 'standing' : 'seated')) return [];
      if (byFace && !face && !earsPlaced) return [];
      if (!needs.every((j) => seen.has(j)) || !(asked?.every((j) => byHand.has(j)) ?? true)) return [];
      const u = Math.hypot(
        times * fit.sigmaOf((s) => value(s, up, peg)),
        model,
        sigmaByUp(vertical, (tilted) => value(fit.stance, tilted, peg)),
      );
      const v = value(fit.stance, up, peg);
      return Number.isFinite(v) && u <= limit ? [[name, { value: v, u }] as const] : [];
    });
    return Object.fromEntries(entries) as Partial<Record<Quantity, Measured>>;
  }

  const placed = ofPlaced();
  return {
    stances: told.map((s) => s.stance),
    frames: tracked.map(({ t }) => {
      const near = told.find(({ stance }, i) => t <= stance.to + SPAN / 2 || i === told.length - 1);
      return { ...(near && t >= near.stance.from - SPAN && t <= near.stance.to + SPAN ? near.values : {}), ...placed };
    }),
  };

  /** What is told only from points placed by hand; a posture lasts, so it is taken for the whole film. */
  function ofPlaced(): Partial<Record<Quantity, Measured>> {
    const stanceAt = (t: number) =>
      told.reduce<StancePlace | undefined>((best, { stance }) => (best && Math.abs(best.from - t) <= Math.abs(stance.from - t) ? best : stance), undefined)?.stance;
    const frameAt = (frame: number) => tracked[place.get(frame) ?? -1];
    const wrists = [...(standing ? (leftHand ?? []) : [])].flatMap(([frame, hand]) => {
      const elbow = marked?.get(frame)?.['elbow.left'];
      const at = frameAt(frame);
      if (!elbow || !at?.pose) return [];
      return leftWristSeen({ camera: solution.camera, pose: at.pose, stringLength, nutHigh: landmarks['instrument.nut.high'], marked: { elbow, ...hand }, stature }) ?? [];
    });
    const arches = [...(back ?? [])].flatMap(([frame, points]) => {
      const stance = stanceAt(frameAt(frame)?.t ?? 0);
      if (!stance) return [];
      const { forward } = torsoAxes(stance['shoulder.right'], stance['shoulder.left'], up);
      return lumbarArchSeen(solution.camera, points, forward, up, mix(stance['hip.right'], stance['shoulder.right'], 0.5)) ?? [];
    });
    const middle = (name: Quantity, all: readonly Measured[]) => (all.length > 0 ? { [name]: { value: mean(all.map((m) => m.value)), u: mean(all.map((m) => m.u)) } } : {});
    return { ...middle('left_wrist_deg', wrists), ...middle('lumbar_arch', arches) };
  }
}

/** The crown is so far beyond the ears, as a share of their distance from the shoulders (from memory, anthropometric tables: 130 of 210 mm). */
const CROWN = 0.6;

/** Whether the picture's edge cuts off the head in most looks: then networks put face and ears where heads usually have them. */
function isHeadCut(camera: Camera, span: readonly BodySighting[]): boolean {
  const cut = span.filter(({ joints }) => {
    const [chest, ears] = [seenChest(joints!), middleOf(joints!, 'ear.left', 'ear.right')];
    return !insidePicture(camera, [ears[0] + CROWN * (ears[0] - chest[0]), ears[1] + CROWN * (ears[1] - chest[1])]);
  });
  return 2 * cut.length > span.length;
}

/** A head seen by its face. */
interface SeenHead {
  /** Ears and nose, px. */
  readonly seen: Readonly<Partial<Record<StanceJoint, Vec2>>>;
  readonly toLeftEar: Vec3;
}

/** In so many of the pictures the face must have been found, or it is left to the body network (ours). */
const LEAST_FACES = 0.4;
/** A face turned further from the camera, radians, is seen in profile: the network guesses half of it (ours; heads were learnt up to 55 degrees). */
const PROFILE = 1.05;

/** The head as its face shows it over a short while; undefined where it was seen too rarely. */
function headOf(camera: Camera, span: readonly BodySighting[], stature: number): SeenHead | undefined {
  const size = headSize(stature);
  const poses = span.flatMap(({ face }) => (face && headPose(camera, face, size)?.pose) ?? []).filter((pose) => turnedAway(pose) < PROFILE);
  if (poses.length < LEAST_FACES * span.length) return undefined;
  const middle = (of: (pose: Pose) => readonly number[]) => of(poses[0]!).map((_, k) => median(poses.map((p) => of(p)[k]!)));
  const seen = (name: 'nose' | 'ear.left' | 'ear.right') =>
    middle((pose) => project(camera, toOuter(pose, scale(HEAD_POINTS[name], size))) ?? [Number.NaN, Number.NaN]) as unknown as Vec2;
  const toLeftEar = normalize(middle((pose) => rotate(pose.rotation, [1, 0, 0])) as unknown as Vec3);
  return { seen: { nose: seen('nose'), 'ear.left': seen('ear.left'), 'ear.right': seen('ear.right') }, toLeftEar };
}

/** How far the looks at each joint differ over a short while (px across and down, 1 sigma), beside the shoulders, with which the whole player sways. */
function unsteadiness(span: readonly BodySighting[]): Partial<Record<StanceJoint, Vec2>> {
  const out: Partial<Record<StanceJoint, Vec2>> = {};
  const shoulders = span.map(({ joints }) => seenChest(joints!));
  for (const joint of STANCE_JOINTS) {
    // Its direction is not known: half of its square goes each way.
    const apart = (LOOKS_APART / Math.SQRT2) * median(span.map((b) => b.joints![joint].apart ?? 0));
    const spread = (axis: 0 | 1) => {
      const beside = span.map((b, i) => b.joints![joint].point[axis] - shoulders[i]![axis]);
      const middle = median(beside);
      return SIGMA_OF_MEDIAN * median(beside.map((v) => Math.abs(v - middle)));
    };
    out[joint] = [Math.hypot(apart, spread(0)), Math.hypot(apart, spread(1))];
  }
  return out;
}

/** Sightings of a player, those near in time together. */
function spansOf(bodies: readonly BodySighting[]): BodySighting[][] {
  const out: BodySighting[][] = [];
  for (const body of bodies) {
    if (!body.joints) continue;
    const last = out.at(-1);
    if (last && body.t - last[0]!.t < SPAN) last.push(body);
    else out.push([body]);
  }
  return out;
}

/** How far the teacher's places are from the network's in the frames that have both, px; a posture lasts, so it is taken for the whole film. */
function offsetsByHand(bodies: readonly BodySighting[], marked: MarkedJoints | undefined): Map<StanceJoint, Vec2> {
  const out = new Map<StanceJoint, Vec2>();
  if (!marked) return out;
  for (const joint of STANCE_JOINTS) {
    const offsets = bodies.flatMap((body): Vec2[] => {
      const mark = marked.get(body.frame)?.[joint];
      const seen = body.joints?.[joint].point;
      return mark && seen ? [[mark[0] - seen[0], mark[1] - seen[1]]] : [];
    });
    if (offsets.length > 0) out.set(joint, [mean(offsets.map((o) => o[0])), mean(offsets.map((o) => o[1]))]);
  }
  return out;
}

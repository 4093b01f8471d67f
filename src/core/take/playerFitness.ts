import { FINGERS_HIDDEN, LEAST_PALM } from '../body/fitHand';
import { TOO_CLOSE } from '../body/fitStance';
import { GROWN, likelyStature, SEGMENTS } from '../body/stature';
import { HOLD } from '../body/torso';
import { type Camera, insidePicture, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { rotate } from '../geometry/rotation';
import { add, addScaled, cross, dot, normalize, RADIANS, scale, type Vec3 } from '../geometry/vec3';
import type { Dimensions } from '../instrument/dimensions';
import { type Family, heldAtShoulder } from '../instrument/family';
import type { MarksSolution } from '../instrument/solveMarks';
import type { ViewGrade } from './viewFitness';

export const OF_THE_PLAYER = ['arm', 'hand', 'trunk', 'feet'] as const;
export type PlayerPart = (typeof OF_THE_PLAYER)[number];

/** What of the player a view can judge, told from the marks of the instrument alone. */
export interface PartFitness {
  readonly part: PlayerPart;
  readonly grade: ViewGrade;
  /** What is in the way, and what would help, in the teacher's words; absent where nothing is. */
  readonly why?: string;
}

/** A palm so wide in the picture shows its fingers well; below the second width nothing is told of them (px; as the fit of the hand has it). */
const PALM = { fit: 70, least: LEAST_PALM, mm: 58 } as const;
/** A trunk so tall in the picture shows the arm well; below the second height joints are lost in the picture's grain (px, ours). */
const TRUNK = { fit: 130, least: 60 } as const;
/** Of the height: elbow under the shoulder and out from it, ankles under the shoulders. */
const BODY = { elbowDown: 0.14, elbowOut: 0.07, ankles: 0.77 } as const;

/** Where the bow crosses the strings, on the instrument (mm, mid-strip). */
const BOW_AT: Vec3 = [28, 0, 33];

/** Where a player who holds the instrument as usual stands before the camera. */
function standing(pose: Pose, solution: MarksSolution, stature: number, up: Vec3): { shoulders: readonly [Vec3, Vec3]; middle: Vec3; right: Vec3 } {
  const k = stature / GROWN;
  const ahead = rotate(pose.rotation, [1, 0, 0]);
  const flat = normalize(addScaled(ahead, up, -dot(ahead, up)));
  const turn = HOLD.heading * RADIANS;
  const forward = add(scale(flat, Math.cos(turn)), scale(cross(flat, up), Math.sin(turn)));
  const right = cross(forward, up);
  const middle = addScaled(addScaled(toOuter(pose, solution.model.landmarks['instrument.endButton']), forward, -HOLD.at[0] * k), up, -HOLD.at[2] * k);
  const half = (SEGMENTS.shoulders.share * stature) / 2;
  return { shoulders: [addScaled(middle, right, half), addScaled(middle, right, -half)], middle, right };
}

const gradeBy = (value: number, fit: number, least: number): ViewGrade => (value >= fit ? 'fit' : value >= least ? 'doubtful' : 'unfit');

/** Grades of bow arm, bow hand, trunk with head, and feet; none for instruments that are not held at the shoulder. `up` in the camera's frame. */
export function playerFitness(solution: MarksSolution, dimensions: Dimensions, family: Family, up: Vec3 = [0, -1, 0]): PartFitness[] {
  const pose = solution.poses[0];
  if (!pose || !heldAtShoulder(family)) return [];
  const { camera } = solution;
  const { value: stature } = likelyStature(dimensions);
  const body = standing(pose, solution, stature, up);
  const seen = (p: Vec3) => inside(camera, p);
  const trunk = (SEGMENTS.trunk.share * stature * camera.focal) / Math.max(1, body.middle[2]);
  const palm = (PALM.mm * (stature / GROWN) * camera.focal) / Math.max(1, pose.translation[2]);
  const close = trunk > TOO_CLOSE * camera.height;
  const elbow = addScaled(addScaled(body.shoulders[0], up, -BODY.elbowDown * stature), body.right, BODY.elbowOut * stature);
  const hips = addScaled(body.middle, up, -SEGMENTS.trunk.share * stature);
  const ankles = addScaled(body.middle, up, -BODY.ankles * stature);

  const hand = handFitness(palm, pose);
  const armSeen = !close && seen(body.shoulders[0]) && seen(elbow);
  const arm: PartFitness = armSeen
    ? { part: 'arm', grade: gradeBy(trunk, TRUNK.fit, TRUNK.least), ...(trunk < TRUNK.fit ? { why: 'small in the picture' } : {}) }
    : { part: 'arm', grade: 'unfit', why: 'shoulder or elbow out of the picture: film from further' };
  const trunkSeen = !close && seen(body.shoulders[0]) && seen(body.shoulders[1]);
  const trunkGrade: PartFitness = trunkSeen
    ? { part: 'trunk', grade: seen(hips) ? gradeBy(trunk, TRUNK.fit, TRUNK.least) : 'doubtful', ...(seen(hips) ? {} : { why: 'the hips are out of the picture' }) }
    : { part: 'trunk', grade: 'unfit', why: 'film from further, from head to hips' };
  const feet: PartFitness = seen(ankles) && !close ? { part: 'feet', grade: 'fit' } : { part: 'feet', grade: 'unfit', why: 'film the whole player, head to foot' };
  return [arm, hand, trunkGrade, feet];
}

/** A bow that is drawn squarely across the strings and points at the camera shows little of its hand. */
function handFitness(palm: number, pose: Pose): PartFitness {
  const size = gradeBy(palm, PALM.fit, PALM.least);
  if (size === 'unfit') return { part: 'hand', grade: size, why: 'too small in the picture: film it from half a metre' };
  const endOn = Math.abs(dot(rotate(pose.rotation, [0, 1, 0]), normalize(toOuter(pose, BOW_AT))));
  if (endOn > Math.cos(FINGERS_HIDDEN * RADIANS))
    return { part: 'hand', grade: 'doubtful', why: 'the bow points at the camera, so that only the thumb shows: the other fingers show from in front' };
  return size === 'fit' ? { part: 'hand', grade: size } : { part: 'hand', grade: size, why: 'small in the picture: from nearer it is surer' };
}

function inside(camera: Camera, p: Vec3): boolean {
  const there = project(camera, p);
  return there !== undefined && insidePicture(camera, there);
}

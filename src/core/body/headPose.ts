import { type Camera, project } from '../geometry/camera';
import { POSE_INCREMENTS, type Pose, stepPose, toOuter } from '../geometry/pose';
import { fromRotationVector, multiply, rotate } from '../geometry/rotation';
import { distance, dot, normalize, scale, type Vec2, type Vec3 } from '../geometry/vec3';
import { solveLeastSquares } from '../linalg/leastSquares';
import { FACE_POINTS, type FacePoint } from './sighting';

/**
 * Where a face's points are in a grown player's head, mm: from between the eyes, x to the player's left, y down, z into
 * the head. Half the distance of the eyes from memory (anthropometric tables); the rest ours, from 46 faces turned by
 * -10 to 55 degrees, laid over each other.
 */
export const HEAD_POINTS: Readonly<Record<FacePoint, Vec3>> = {
  'eye.right': [-31.5, 0, 0],
  'eye.left': [31.5, 0, 0],
  nose: [0, 37, -38],
  mouth: [0, 68, -15],
  'ear.right': [-68.5, 9, 75],
  'ear.left': [68.5, 9, 75],
};
/** How well each point is placed, mm on the head (ours): an ear on the far side is only guessed. */
const SIGMA: Readonly<Record<FacePoint, number>> = { 'eye.right': 3, 'eye.left': 3, nose: 4, mouth: 4, 'ear.right': 7, 'ear.left': 7 };
/** Ways a head may be turned to begin with, radians about its own upright axis. */
const TURNS = [-1, -0.4, 0, 0.4, 1] as const;
/** Heads nod so far, radians (1 sigma, ours): from in front, looking down and being filmed from above are told apart by little. */
const NOD = 0.5;
/** A face that fits worse than this many sigmas was taken for one. */
const WORST_MISFIT = 3;

/** A head in space. */
export interface HeadPose {
  /** From the head's frame (see {@link HEAD_POINTS}) to the camera's, mm. */
  readonly pose: Pose;
  /** Root mean square distance of the points from where the head has them, in their sigmas. */
  readonly misfit: number;
}

/**
 * The pose of a head from the six points of its face in the picture (px, in the order of {@link FACE_POINTS}).
 * @param size the head's size over a grown one's
 * @returns undefined where the points fit no head
 */
export function headPose(camera: Camera, face: readonly Vec2[], size: number): HeadPose | undefined {
  const [right, left] = [face[0]!, face[1]!];
  const points = FACE_POINTS.map((name) => scale(HEAD_POINTS[name], size));
  const width = Math.max(...face.flatMap((p) => face.map((q) => Math.hypot(p[0] - q[0], p[1] - q[1]))));
  if (!(width > 0)) return undefined;
  const depth = (camera.focal * distance(points[4]!, points[5]!)) / width;
  const middle: Vec2 = [(right[0] + left[0]) / 2, (right[1] + left[1]) / 2];
  const translation: Vec3 = [((middle[0] - camera.width / 2) / camera.focal) * depth, ((middle[1] - camera.height / 2) / camera.focal) * depth, depth];
  const roll = Math.atan2(left[1] - right[1], left[0] - right[0]);
  const residuals = (pose: Pose): number[] => [
    ...points.flatMap((p, i) => {
      const there = project(camera, toOuter(pose, p));
      const sigma = (SIGMA[FACE_POINTS[i]!] * size * camera.focal) / Math.max(1, pose.translation[2]);
      return there ? [(there[0] - face[i]![0]) / sigma, (there[1] - face[i]![1]) / sigma] : [100, 100];
    }),
    // Sine of the nod toward the camera.
    pose.rotation[7]! / NOD,
  ];
  const solved = TURNS.map((turn) =>
    solveLeastSquares<Pose>({
      start: { rotation: multiply(fromRotationVector([0, 0, roll]), fromRotationVector([0, turn, 0])), translation },
      unknowns: 6,
      increments: POSE_INCREMENTS,
      iterations: 25,
      residuals,
      step: stepPose,
    }),
  );
  const best = solved.reduce((a, b) => (b.cost < a.cost ? b : a));
  const misfit = Math.sqrt(best.residuals.slice(0, -1).reduce((sum, r) => sum + r * r, 0) / (2 * points.length));
  return misfit <= WORST_MISFIT ? { pose: best.state, misfit } : undefined;
}

/** Angle between where a face looks and the way from it to the camera, radians. */
export function turnedAway({ rotation, translation }: Pose): number {
  const ahead = rotate(rotation, [0, 0, 1]);
  return Math.acos(Math.min(1, Math.max(-1, dot(ahead, normalize(translation)))));
}

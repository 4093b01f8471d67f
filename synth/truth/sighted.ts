import { BODY_JOINTS, type BodyJoint, type BodySighting, type JointSighting } from '../../src/core/body/sighting';
import { NO_BOW } from '../../src/core/bow/sighting';
import { type Camera, insidePicture, project } from '../../src/core/geometry/camera';
import { type Pose, toOuter } from '../../src/core/geometry/pose';
import { rotate } from '../../src/core/geometry/rotation';
import { mix, subtract, type Vec2, type Vec3 } from '../../src/core/geometry/vec3';
import { INSTRUMENT_LANDMARKS } from '../../src/core/instrument/landmarks';
import { type LandmarkSighting, solvePose } from '../../src/core/instrument/solveMarks';
import type { TrackedFrame } from '../../src/core/measures/measureFrames';
import { normal, seededRandom } from '../../src/core/random';
import { measureBodies, measureTracked, type TakeMeasures } from '../../src/core/take/analyse';
import { solutionFromMarks } from '../../src/core/take/marksToSolution';
import { Phone } from '../camera/phone';
import { type Joints, jointsAt } from '../figure/joints';
import { buildInstrument } from '../instrument/build';
import { Performance } from '../motion/performance';
import type { Scenario } from '../presets/scenario';
import { facePoints } from './face';
import { TruthBook } from './truth';

/** How well things are seen: px at 960 across for instrument and bow, shares of the torso and of the palm for the player (1 sigma). */
export interface Eyesight {
  readonly instrument: number;
  readonly line: number;
  readonly ends: number;
  readonly joints: number;
  readonly fingers: number;
  /** Share of the distance between the ears as seen. */
  readonly face: number;
}

/** About what the trackers and networks reach on good film. */
export const GOOD_EYES: Eyesight = { instrument: 0.3, line: 0.3, ends: 2, joints: 0.03, fingers: 0.04, face: 0.04 };

const LOOK_EVERY = 5;
/** How far a network's own guess in space is off, mm. */
const DEPTH_MM = 60;

const places = (j: Joints): Record<BodyJoint, Vec3> => ({
  nose: j.nose,
  'ear.left': j.earLeft,
  'ear.right': j.earRight,
  'shoulder.left': j.shoulderLeft,
  'shoulder.right': j.shoulderRight,
  'elbow.left': j.elbowLeft,
  'elbow.right': j.elbowRight,
  'wrist.left': j.wristLeft,
  'wrist.right': j.wristRight,
  'hip.left': j.hipLeft,
  'hip.right': j.hipRight,
  'knee.left': j.kneeLeft,
  'knee.right': j.kneeRight,
  'ankle.left': j.ankleLeft,
  'ankle.right': j.ankleRight,
  'toe.left': j.toeLeft,
  'toe.right': j.toeRight,
});

/**
 * A student measured without a film: poses as they are, bow and player as they would be seen from the scenario's place,
 * with noise. Tries everything behind the trackers and networks at once. Beside it the truth, as a table.
 */
export function measureSighted(scenario: Scenario, eyes: Eyesight = GOOD_EYES): { readonly take: TakeMeasures; readonly truth: Record<string, string>[] } {
  const build = buildInstrument(scenario);
  const performance = new Performance(scenario, build);
  const { stature } = performance;
  const phone = new Phone(scenario, stature, performance.middle);
  const { camera } = phone;
  const unit = Math.max(camera.width, camera.height) / 960;
  const random = seededRandom(scenario.seed * 389 + 5);
  const noise = (sigma: number) => sigma * normal(random);
  const faceRandom = seededRandom(scenario.seed * 401 + 7);
  const book = new TruthBook(scenario, build, performance, phone);
  const tracked: TrackedFrame[] = [];
  const instruments: LandmarkSighting[][] = [];
  const bodies: BodySighting[] = [];
  const frames = Math.floor(performance.duration * scenario.framesPerSecond);
  for (let index = 0; index < frames; index++) {
    const t = index / scenario.framesPerSecond;
    const moment = performance.at(t);
    // A mark is set where everything can be reached; what hides what is the film's business.
    book.add(index, moment, index % LOOK_EVERY === 0 ? () => true : undefined);
    const eye = phone.poseAt(t);
    const seenBy =
      (off: (sigma: number) => number) =>
      (p: Vec3, sigma: number): Vec2 | undefined => {
        const at = project(camera, toOuter(eye, p));
        return at && [at[0] + off(sigma), at[1] + off(sigma)];
      };
    const seen = seenBy(noise);
    const landmarks = INSTRUMENT_LANDMARKS.flatMap((landmark) => {
      const point = seen(toOuter(moment.instrument, build.model.landmarks[landmark]), eyes.instrument * unit);
      return point ? [{ landmark, point, sigma: eyes.instrument * unit }] : [];
    });
    instruments.push(landmarks);
    tracked.push({ index, t, pose: undefined, quality: 0.9, sighting: bowSighting(camera, moment.ready.onString === 1, seen, moment, eyes, unit) });
    // The hand at the neck is known by the neck beside it.
    const away = Math.max(scenario.posture.leftHandAway, moment.ready.leftAway) > 0.1;
    if (index % LOOK_EVERY === 0) {
      const joints = jointsAt(moment, build, stature, scenario.posture);
      const turned = (p: Vec3) => rotate(eye.rotation, p).map((v) => v + noise(DEPTH_MM)) as unknown as Vec3;
      const face = faceSighting(
        camera,
        joints,
        seenBy((sigma) => sigma * normal(faceRandom)),
        eyes,
      );
      bodies.push({ ...bodySighting(camera, index, t, joints, away, seen, eyes, turned), ...(face ? { face } : {}) });
    }
  }
  const { solution, dimensions } = solutionFromMarks(book.marks());
  const vertical = { direction: rotate(phone.poseAt(0).rotation, [0, 0, 1]), sigmaDeg: 0.5 };
  // The marks' own lens and shape place the instrument: a tracker knows no better, and goes on from the picture before.
  let near: Pose | undefined;
  const posed = tracked.map((frame, i) => {
    const pose = solvePose(solution.camera, solution.model, instruments[i]!, near)?.pose;
    near = pose ?? near;
    return { ...frame, pose };
  });
  const take = measureBodies(measureTracked({ family: scenario.family, dimensions, solution, vertical, tracked: posed }), bodies);
  const [head, ...rows] = book
    .truthCsv()
    .trim()
    .split('\n')
    .map((line) => line.split(','));
  return { take, truth: rows.map((row) => Object.fromEntries(head!.map((name, i) => [name, row[i]!]))) };
}

type See = (p: Vec3, sigma: number) => Vec2 | undefined;

function bowSighting(camera: Camera, onString: boolean, seen: See, { frog, tip }: { frog: Vec3; tip: Vec3 }, eyes: Eyesight, unit: number): TrackedFrame['sighting'] {
  const [shareA, shareB] = [0.1, 0.9];
  const [a, b] = [shareA, shareB].map((share) => seen(mix(frog, tip, share), eyes.line * unit));
  if (!onString || !a || !b) return NO_BOW;
  const end = (p: Vec3, sigma: number) => {
    const point = seen(p, sigma);
    return point && insidePicture(camera, point, 4) ? { point, sigma } : undefined;
  };
  const sigma = Math.hypot(eyes.line, 0.35) * unit;
  return { line: { a, b, shareA, shareB, sigmaA: sigma, sigmaB: sigma }, frog: end(frog, 2 * eyes.ends * unit), tip: end(tip, eyes.ends * unit), score: 0.9 };
}

/** The points of the face; undefined where one lies outside the picture. */
function faceSighting(camera: Camera, joints: Joints, seen: See, eyes: Eyesight): Vec2[] | undefined {
  const at = places(joints);
  const [right, left] = [seen(at['ear.right'], 0), seen(at['ear.left'], 0)];
  if (!right || !left) return undefined;
  const sigma = eyes.face * Math.hypot(right[0] - left[0], right[1] - left[1]);
  const face = facePoints(at['ear.right'], at['ear.left'], at.nose).map((p) => seen(p, sigma));
  return face.every((p) => p !== undefined && insidePicture(camera, p, 0)) ? (face as Vec2[]) : undefined;
}

function bodySighting(camera: Camera, frame: number, t: number, joints: Joints, away: boolean, seen: See, eyes: Eyesight, turned: (way: Vec3) => Vec3): BodySighting {
  const at = places(joints);
  const hips = mix(joints.hipLeft, joints.hipRight, 0.5);
  const flat = (p: Vec3): Vec2 => seen(p, 0) ?? [0, 0];
  const apart = (a: Vec2, b: Vec2) => Math.hypot(a[0] - b[0], a[1] - b[1]);
  const middle = (a: BodyJoint, b: BodyJoint) => flat(mix(at[a], at[b], 0.5));
  const torso = apart(middle('shoulder.left', 'shoulder.right'), middle('hip.left', 'hip.right'));
  const palm = (hand: readonly Vec3[]) => apart(flat(hand[5]!), flat(hand[17]!));
  const points = (hand: readonly Vec3[]): Vec2[] | undefined => {
    const all = hand.map((p) => seen(p, eyes.fingers * palm(hand)));
    return all.every((p) => p !== undefined && insidePicture(camera, p, 0)) ? (all as Vec2[]) : undefined;
  };
  const [bowHand, neckHand] = [points(joints.handRight.joints), away ? undefined : points(joints.handLeft.joints)];
  const sightings = BODY_JOINTS.map((name): [BodyJoint, JointSighting] => {
    const point = seen(at[name], eyes.joints * torso) ?? [0, 0];
    return [name, { point, space: turned(subtract(at[name], hips)), seen: insidePicture(camera, point, 0) ? 1 : 0.2 }];
  });
  return {
    frame,
    t,
    joints: Object.fromEntries(sightings) as Record<BodyJoint, JointSighting>,
    ...(bowHand ? { bowHand } : {}),
    neckSought: true,
    ...(neckHand ? { neckHand } : {}),
  };
}

import { describe, expect, it } from 'vitest';
import { type BowSighting, NO_BOW } from '../../core/bow/sighting';
import { cameraFromFieldOfView, project, ray } from '../../core/geometry/camera';
import { type Pose, stepInside, toInner, toOuter } from '../../core/geometry/pose';
import { fromRotationVector, multiply, rotateBack } from '../../core/geometry/rotation';
import type { Vec2, Vec3 } from '../../core/geometry/vec3';
import { farEdge } from '../../core/instrument/bridgeTop';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { INSTRUMENT_LANDMARKS, instrumentModel } from '../../core/instrument/landmarks';
import { solveMarks } from '../../core/instrument/solveMarks';
import { bridgeArc } from '../../core/instrument/strings';
import type { TrackedFrame } from '../../core/measures/measureFrames';
import { normal, seededRandom } from '../../core/random';
import type { Frame } from '../film/frame';
import { BridgeWatch } from './bridgeWatch';

const [width, height] = [480, 270];
const camera = cameraFromFieldOfView(width, height);
const dimensions = dimensionsOf('violin', '4/4');
const model = instrumentModel(dimensions);
const FRAMES = 60;
const times = Float64Array.from({ length: FRAMES }, (_, i) => i / 10);

/** From the front and above, swaying. */
const poseAt = (frame: number): Pose => ({
  rotation: multiply(fromRotationVector([0.02 * Math.sin(frame / 6), 0.1, 0]), multiply(fromRotationVector([Math.PI - 0.8, 0, 0]), fromRotationVector([0, 0, -1.2]))),
  translation: [10 + 12 * Math.sin(frame / 5), 5, 520],
});
/** A bow that goes to and fro between bridge and fingerboard, or stays at a distance (mm) from the bridge; without its ends. */
function bowAt(frame: number, x = 30 + 12 * Math.sin(frame / 9)): BowSighting {
  const [a, b] = [200, -200].map((y) => project(camera, toOuter(poseAt(frame), [x, y, 3]))!) as [Vec2, Vec2];
  return { ...NO_BOW, line: { a, b, sigmaA: 0.4, sigmaB: 0.4, shareA: 0, shareB: 1 }, score: 0.9 };
}

/** A frame that shows nothing but the bridge, from its top toward the eye as far as its arc goes on, and the bow. */
function shoot(index: number, bridge = 80, bow = bowAt(index)): Frame {
  const random = seededRandom(300 + index);
  const pose = poseAt(index);
  const eye = toInner(pose, [0, 0, 0]);
  const edge = farEdge(model, eye[0]);
  const { a, b } = bow.line!;
  const long = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const luma = Uint8Array.from({ length: width * height }, (_, i) => {
    const p: Vec2 = [(i % width) + 0.5, Math.floor(i / width) + 0.5];
    const [x, y] = onArc(eye, rotateBack(pose.rotation, ray(camera, p)));
    const onBow = Math.abs((p[0] - a[0]) * (b[1] - a[1]) - (p[1] - a[1]) * (b[0] - a[0])) / long < 4;
    const wood = Math.abs(y) < 21 && (x - edge) * eye[0] > 0 && Math.abs(x - edge) < 22;
    return (onBow ? 210 : wood ? 90 + bridge : 90) + 5 * normal(random);
  });
  return { index, t: times[index]!, width, height, luma };
}

/** Where a ray meets the arc of the strings. */
function onArc(eye: Vec3, d: Vec3): Vec2 {
  let y = 0;
  let k = 0;
  for (let i = 0; i < 4; i++) {
    k = (bridgeArc(model, Math.max(-40, Math.min(40, y))) - eye[2]) / d[2];
    y = eye[1] + k * d[1];
  }
  return [eye[0] + k * d[0], y];
}

const film = Array.from({ length: FRAMES }, (_, i) => (i % 2 ? undefined : shoot(i)));

/** The instrument as points found in one frame place it: its bridge is off by so many mm along the strings. */
function placedOff(off: number) {
  const sightings = INSTRUMENT_LANDMARKS.map((landmark) => {
    const [x, y, z] = model.landmarks[landmark];
    return { landmark, point: project(camera, toOuter(poseAt(0), [landmark.includes('bridge') ? x + off : x, y, z]))!, sigma: 3 };
  });
  const solution = solveMarks(camera, dimensions, [sightings]);
  const at = toInner(poseAt(0), solution.poses[0]!.translation);
  return { solution, followed: (frame: number): Pose => stepInside(poseAt(frame), Float64Array.from([0, 0, 0, ...at])) };
}

/** How far (mm along the strings) the true bridge lies from that of a pose, by the picture. */
function off(pose: Pose, frame: number): number {
  const eye = toInner(pose, [0, 0, 0]);
  const d = rotateBack(pose.rotation, ray(camera, project(camera, poseAt(frame).translation)!));
  return eye[0] - (eye[2] / d[2]) * d[0];
}

function seated(placed: ReturnType<typeof placedOff>, frames: readonly (Frame | undefined)[], sighting: (frame: number) => BowSighting = bowAt) {
  const watch = new BridgeWatch(placed.solution, dimensions, times);
  for (const frame of frames) if (frame) watch.see(frame, placed.followed(frame.index));
  const tracked = frames.flatMap((frame): TrackedFrame[] =>
    frame ? [{ index: frame.index, t: frame.t, pose: placed.followed(frame.index), quality: 0.9, sighting: sighting(frame.index) }] : [],
  );
  return { before: tracked, ...watch.seat(tracked) };
}

describe('the bridge of a film', () => {
  it('is put where the film shows it, in all frames alike', () => {
    for (const way of [-6, 5]) {
      const { before, tracked, solution } = seated(placedOff(way), film);
      for (const i of [0, 12, 25]) {
        const [then, now] = [off(before[i]!.pose!, before[i]!.index), off(tracked[i]!.pose!, tracked[i]!.index)];
        expect(Math.abs(then)).toBeGreaterThan(1.5);
        expect(Math.abs(now)).toBeLessThan(0.35 * Math.abs(then));
      }
      expect(solution.shape).not.toEqual(placedOff(way).solution.shape);
    }
  });
  it('is found again after the frames were put right', () => {
    const placed = placedOff(4);
    const watch = new BridgeWatch(placed.solution, dimensions, times);
    for (const frame of film) if (frame) watch.see(frame, placed.followed(frame.index));
    // Laid elsewhere in the meantime, two millimetres along itself.
    const laid = (frame: number) => stepInside(placed.followed(frame), Float64Array.from([0, 0, 0, 2, 0, 0]));
    const tracked = film.flatMap((frame): TrackedFrame[] =>
      frame ? [{ index: frame.index, t: frame.t, pose: laid(frame.index), quality: 0.9, sighting: bowAt(frame.index) }] : [],
    );
    const out = watch.seat(tracked).tracked;
    expect(Math.abs(off(out[20]!.pose!, out[20]!.index))).toBeLessThan(0.35 * Math.abs(off(tracked[20]!.pose!, tracked[20]!.index)));
  });
  it('stays where the marks have it if the film does not show it, the bow lies before it, or nobody knows where the bow is', () => {
    const placed = placedOff(5);
    const plain = Array.from({ length: 30 }, (_, i) => shoot(2 * i, 0));
    // Before the bridge all the time, here and there.
    const covered = [2, 6, 10].map((x) => {
      const staying = (frame: number) => bowAt(frame, x);
      return seated(
        placed,
        Array.from({ length: 20 }, (_, i) => shoot(3 * i, 80, staying(3 * i))),
        staying,
      );
    });
    for (const { before, tracked, solution } of [...covered, seated(placed, plain), seated(placed, film, () => NO_BOW), seated(placed, [])]) {
      expect(solution).toBe(placed.solution);
      expect(tracked).toBe(before);
    }
  });
});

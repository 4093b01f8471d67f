import { describe, expect, it } from 'vitest';
import { NO_BOW } from '../bow/sighting';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { fromRotationVector, multiply, rotate, transpose } from '../geometry/rotation';
import { cross, DEGREES, normalize, subtract, type Vec2, type Vec3 } from '../geometry/vec3';
import type { Zenith } from '../geometry/zenith';
import { dimensionsOf } from '../instrument/dimensions';
import { INSTRUMENT_LANDMARKS, instrumentModel } from '../instrument/landmarks';
import { lowestPeg } from '../instrument/pegs';
import { solveMarks } from '../instrument/solveMarks';
import type { TrackedFrame } from '../measures/measureFrames';
import { normal, seededRandom } from '../random';
import { HEAD_POINTS } from './headPose';
import { measureStance } from './measureStance';
import { type BodyJoint, type BodySighting, everyJoint, FACE_POINTS } from './sighting';
import { stanceWidth, trunkLean } from './stance';
import { supposedUp } from './supposedUp';

const camera = cameraFromFieldOfView(720, 1280);
const dimensions = dimensionsOf('violin', '4/4');
const model = instrumentModel(dimensions);
const vertical = { direction: [0, -1, 0] as Vec3, sigmaDeg: 1 };

/** A standing player as the camera before them sees them, mm: x to the player's left, y down, z away. */
const PLAYER: Readonly<Record<BodyJoint, Vec3>> = {
  nose: [0, -722, 2460],
  'ear.left': [73, -740, 2560],
  'ear.right': [-73, -740, 2560],
  'shoulder.left': [159, -527, 2600],
  'shoulder.right': [-159, -527, 2600],
  'elbow.left': [240, -340, 2380],
  'elbow.right': [-300, -330, 2500],
  'wrist.left': [300, -520, 2210],
  'wrist.right': [-280, -420, 2260],
  'hip.left': [88, -34, 2600],
  'hip.right': [-88, -34, 2600],
  'knee.left': [110, 374, 2590],
  'knee.right': [-110, 374, 2590],
  'ankle.left': [127, 773, 2600],
  'ankle.right': [-127, 773, 2600],
  'toe.left': [150, 830, 2480],
  'toe.right': [-150, 830, 2480],
};

/** The violin at the player's chin, scroll to the left and forward, its plate up and a little to the camera. */
const pose = (() => {
  const ahead = normalize([0.67, 0, -0.743]);
  const plate = normalize([0, -1, -0.35]);
  const across = normalize(cross(plate, ahead));
  const rotation = transpose([...ahead, ...across, ...cross(ahead, across)]);
  const button = rotate(rotation, model.landmarks['instrument.endButton']);
  return { rotation, translation: subtract([0, -537, 2520], button) };
})();
const solution = solveMarks(camera, dimensions, [
  INSTRUMENT_LANDMARKS.flatMap((landmark) => {
    const point = project(camera, [0, 1, 2].map((k) => rotate(pose.rotation, model.landmarks[landmark])[k]! + pose.translation[k]!) as unknown as Vec3);
    return point ? [{ landmark, point, sigma: 1 }] : [];
  }),
]);

const FRAMES = 90;
const tracked = Array.from({ length: FRAMES }, (_, index): TrackedFrame => ({ index, t: index / 25, pose, quality: 0.9, sighting: NO_BOW }));

/** Looks at the player in every eighth frame up to the 48th, each joint off by some pixels. */
function looks(player: Readonly<Record<BodyJoint, Vec3>>, seen: (joint: BodyJoint) => number = () => 0.99, head?: Pose): BodySighting[] {
  const random = seededRandom(5);
  const about = ([x, y]: Vec2): Vec2 => [x + 1.5 * normal(random), y + 1.5 * normal(random)];
  return tracked
    .filter((f) => f.index % 8 === 0 && f.index <= 48)
    .map(({ index, t }) => ({
      frame: index,
      t,
      joints: everyJoint((joint) => {
        return { point: about(project(camera, player[joint])!), space: player[joint], seen: seen(joint) };
      }),
      ...(head ? { face: FACE_POINTS.map((name) => about(project(camera, toOuter(head, HEAD_POINTS[name]))!)) } : {}),
    }));
}
const measured = (bodies: BodySighting[]) => measureStance({ family: 'violin', dimensions, solution, vertical, tracked, bodies });

describe('measuring a stance', () => {
  it('tells how the player stands, within its doubt', () => {
    const { frames } = measured(looks(PLAYER));
    const up = vertical.direction;
    const { trunk_lean_deg, stance_width } = frames[20]!;
    expect(Math.abs(trunk_lean_deg!.value - trunkLean(PLAYER, up))).toBeLessThan(2 * trunk_lean_deg!.u);
    expect(Math.abs(stance_width!.value - stanceWidth(PLAYER))).toBeLessThan(2.5 * stance_width!.u);
  });

  it('tells how the head is turned and tilted by its face, and without a face not how it is turned', () => {
    const rotation = multiply(fromRotationVector([0, 0, 0.3]), fromRotationVector([0, -0.8, 0]));
    const { frames } = measured(looks(PLAYER, undefined, { rotation, translation: [0, -750, 2490] }));
    const { head_turn_deg: turn, head_tilt_deg: tilt } = frames[20]!;
    const [x, y, z] = rotate(rotation, [1, 0, 0]);
    expect(Math.abs(tilt!.value - Math.asin(y) * DEGREES)).toBeLessThan(3);
    expect(Math.abs(turn!.value - Math.atan2(z, x) * DEGREES)).toBeLessThan(2 * turn!.u);
    const unseen = measured(looks(PLAYER)).frames[20]!;
    expect(unseen.head_turn_deg).toBeUndefined();
    expect(unseen.head_tilt_deg!.u).toBeGreaterThan(tilt!.u);
  });

  it('says nothing of a head that the edge of the picture cuts off, but of the trunk below it', () => {
    // The camera looks down until the crown is out of sight, and the ears are not.
    const lowered =
      (radians: number) =>
      (p: Vec3): Vec3 =>
        rotate(fromRotationVector([radians, 0, 0]), p);
    const seenFrom = (radians: number) => {
      const down = lowered(radians);
      const player = Object.fromEntries(Object.entries(PLAYER).map(([joint, p]) => [joint, down(p)])) as typeof PLAYER;
      const turned = { rotation: multiply(fromRotationVector([radians, 0, 0]), pose.rotation), translation: down(pose.translation) };
      return measureStance({
        family: 'violin',
        dimensions,
        solution,
        vertical: { ...vertical, direction: down(vertical.direction) },
        tracked: tracked.map((f) => ({ ...f, pose: turned })),
        bodies: looks(player),
      }).frames[20]!;
    };
    expect(seenFrom(0.1).head_tilt_deg).toBeDefined();
    const cut = seenFrom(0.27);
    expect(cut.head_tilt_deg).toBeUndefined();
    expect(cut.trunk_lean_deg).toBeDefined();
  });

  it('does not go by a face in profile', () => {
    const turned = (radians: number) => measured(looks(PLAYER, undefined, { rotation: fromRotationVector([0, -radians, 0]), translation: [0, -750, 2490] })).frames[20]!;
    expect(turned(0.9).head_turn_deg).toBeDefined();
    expect(turned(1.25).head_turn_deg).toBeUndefined();
  });

  it('tells raised shoulders only where they were placed by hand', () => {
    const bodies = looks(PLAYER);
    expect(measured(bodies).frames[20]!.shoulder_lift).toBeUndefined();
    const lift = (raised: number) => {
      const place = (joint: BodyJoint): Vec2 => {
        const [x, y, z] = PLAYER[joint];
        return project(camera, [x, y - raised, z])!;
      };
      const marked = new Map([[16, { 'shoulder.left': place('shoulder.left'), 'shoulder.right': place('shoulder.right') }]]);
      return measureStance({ family: 'violin', dimensions, solution, vertical, tracked, bodies, marked }).frames[20]!.shoulder_lift!;
    };
    expect(lift(90).value - lift(0).value).toBeGreaterThan(2 * lift(90).u);
  });

  it('is less sure of a trunk whose hips jump about from look to look, or lie elsewhere in the mirrored picture, and says nothing where they jump far', () => {
    const hips = /^hip/;
    /** The player with the hips seen so many px aside in turn, and so far apart in picture and mirror image. */
    const jumping = (px: number, apart = 0) =>
      looks(PLAYER).map((body, i) => ({
        ...body,
        joints: everyJoint((joint) => {
          const { point, ...rest } = body.joints![joint];
          const aside = hips.test(joint) ? px * ((i % 3) - 1) : 0;
          return { ...rest, point: [point[0] + aside, point[1]] as Vec2, ...(hips.test(joint) ? { apart } : {}) };
        }),
      }));
    const lean = (bodies: BodySighting[]) => measured(bodies).frames[20]!.trunk_lean_deg;
    const steady = lean(jumping(0))!.u;
    expect(lean(jumping(14))!.u).toBeGreaterThan(1.1 * steady);
    expect(lean(jumping(0, 30))!.u).toBeGreaterThan(1.1 * steady);
    expect(lean(jumping(80))).toBeUndefined();
    // A player who sways as a whole is seen as well as one who stands still.
    const swaying = looks(PLAYER).map((body, i) => ({
      ...body,
      joints: everyJoint((joint) => {
        const { point, ...rest } = body.joints![joint];
        return { ...rest, point: [point[0] + 14 * ((i % 3) - 1), point[1]] as Vec2 };
      }),
    }));
    expect(lean(swaying)!.u).toBeLessThan(1.1 * steady);
  });

  it('holds a posture between two looks, and says nothing long after the last', () => {
    const { frames } = measured(looks(PLAYER));
    expect(frames[30]!.trunk_lean_deg).toBeDefined();
    expect(frames[FRAMES - 1]!.trunk_lean_deg).toBeUndefined();
  });

  it('tells where up is only supposed what does not hang on it as surely, and of a lean with that doubt or nothing', () => {
    const usual = supposedUp([pose]);
    const of = (z: Zenith) => measureStance({ family: 'violin', dimensions, solution, vertical: z, tracked, bodies: looks(PLAYER) }).frames[20]!;
    const [known, told] = [of(vertical), of(usual)];
    expect(Math.abs(told.stance_width!.u - known.stance_width!.u)).toBeLessThan(0.01);
    expect(told.head_tilt_deg!.u).toBeGreaterThan(known.head_tilt_deg!.u + 0.5);
    expect(told.trunk_stoop_deg).toBeUndefined();
  });

  it('does not speak of feet out of sight', () => {
    const { frames } = measured(looks(PLAYER, (joint) => (joint.startsWith('ankle') ? 0.2 : 0.99)));
    expect(frames[20]!.stance_width).toBeUndefined();
    expect(frames[20]!.trunk_lean_deg).toBeDefined();
  });

  it('tells the trunk where the head is out of sight, whatever is guessed of it', () => {
    const swapped = { ...PLAYER, 'ear.left': PLAYER['ear.right'], 'ear.right': PLAYER['ear.left'] };
    const { frames } = measured(looks(swapped, (joint) => (/^(ear|nose)/.test(joint) ? 0.1 : 0.99)));
    expect(frames[20]!.trunk_lean_deg).toBeDefined();
    expect(frames[20]!.head_tilt_deg).toBeUndefined();
  });

  it('tells how far the lowest peg of a cello is from the left ear, and of a violin nothing of the kind', () => {
    const cello = dimensionsOf('cello', '4/4');
    const held = instrumentModel(cello);
    /** The scroll up and a little back, the strings to the camera; the pegs pass the left ear. */
    const ahead = normalize([0.1, -0.87, 0.45]);
    const plate = normalize(cross(cross(ahead, [0, 0, -1]), ahead));
    const rotation = transpose([...ahead, ...cross(plate, ahead), ...plate]);
    const beside: Vec3 = [PLAYER['ear.left'][0] - 90, PLAYER['ear.left'][1] + 10, PLAYER['ear.left'][2] - 20];
    const placed = { rotation, translation: subtract(beside, rotate(rotation, lowestPeg(held))) };
    const seen = solveMarks(camera, cello, [INSTRUMENT_LANDMARKS.map((landmark) => ({ landmark, point: project(camera, toOuter(placed, held.landmarks[landmark]))!, sigma: 1 }))]);
    const of = (sight: (joint: BodyJoint) => number) =>
      measureStance({ family: 'cello', dimensions: cello, solution: seen, vertical, tracked: tracked.map((f) => ({ ...f, pose: seen.poses[0]! })), bodies: looks(PLAYER, sight) })
        .frames[20]!;
    const { peg_ear_mm: peg, stance_width: width } = of(() => 0.99);
    expect(Math.abs(peg!.value - Math.hypot(90, 10, 20))).toBeLessThan(2 * peg!.u);
    expect(peg!.u).toBeLessThan(50);
    expect(Math.abs(width!.value - stanceWidth(PLAYER))).toBeLessThan(2.5 * width!.u);
    expect(of((joint) => (joint.startsWith('ear') ? 0.1 : 0.99)).peg_ear_mm).toBeUndefined();
    expect(measured(looks(PLAYER)).frames[20]!.peg_ear_mm).toBeUndefined();
  });

  it('does not believe a head turned to the back', () => {
    const swapped = { ...PLAYER, 'ear.left': PLAYER['ear.right'], 'ear.right': PLAYER['ear.left'], nose: [0, -722, 2660] as Vec3 };
    const { frames, stances } = measured(looks(swapped));
    expect(stances).toEqual([]);
    expect(frames.every((f) => f.head_tilt_deg === undefined)).toBe(true);
  });
});

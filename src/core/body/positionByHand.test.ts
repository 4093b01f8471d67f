import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bowInSpace } from '../bow/bowInSpace';
import type { BowOnString } from '../bow/bowState';
import { NO_BOW } from '../bow/sighting';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import type { Pose } from '../geometry/pose';
import { fromRotationVector, multiply } from '../geometry/rotation';
import { addScaled, type Vec2, type Vec3 } from '../geometry/vec3';
import { dimensionsOf } from '../instrument/dimensions';
import { instrumentModel } from '../instrument/landmarks';
import { bowContextFor } from '../measures/measureFrames';
import { bowsInHand } from './bowsInHand';
import { positionByHand } from './positionByHand';
import { type BodyJoint, type BodySighting, everyJoint } from './sighting';
import { WRIST_AT_FROG } from './wristAtFrog';

const dimensions = dimensionsOf('violin', '4/4');
const context = bowContextFor(cameraFromFieldOfView(960, 540), instrumentModel(dimensions), 'violin', dimensions);
const FRONT: Pose = { rotation: multiply(fromRotationVector([0, 0, 0.5]), fromRotationVector([Math.PI - 0.8, 0, 0])), translation: [60, 40, 1500] };
/** The bow at the camera. */
const END_ON: Pose = { rotation: [1, 0, 0, 0, 0, -1, 0, 1, 0], translation: [0, 30, 1500] };
const TORSO = 150;
const bowAt = (position: number): BowOnString => ({ state: { contact: 28, skew: 3, inclination: context.levels.natural[1]!, position }, string: 1 });

/** Where a hand that holds the bow's frog as usual has its wrist in the picture. */
function wristAt(pose: Pose, position: number, scale = 1): Vec2 {
  const { frog, axes } = bowInSpace(context, pose, bowAt(position));
  const [along, ...rest] = WRIST_AT_FROG.at;
  const offset = [along + WRIST_AT_FROG.travel * (position - WRIST_AT_FROG.middle), ...rest];
  return project(
    context.camera,
    axes.reduce<Vec3>((w, axis, i) => addScaled(w, axis, scale * offset[i]!), frog),
  )!;
}

describe('the place along the bow by the hand', () => {
  it('is found from a wrist, wherever the bow was thought to be', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.02, max: 0.98, noNaN: true }), fc.double({ min: 0.02, max: 0.98, noNaN: true }), fc.constantFrom(0.75, 1), (truth, thought, scale) => {
        const found = positionByHand(context, FRONT, bowAt(thought), wristAt(FRONT, truth, scale), TORSO, scale)!;
        expect(Math.abs(found.position - truth)).toBeLessThan(0.005);
        expect(found.aside).toBeLessThan(1);
      }),
    );
  });
  it('says how far beside the bow the wrist was seen, and doubts more what is further away', () => {
    const [x, y] = wristAt(FRONT, 0.5);
    const [p, q] = [wristAt(FRONT, 0.45), wristAt(FRONT, 0.55)];
    const n = Math.hypot(q[0] - p[0], q[1] - p[1]);
    const beside: Vec2 = [x - ((q[1] - p[1]) / n) * 40, y + ((q[0] - p[0]) / n) * 40];
    expect(positionByHand(context, FRONT, bowAt(0.3), beside, TORSO, 1)!.aside).toBeCloseTo(40, 0);
    const far: Pose = { ...FRONT, translation: [120, 80, 3000] };
    expect(positionByHand(context, far, bowAt(0.5), wristAt(far, 0.5), TORSO, 1)!.sigma).toBeGreaterThan(positionByHand(context, FRONT, bowAt(0.5), [x, y], TORSO, 1)!.sigma);
  });
  it('is not told of a bow that points at the camera', () => {
    expect(positionByHand(context, END_ON, bowAt(0.5), [480, 270], TORSO * 3, 1)).toBeUndefined();
  });
});

describe('a bow in the hand', () => {
  /** A look at a player whose wrist is seen so many px from the bow's frog, at so likely a place. */
  const look = (away: number, seen = 0.99): BodySighting => {
    const frog = project(context.camera, bowInSpace(context, FRONT, bowAt(0.5)).frog)!;
    const places: Partial<Record<BodyJoint, Vec2>> = {
      'shoulder.left': [530, 200],
      'shoulder.right': [430, 200],
      'hip.left': [510, 200 + TORSO],
      'hip.right': [450, 200 + TORSO],
      'wrist.right': [frog[0] + away, frog[1]],
    };
    return { frame: 7, t: 0.3, joints: everyJoint((joint) => ({ point: places[joint] ?? [480, 300], space: [0, 0, 0], seen })) };
  };
  const tracked = [{ index: 7, t: 0.3, pose: FRONT, quality: 1, sighting: NO_BOW }];
  const inHand = (body: BodySighting, bow: BowOnString | undefined = bowAt(0.5)) => bowsInHand(context, tracked, [bow], [body]);
  it('is one that the wrist could hold', () => {
    expect(inHand(look(30)).get(7)).toBe(true);
    expect(inHand(look(200)).get(7)).toBe(false);
  });
  it('is not told of where the wrist is out of sight, or there is no bow or frame', () => {
    expect(inHand(look(30, 0.1)).size).toBe(0);
    expect(bowsInHand(context, tracked, [undefined], [look(30)]).size).toBe(0);
    expect(inHand({ ...look(30), frame: 99 }).size).toBe(0);
    expect(inHand({ frame: 7, t: 0.3 }).size).toBe(0);
  });
});

import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { fromAxes } from '../geometry/rotation';
import { normalize, type Vec2, type Vec3 } from '../geometry/vec3';
import { dimensionsOf } from '../instrument/dimensions';
import { instrumentModel } from '../instrument/landmarks';
import type { TrackedFrame } from '../measures/measureFrames';
import { holdsOf } from './holds';
import { neckHandPlace } from './neckHandPlace';
import { BODY_JOINTS, type BodyJoint, type BodySighting } from './sighting';

const camera = cameraFromFieldOfView(1280, 720, 65);
const model = instrumentModel(dimensionsOf('violin', '4/4'));
const STATURE = 1700;
/** A violin before the camera, its scroll to the right and toward it. */
const pose: Pose = { rotation: fromAxes(normalize([0.7, 0.1, -0.7] as Vec3), normalize([-0.6, -0.5, -0.6] as Vec3)), translation: [-20, -150, 2200] };
const seen = (p: Vec3): Vec2 => {
  const q = project(camera, p)!;
  return [q[0], q[1]];
};
const button = seen(toOuter(pose, model.landmarks['instrument.endButton']));
const neck = neckHandPlace(camera, pose, model, STATURE)!.centre;
const TORSO = 200;
const places = (left: Vec2, right: Vec2): Partial<Record<BodyJoint, Vec2>> => ({
  'shoulder.left': [button[0] + 50, button[1] + 20],
  'shoulder.right': [button[0] - 90, button[1] + 20],
  'hip.left': [button[0] + 20, button[1] + 20 + TORSO],
  'hip.right': [button[0] - 60, button[1] + 20 + TORSO],
  'wrist.left': left,
  'wrist.right': right,
});
const HANGING: Vec2 = [button[0] + 70, button[1] + TORSO];
const AT_SIDE: Vec2 = [button[0] - 110, button[1] + TORSO];
const BOWING: Vec2 = [button[0] - 160, button[1] + 60];

type Holding = 'rest' | 'playing' | 'free' | 'lost';
/** Looks five times a second; `at` tells how the player holds the instrument. */
function film(seconds: number, at: (t: number) => Holding, neckSeen: (t: number) => boolean = () => false) {
  const tracked: TrackedFrame[] = [];
  const bodies: BodySighting[] = [];
  for (let i = 0; i <= seconds * 5; i++) {
    const t = i / 5;
    const holding = at(t);
    // At rest the instrument is under the arm, and not followed there.
    tracked.push({ index: i, t, pose: holding === 'rest' ? undefined : pose, quality: 1 } as TrackedFrame);
    const where = places(holding === 'playing' ? neck : HANGING, holding === 'rest' ? AT_SIDE : BOWING);
    const joints = Object.fromEntries(BODY_JOINTS.map((j) => [j, { point: where[j] ?? button, space: [0, 0, 0], seen: 1 }])) as unknown as NonNullable<BodySighting['joints']>;
    bodies.push({ frame: i, t, ...(holding === 'lost' ? {} : { joints }), ...(neckSeen(t) ? { neckHand: [neck] } : {}) });
  }
  return holdsOf({ camera, model, tracked, bodies, stature: STATURE });
}

describe('how an instrument is held', () => {
  it('is told from rest to the shoulder, and timed where the left hand is away', () => {
    const holds = film(12, (t) => (t < 2 ? 'rest' : t < 4 ? 'playing' : t < 9 ? 'free' : 'playing'));
    expect(holds.map((h) => h.kind)).toEqual(['rest', 'playing', 'hands-free', 'playing']);
    const free = holds[2]!;
    expect(Math.abs(free.to - free.from - 5)).toBeLessThan(0.25);
    expect(Math.abs(holds[0]!.to - 2)).toBeLessThan(0.15);
  });
  it('is one thing through a passing mistake, and through a hand the body network loses while it is seen at the neck', () => {
    expect(film(6, (t) => (Math.abs(t - 3) < 0.05 ? 'free' : 'playing'))).toHaveLength(1);
    const seen = film(
      6,
      (t) => (t > 2 && t < 4 ? 'free' : 'playing'),
      () => true,
    );
    expect(seen.map((h) => h.kind)).toEqual(['playing']);
  });
  it('is not told where nobody is seen', () => {
    const holds = film(10, (t) => (t > 3 && t < 7 ? 'lost' : 'playing'));
    expect(holds.map((h) => h.kind)).toEqual(['playing', 'playing']);
    expect(holds[0]!.to).toBeLessThan(3.1);
    expect(holds[1]!.from).toBeGreaterThan(6.9);
    expect(film(4, () => 'lost')).toEqual([]);
  });
});

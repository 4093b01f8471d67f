import { describe, expect, it } from 'vitest';
import { bowInSpace } from '../bow/bowInSpace';
import type { BowOnString } from '../bow/bowState';
import { NO_BOW } from '../bow/sighting';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { toOuter } from '../geometry/pose';
import { fromAxes } from '../geometry/rotation';
import { addScaled, cross, distance, dot, mix, normalize, RADIANS, scale, subtract, type Vec2, type Vec3 } from '../geometry/vec3';
import type { Zenith } from '../geometry/zenith';
import { dimensionsOf } from '../instrument/dimensions';
import { INSTRUMENT_LANDMARKS, instrumentModel } from '../instrument/landmarks';
import { solveMarks } from '../instrument/solveMarks';
import { bowContextOf, type TrackedFrame } from '../measures/measureFrames';
import type { Quantity } from '../measures/measures';
import { normal, seededRandom } from '../random';
import { elbowAngle, elbowRise } from './arm';
import type { ArmFrame } from './fitArm';
import { measureArm } from './measureArm';
import { type BodyJoint, type BodySighting, everyJoint } from './sighting';
import { GROWN, SEGMENTS } from './stature';
import { supposedUp } from './supposedUp';
import { HOLD } from './torso';
import { WRIST_AT_FROG } from './wristAtFrog';

const camera = cameraFromFieldOfView(960, 540);
const dimensions = dimensionsOf('violin', '4/4');
const model = instrumentModel(dimensions);
/** The phone looks down by 12 degrees. */
const up: Vec3 = [0, -Math.cos(12 * RADIANS), -Math.sin(12 * RADIANS)];
const forward = normalize(addScaled([0, 0, -1], up, dot([0, 0, 1], up)));
const left = cross(up, forward);
/** The violin's scroll points forward and to the player's left, its high-string side lies lower by 25 degrees. */
const pose = (() => {
  const [c, s] = [Math.cos(HOLD.heading * RADIANS), Math.sin(HOLD.heading * RADIANS)];
  const ahead = addScaled(scale(forward, c), left, s);
  const level = cross(up, ahead);
  return { rotation: fromAxes(ahead, addScaled(scale(level, Math.cos(25 * RADIANS)), up, Math.sin(25 * RADIANS))), translation: [60, -150, 1250] as Vec3 };
})();
const solution = solveMarks(camera, dimensions, [
  INSTRUMENT_LANDMARKS.flatMap((landmark) => {
    const point = project(camera, toOuter(pose, model.landmarks[landmark]));
    return point ? [{ landmark, point, sigma: 1 }] : [];
  }),
]);
const FRAMES = 60;
const tracked = Array.from({ length: FRAMES }, (_, index): TrackedFrame => ({ index, t: index / 25, pose, quality: 0.9, sighting: NO_BOW }));
const bows = tracked.map(({ t }): BowOnString => ({ string: 2, state: { contact: 28, skew: 0, inclination: -7, position: 0.4 - 0.25 * Math.cos(2.6 * t) } }));
const context = bowContextOf({ family: 'violin', dimensions, solution });

/** A grown player's right arm at that bow: the elbow where both bones reach, below. The trunk is turned by so many degrees to its left. */
function armAt(bow: BowOnString, turned = 0): ArmFrame {
  const { frog, axes, position } = bowInSpace(context, pose, bow);
  const wrist = axes.reduce((w, axis, i) => addScaled(w, axis, WRIST_AT_FROG.at[i]! + (i === 0 ? WRIST_AT_FROG.travel * (position - WRIST_AT_FROG.middle) : 0)), frog);
  const chest = addScaled(scale(forward, Math.cos(turned * RADIANS)), left, Math.sin(turned * RADIANS));
  const toLeft = cross(up, chest);
  const between = addScaled(addScaled(toOuter(pose, model.landmarks['instrument.endButton']), chest, -HOLD.at[0]), up, -HOLD.at[2]);
  const half = (SEGMENTS.shoulders.share * GROWN) / 2;
  const shoulder = addScaled(between, toLeft, -half);
  const [upper, fore] = [SEGMENTS.upperArm.share * GROWN, SEGMENTS.forearm.share * GROWN];
  const along = normalize(subtract(wrist, shoulder));
  const d = distance(wrist, shoulder);
  const a = (upper ** 2 - fore ** 2 + d ** 2) / (2 * d);
  const down = addScaled(scale(up, -1), toLeft, -0.4);
  const out = normalize(addScaled(down, along, -dot(down, along)));
  return { shoulder, elbow: addScaled(addScaled(shoulder, along, a), out, Math.sqrt(upper ** 2 - a ** 2)), wrist, otherShoulder: addScaled(between, toLeft, half) };
}

const arms = bows.map((bow) => armAt(bow));
/** What a network sees of them, every fifth frame, with the noise of one; `space` is its own guess of each joint. */
function seenOf(arms: readonly ArmFrame[], space = (_: BodyJoint, place: Vec3): Vec3 => place): BodySighting[] {
  const random = seededRandom(8);
  const about = ([x, y]: Vec2): Vec2 => [x + 2 * normal(random), y + 2 * normal(random)];
  return tracked
    .filter(({ index }) => index % 5 === 0)
    .map(({ index, t }): BodySighting => {
      const { shoulder, elbow, wrist, otherShoulder } = arms[index]!;
      const hips = addScaled(mix(shoulder, otherShoulder, 0.5), up, -SEGMENTS.trunk.share * GROWN);
      const places: Partial<Record<BodyJoint, Vec3>> = { 'shoulder.right': shoulder, 'elbow.right': elbow, 'wrist.right': wrist, 'shoulder.left': otherShoulder };
      return {
        frame: index,
        t,
        joints: everyJoint((joint) => ({ point: about(project(camera, places[joint] ?? hips)!), space: space(joint, places[joint] ?? hips), seen: 0.99 })),
      };
    });
}
const bodies = seenOf(arms);
const measured = (vertical: Zenith, played: readonly (BowOnString | undefined)[] = bows, seen = bodies) =>
  measureArm({ family: 'violin', dimensions, solution, vertical, tracked, bows: played, bodies: seen });

describe('measuring the bow arm', () => {
  const known = measured({ direction: up, sigmaDeg: 0.7 });
  const usual = supposedUp([pose]);
  const supposed = measured(usual);
  const doubt = (name: Quantity, { frames }: typeof known) => frames[30]![name]!.u;

  it('tells angle and rise within its doubt', () => {
    for (const i of [5, 30, 50]) {
      const { elbow_angle_deg: angle, elbow_rise_deg: rise } = known.frames[i]!;
      expect(Math.abs(angle!.value - elbowAngle(arms[i]!))).toBeLessThan(2 * angle!.u);
      expect(Math.abs(rise!.value - elbowRise(arms[i]!, up))).toBeLessThan(2 * rise!.u);
    }
  });

  it('tells them where nothing shows what is upright, too, with more doubt of what hangs on it', () => {
    expect(usual.sigmaDeg).toBeGreaterThan(4);
    expect(doubt('elbow_rise_deg', supposed)).toBeGreaterThan(doubt('elbow_rise_deg', known) + 2);
    expect(doubt('elbow_angle_deg', supposed)).toBeLessThan(1.2 * doubt('elbow_angle_deg', known));
    // Upper arm and bow are raised together when up is mistaken.
    expect(doubt('arm_bow_gap_deg', supposed) - doubt('arm_bow_gap_deg', known)).toBeLessThan(0.7 * (doubt('elbow_rise_deg', supposed) - doubt('elbow_rise_deg', known)));
    const { elbow_rise_deg: rise } = supposed.frames[30]!;
    expect(Math.abs(rise!.value - elbowRise(arms[30]!, up))).toBeLessThan(2 * rise!.u);
  });

  it('tells nothing of an arm that lifts the bow to the string or puts it down, and all of one whose bow is out of sight for a moment', () => {
    const played = bows.map((bow, i) => (i < 18 || i > 47 || (i > 28 && i < 32) ? undefined : bow));
    const { frames, arms: drawn } = measured({ direction: up, sigmaDeg: 0.7 }, played);
    const told = frames.flatMap((f, i) => (f.elbow_angle_deg ? [i] : []));
    expect([told[0], told.at(-1), told.length]).toEqual([18, 47, 30]);
    expect(drawn.map((a) => a.frame)).toEqual([20, 25, 30, 35, 40, 45]);
  });

  it.each([-14, 14])('tells the heading of an instrument held over a trunk turned by %i degrees nearer where the network sees the turn, flattened as it does', (turned) => {
    const arms = bows.map((bow) => armAt(bow, turned));
    /** The trunk's corners as turned by so many degrees, the left ones further away. */
    const asTurned = (degrees: number) => (joint: BodyJoint, place: Vec3) =>
      joint.endsWith('.left') ? addScaled(addScaled(place, [1, 0, 0], 300 * Math.cos(degrees * RADIANS)), [0, 0, 1], 300 * Math.sin(degrees * RADIANS)) : place;
    const off = (degrees: number) => {
      const { frames } = measured({ direction: up, sigmaDeg: 0.7 }, bows, seenOf(arms, asTurned(degrees)));
      return Math.abs(frames[30]!.instrument_heading_deg!.value - (HOLD.heading - turned));
    };
    expect(off(8.5 + 0.53 * turned)).toBeLessThan(off(120) - 2);
  });

  it('draws the same arm whichever way up is known', () => {
    expect(supposed.arms).toHaveLength(known.arms.length);
    const apart = supposed.arms.map((a, i) => distance(a.elbow, known.arms[i]!.elbow));
    expect(Math.max(...apart)).toBeLessThan(15);
  });
});

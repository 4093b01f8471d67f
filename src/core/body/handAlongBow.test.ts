import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bowInSpace } from '../bow/bowInSpace';
import type { BowOnString } from '../bow/bowState';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import type { Pose } from '../geometry/pose';
import { fromRotationVector } from '../geometry/rotation';
import { addScaled, type Vec2, type Vec3 } from '../geometry/vec3';
import { dimensionsOf } from '../instrument/dimensions';
import { instrumentModel } from '../instrument/landmarks';
import { bowContextFor, type TrackedFrame } from '../measures/measureFrames';
import type { FrameMeasures } from '../measures/measures';
import { endsByHand, type HandAlongBow } from './handAlongBow';
import { positionByHand } from './positionByHand';
import { BODY_JOINTS, type BodySighting } from './sighting';
import { WRIST_AT_FROG } from './wristAtFrog';

const dimensions = dimensionsOf('violin', '4/4');
const context = bowContextFor(cameraFromFieldOfView(1280, 720, 65), instrumentModel(dimensions), 'violin', dimensions);
const pose: Pose = { rotation: fromRotationVector([2.5, 0.4, 0.5]), translation: [-60, -60, 1700] };
const TORSO = 220;
const bowAt = (position: number): BowOnString => ({ state: { contact: 28, skew: 2, inclination: context.levels.natural[2]!, position }, string: 2 });

/** The wrist of a usual hold in the picture. */
function wristAt(position: number): Vec2 {
  const { frog, axes } = bowInSpace(context, pose, bowAt(position));
  const travel = WRIST_AT_FROG.travel * (position - WRIST_AT_FROG.middle);
  const p = project(
    context.camera,
    axes.reduce<Vec3>((w, axis, i) => addScaled(w, axis, WRIST_AT_FROG.at[i]! + (i === 0 ? travel : 0)), frog),
  )!;
  return [p[0], p[1]];
}

describe('where along the bow a hand is', () => {
  it('is found again wherever the bow was thought to be', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (true_, thought) => {
        const hand = positionByHand(context, pose, bowAt(thought), wristAt(true_), TORSO, 1)!;
        expect(hand.position).toBeCloseTo(true_, 2);
        expect(hand.aside).toBeLessThan(1);
        expect(hand.sigma).toBeGreaterThan(0.03);
      }),
      { numRuns: 60 },
    );
  });
  it('is not told where the bow points at the camera', () => {
    const toCamera: Pose = { rotation: fromRotationVector([2.2, 2.2, 0]), translation: [0, 0, 1700] };
    const { frog, tip } = bowInSpace(context, toCamera, bowAt(0.5));
    const [a, b] = [project(context.camera, frog)!, project(context.camera, tip)!];
    const length = Math.hypot(a[0] - b[0], a[1] - b[1]);
    expect(positionByHand(context, toCamera, bowAt(0.5), [640, 360], 10 * length, 1)).toBeUndefined();
  });
});

const FRAMES = 150;
const truth = (i: number) => 0.5 - 0.4 * Math.cos(i / 14);
const MISTAKEN = [60, 95] as const;

/** A film looked at every fifth picture. `measured` is the position the ends gave, `wrist` the position the network's wrist is at, `hand` that of a hand found. */
function take(measured: (i: number) => number, wrist: (i: number) => number | Vec2, hand: (i: number) => number | undefined = () => undefined): HandAlongBow {
  const frames = Array.from({ length: FRAMES }, (_, i): FrameMeasures => ({ frame: i, t: i / 25, values: { bow_position: { value: measured(i), u: 0.015 } } }));
  const end = (p: Vec2) => ({ point: p, sigma: 2 });
  const tracked = frames.map(({ frame, t }): TrackedFrame => {
    const line = { a: [0, 0] as Vec2, b: [1, 1] as Vec2, sigmaA: 1, sigmaB: 1, shareA: 0, shareB: 1 };
    return { index: frame, t, pose, quality: 1, sighting: { line, frog: end([1, 2]), tip: end([3, 4]), score: 1 } };
  });
  const bodies = frames
    .filter((f) => f.frame % 5 === 0)
    .map(({ frame, t }): BodySighting => {
      const at = wrist(frame);
      const point = typeof at === 'number' ? wristAt(at) : at;
      const joints = Object.fromEntries(
        BODY_JOINTS.map((j) => {
          const p: Vec2 = j === 'wrist.right' ? point : j.startsWith('hip') ? [600, 300 + TORSO] : [600, 300];
          return [j, { point: p, space: [0, 0, 0], seen: 1 }];
        }),
      ) as unknown as NonNullable<BodySighting['joints']>;
      const found = hand(frame);
      return { frame, t, joints, ...(found === undefined ? {} : { bowHand: [wristAt(found)] }) };
    });
  return { context, tracked, frames, bows: frames.map((f) => bowAt(measured(f.frame))), bodies, scale: 1 };
}
const stuck = (i: number) => (i >= MISTAKEN[0] && i <= MISTAKEN[1] ? truth(i) + 0.35 : truth(i));

describe("the bow's ends by the hand", () => {
  it('are left where they agree with it, though hands differ from each other', () => {
    expect(endsByHand(take(truth, (i) => truth(i) + 0.06))).toBeUndefined();
  });
  it('are taken from it where those seen were mistaken, near its true place and with its doubt', () => {
    const out = endsByHand(
      take(
        stuck,
        (i) => truth(i) + 0.04,
        (i) => (i % 20 === 0 ? truth(i) : undefined),
      ),
    )!;
    const changed = out.flatMap(({ sighting }, i) => (sighting.tip ? [] : [i]));
    expect(changed[0]).toBeGreaterThanOrEqual(MISTAKEN[0] - 3);
    expect(changed.at(-1)).toBeLessThanOrEqual(MISTAKEN[1] + 3);
    expect(changed.length).toBeGreaterThan(30);
    for (const i of changed.filter((c) => c % 5 === 0)) {
      const { frog } = out[i]!.sighting;
      const there = project(context.camera, bowInSpace(context, pose, bowAt(truth(i))).frog)!;
      expect(Math.hypot(frog!.point[0] - there[0], frog!.point[1] - there[1])).toBeLessThan(2 * frog!.sigma);
      expect(frog!.sigma).toBeGreaterThan(8);
    }
  });
  it('are taken from it where they were mistaken all along: no hand holds the middle of the bow', () => {
    const out = endsByHand(take((i) => truth(i) + 0.55, truth, truth))!;
    expect(out.every(({ sighting }) => !sighting.tip)).toBe(true);
    const there = project(context.camera, bowInSpace(context, pose, bowAt(truth(70))).frog)!;
    const { frog } = out[70]!.sighting;
    expect(Math.hypot(frog!.point[0] - there[0], frog!.point[1] - there[1])).toBeLessThan(2 * frog!.sigma);
  });
  it('are left about a frame in which they were marked by hand', () => {
    const mistaken = take(
      stuck,
      (i) => truth(i) + 0.04,
      (i) => (i % 20 === 0 ? truth(i) : undefined),
    );
    const out = endsByHand({ ...mistaken, placed: new Set([77]) })!;
    for (const i of [73, 75, 77]) expect(out[i]).toBe(mistaken.tracked[i]);
    expect(out[65]!.sighting.tip).toBeUndefined();
    expect(out[90]!.sighting.tip).toBeUndefined();
  });
  it('are left where the arm is lost: off the line, in one look alone, with a hand seen at the frog, or with none anywhere', () => {
    const away = (i: number) => i >= MISTAKEN[0] && i <= MISTAKEN[1];
    expect(endsByHand(take(truth, (i) => (away(i) ? [100, 700] : truth(i))))).toBeUndefined();
    expect(endsByHand(take(truth, (i) => (i === 70 ? truth(i) + 0.4 : truth(i))))).toBeUndefined();
    const lost = (i: number) => (away(i) ? truth(i) + 0.4 : truth(i));
    expect(endsByHand(take(truth, lost, truth))).toBeUndefined();
    expect(endsByHand(take(truth, lost))).toBeUndefined();
  });
  it('are left where the hand is seen far beyond them: an arm folded before the body, in network and picture alike', () => {
    const folded = (i: number) => (i >= MISTAKEN[0] && i <= MISTAKEN[1] ? -0.4 : truth(i));
    expect(endsByHand(take(truth, folded, folded))).toBeUndefined();
  });
  it('are helped by it where too little was seen of them', () => {
    const given = take(truth, truth);
    const blind = (f: FrameMeasures): FrameMeasures => (f.frame < 40 ? { ...f, values: {} } : f);
    const tracked = given.tracked.map((f) => (f.index < 40 ? { ...f, sighting: { ...f.sighting, frog: undefined } } : f));
    const out = endsByHand({ ...given, tracked, frames: given.frames.map(blind) })!;
    expect(out[20]!.sighting.frog).toBeDefined();
    expect(out[20]!.sighting.tip).toEqual(given.tracked[20]!.sighting.tip);
    expect(out[100]).toBe(given.tracked[100]);
  });
});

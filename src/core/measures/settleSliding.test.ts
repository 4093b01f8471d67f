import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { NO_BOW } from '../bow/sighting';
import { type Camera, project } from '../geometry/camera';
import { type Pose, stepPose, toOuter } from '../geometry/pose';
import { fromRotationVector, multiply } from '../geometry/rotation';
import { DEGREES, scale, subtract } from '../geometry/vec3';
import { dimensionsOf } from '../instrument/dimensions';
import { INSTRUMENT_LANDMARKS, instrumentModel } from '../instrument/landmarks';
import type { TrackedFrame } from './measureFrames';
import { settleSliding } from './settleSliding';

const camera: Camera = { width: 960, height: 540, focal: 800 };
const model = instrumentModel(dimensionsOf('violin', '4/4'));
/** A violin two and a half metres away, its plate seen from eight degrees above, turned about its own z axis by so many degrees. */
const turnedBy = (degrees: number): Pose => ({
  rotation: multiply(multiply(fromRotationVector([Math.PI - (82 * Math.PI) / 180, 0, 0]), fromRotationVector([0, 0, 0.3])), fromRotationVector([0, 0, degrees / DEGREES])),
  translation: [-60, 0, 2500],
});
/** Five seconds at 25 pictures a second, marked in the first. */
const film = (turn: (t: number) => number): TrackedFrame[] =>
  Array.from({ length: 125 }, (_, index) => ({ index, t: index / 25, pose: turnedBy(turn(index / 25)), quality: 0.95, sighting: NO_BOW }));
const steps = (frames: readonly TrackedFrame[], at: (frame: TrackedFrame) => readonly number[]) =>
  new Map(frames.filter((f, i) => i % 5 === 0 && f.pose).map((f) => [f.index, at(f)] as const));
const settled = (frames: readonly TrackedFrame[], at: (frame: TrackedFrame) => readonly number[]) => settleSliding(frames, steps(frames, at), [0], camera, model);

/** The step that moves an instrument so many millimetres along itself. */
function slidBy(pose: Pose, millimetres: number): number[] {
  const axis = subtract(toOuter(pose, [1, 0, 0]), toOuter(pose, [0, 0, 0]));
  return [0, 0, 0, ...scale(axis, millimetres)];
}
/** How far two poses have the landmarks apart in the picture (root mean square), px. */
const moved = (a: Pose, b: Pose): number =>
  Math.sqrt(
    INSTRUMENT_LANDMARKS.reduce((sum, l) => {
      const [p, q] = [a, b].map((pose) => project(camera, toOuter(pose, model.landmarks[l]))!);
      return sum + (p![0] - q![0]) ** 2 + (p![1] - q![1]) ** 2;
    }, 0) / INSTRUMENT_LANDMARKS.length,
  );
/** A turn about the axis across the picture: the ends of the instrument come nearer each other in it. */
const tilted = (radians: number) => [0, radians, 0, 0, 0, 0];

describe('poses of an instrument that slides along itself', () => {
  /** Share of what is seen in the second half of a film that is believed there, away from the mark; before it the steps are none. */
  const believed = (frames: readonly TrackedFrame[], step: (frame: TrackedFrame) => readonly number[], besides: (t: number) => number = () => 0) => {
    const out = settled(frames, (f) => (f.t < 2.5 ? [0, 0, 0, 0, 0, 0] : step(f)).map((v, k) => (k === 1 ? v + besides(f.t) : v)));
    const frame = frames[95]!;
    return moved(out[95]!.pose!, frame.pose!) / moved(stepPose(frame.pose!, step(frame)), frame.pose!);
  };
  const sliding = (f: TrackedFrame) => slidBy(f.pose!, 6);
  const tilting = () => tilted(0.01);

  it('are moved along it the more the further it has turned since its mark', () => {
    const shares = [0, 4, 8, 16, 32].map((turn) =>
      believed(
        film((t) => (t < 2.5 ? 0 : turn)),
        sliding,
      ),
    );
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(shares[0]).toBeLessThan(0.6);
    expect(shares[4]).toBeGreaterThan(0.8);
    expect(shares[4]).toBeLessThan(1);
  });
  it('keep to their course in other ways while points and course lie no further apart than points err, and leave it when they do', () => {
    const frames = film((t) => (t < 2.5 ? 0 : 8));
    expect(believed(frames, tilting)).toBeLessThan(0.4);
    expect(believed(frames, sliding)).toBeGreaterThan(0.5);
    // In every other look of a part of the film they lie apart by far more, to either side.
    expect(believed(frames, tilting, (t) => (t > 0.9 && t < 2.5 ? 0.4 * (-1) ** Math.round(5 * t) : 0))).toBeGreaterThan(0.7);
  });
  it('stay in the marked frame and hardly move near it, whatever one look says there', () => {
    const frames = film(() => 0);
    const out = settled(frames, (f) => slidBy(f.pose!, f.t === 0 ? 10 : 0));
    expect(moved(out[0]!.pose!, frames[0]!.pose!)).toBeLessThan(1e-6);
    for (const i of [1, 2]) expect(moved(out[i]!.pose!, frames[i]!.pose!)).toBeLessThan(0.5);
  });
  it('take off what points always err by', () => {
    const frames = film((t) => 6 * Math.sin(t));
    const varying = (f: TrackedFrame) => slidBy(f.pose!, 8 * Math.sin(2 * f.t));
    const plain = settled(frames, varying);
    fc.assert(
      fc.property(fc.double({ min: -0.01, max: 0.01, noNaN: true }), fc.double({ min: -8, max: 8, noNaN: true }), (turn, shift) => {
        const out = settled(frames, (f) => varying(f).map((v, k) => v + (k === 1 ? turn : k === 3 ? shift : 0)));
        out.forEach((frame, i) => {
          expect(moved(frame.pose!, plain[i]!.pose!)).toBeLessThan(1e-3);
        });
      }),
      { numRuns: 20 },
    );
  });
  it('are moved alike in a film of more pixels', () => {
    const twice: Camera = { width: 1920, height: 1080, focal: 1600 };
    const frames = film((t) => (t < 1 ? 0 : 8));
    const at = steps(frames, (f) => slidBy(f.pose!, f.t < 1 ? 0 : 10).map((v, k) => v + (k === 1 && f.t > 2 ? 0.01 : 0)));
    const [small, large] = [camera, twice].map((c) => settleSliding(frames, at, [0], c, model));
    small!.forEach((frame, i) => {
      expect(moved(frame.pose!, large![i]!.pose!)).toBeLessThan(1e-6);
    });
  });
  it('stay where no mark tells what the points say of this instrument, where nothing was seen near, and where it was lost', () => {
    const frames = film(() => 0);
    expect(
      settleSliding(
        frames,
        steps(frames, (f) => slidBy(f.pose!, 5)),
        [],
        camera,
        model,
      ),
    ).toEqual(frames);
    expect(settleSliding(frames, new Map(), [0], camera, model)).toEqual(frames);
    const early = settleSliding(frames, new Map([[0, [0, 0, 0, 0, 0, 0]]]), [0], camera, model);
    expect(early[124]).toBe(frames[124]);
    const lost = frames.map((f, i) => (i > 60 ? { ...f, pose: undefined } : f));
    expect(settled(lost, (f) => slidBy(f.pose!, 5))[100]).toBe(lost[100]);
  });
});

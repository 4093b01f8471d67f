import { beforeAll, describe, expect, it } from 'vitest';
import { scenarioOf } from '../../../../synth/presets/presets';
import { measureSighted } from '../../../../synth/truth/sighted';
import { everyJoint } from '../../../core/body/sighting';
import { distance } from '../../../core/geometry/vec3';
import { measureBodies, type TakeMeasures } from '../../../core/take/analyse';
import { type Face, facesAt } from '../../evidence/face';
import { armSceneOf } from './armScene';
import { calmed, closeCourses } from './closeView';
import { whyNoArm, whyUpDoubtful } from './frameWords';
import { bendOf, handSceneOf, handSquares } from './handScene';
import { overlayOf } from './overlay';
import { stanceSceneOf } from './stanceScene';

let take: TakeMeasures;
let middle: number;
beforeAll(() => {
  take = measureSighted(scenarioOf('straight', 5)).take;
  const { first, last } = take.strokes[1]!;
  middle = Math.round((first + last) / 2);
});
const stroke = () => take.strokes[1]!;

describe('a film in which nothing shows what is upright', () => {
  it('has its arm and its body drawn all the same, and says what it tells less surely', () => {
    const supposed = measureBodies({ ...take, vertical: undefined }, take.bodies!);
    const [known, drawn] = [take, supposed].map((t) => armSceneOf(t, middle, stroke())!);
    expect(distance(drawn!.shoulder, drawn!.elbow)).toBeCloseTo(distance(known!.shoulder, known!.elbow), -2);
    expect(drawn!.elbow[2]).toBeLessThan(drawn!.shoulder[2]);
    expect(stanceSceneOf(supposed, middle)).toBeDefined();
    expect(supposed.frames[middle]!.values.elbow_angle_deg).toBeDefined();
    expect(whyNoArm(supposed)).toBeUndefined();
    expect(whyUpDoubtful(supposed)).toMatch(/Mark a plumb line/);
    expect(whyUpDoubtful({ ...supposed, plumb: { a: [10, 10], b: [10, 200] } })).toMatch(/Film with a door/);
    expect(whyUpDoubtful(take)).toBeUndefined();
  });
});

describe('the arm plate', () => {
  it('shows the arm on the right of the player, the elbow where its angle was measured, and where it came from', () => {
    const scene = armSceneOf(take, middle, stroke())!;
    expect(scene.shoulder[0]).toBeLessThan(0);
    expect(scene.otherShoulder[0]).toBeGreaterThan(0);
    expect(scene.elbow[2]).toBeLessThan(scene.shoulder[2]);
    const [u, f] = [distance(scene.shoulder, scene.elbow), distance(scene.elbow, scene.wrist)];
    const angle = (Math.acos((u ** 2 + f ** 2 - distance(scene.shoulder, scene.wrist) ** 2) / (2 * u * f)) * 180) / Math.PI;
    expect(Math.abs(angle - take.frames[middle]!.values.elbow_angle_deg!.value)).toBeLessThan(1);
    expect(scene.earlier.length).toBeGreaterThan(0);
    expect(scene.way!.length).toBeGreaterThan(4);
    // The bridge lies before the player, the square way through the same contact.
    expect(scene.instrument!.bridge[0]![1]).toBeGreaterThan(0);
    expect(distance(scene.square![0], scene.bow!.contact)).toBeLessThan(1);
  });
  it('says nothing without a vertical, or far from any look', () => {
    expect(armSceneOf({ ...take, vertical: undefined }, middle, stroke())).toBeUndefined();
    expect(armSceneOf({ ...take, arms: [] }, middle, stroke())).toBeUndefined();
  });
  it('draws the arm alone where the instrument was lost', () => {
    const lost = { ...take, tracked: take.tracked.map((f) => ({ ...f, pose: undefined })) };
    const scene = armSceneOf(lost, middle, stroke())!;
    expect(scene.instrument).toBeUndefined();
    expect(scene.bow).toBeUndefined();
  });
});

describe('the stance plate', () => {
  it('stands the player upright on the ground, ahead away from the looker', () => {
    const scene = stanceSceneOf(take, middle)!;
    const { joints } = scene;
    expect(joints['shoulder.left'][2]).toBeGreaterThan(joints['hip.left'][2]);
    expect(joints['hip.left'][2]).toBeGreaterThan(joints['knee.left'][2]);
    expect(joints['shoulder.left'][0]).toBeGreaterThan(joints['shoulder.right'][0]);
    // The instrument points ahead and to the left.
    const [from, to] = scene.instrument!.neck;
    expect(to[1] - from[1]).toBeGreaterThan(0);
    expect(to[0] - from[0]).toBeGreaterThan(0);
    expect(stanceSceneOf({ ...take, stances: [] }, middle)).toBeUndefined();
  });
  it.each(['quarter-size', 'cello'])('draws the instrument of a player (%s) as large as it is, beside an ear tied to the pegs of a cello', (preset) => {
    const { take: other } = measureSighted(scenarioOf(preset, 2));
    const index = other.frames.findIndex((f, i) => i > 20 && other.tracked[i]!.pose && (preset !== 'cello' || f.values.peg_ear_mm));
    const { instrument, peg, joints } = stanceSceneOf(other, index)!;
    const long = Math.max(...instrument!.outline.flatMap((p) => instrument!.outline.map((q) => distance(p, q))));
    expect(Math.abs(long / other.dimensions.body - 1)).toBeLessThan(0.05);
    // Told of a short while, drawn where the cello is in this picture.
    const told = other.frames[index]!.values.peg_ear_mm?.value;
    expect(told !== undefined).toBe(preset === 'cello');
    expect(peg && Math.abs(distance(peg, joints['ear.left']) - told!) < 5).toBe(preset === 'cello' || undefined);
  });
});

describe('the film pane', () => {
  it('lays bow and contact over the film where they were seen, and the square way through the same contact', () => {
    const overlay = overlayOf(take, middle)!;
    const { a, b } = take.tracked[middle]!.sighting.line!;
    const n = Math.hypot(b[0] - a[0], b[1] - a[1]);
    for (const p of [overlay.frog, overlay.tip]) expect(Math.abs((p[0] - a[0]) * (b[1] - a[1]) - (p[1] - a[1]) * (b[0] - a[0])) / n).toBeLessThan(4);
    const { width } = take.solution.camera;
    const mirrored = overlayOf({ ...take, mirrored: true }, middle)!;
    expect(mirrored.contact[0]).toBeCloseTo(width - overlay.contact[0], 6);
    expect(overlayOf({ ...take, frames: take.frames.map((f) => ({ ...f, values: {} })) }, middle)).toBeUndefined();
  });
  it('looks at bridge and hand from closer by', () => {
    const { bridge, hand } = closeCourses(take);
    const { contact, frog } = overlayOf(take, middle)!;
    expect(Math.hypot(bridge[middle]!.middle[0] - contact[0], bridge[middle]!.middle[1] - contact[1])).toBeLessThan(80);
    expect(hand[middle]!.factor).toBeGreaterThanOrEqual(bridge[middle]!.factor);
    // Calmed over a second, the hand is somewhere along its stroke.
    expect(Math.hypot(hand[middle]!.middle[0] - frog[0], hand[middle]!.middle[1] - frog[1])).toBeLessThan(400);
  });
  it('is calmed by means over a second; what was not seen takes what is about it', () => {
    const times = Array.from({ length: 9 }, (_, i) => i * 0.25);
    const points = times.map((_, i) => (i === 4 ? undefined : ([i, 10] as const)));
    const out = calmed(points, times);
    expect(out[0]).toEqual([1, 10]);
    expect(out[4]).toEqual([4, 10]);
    expect(calmed([undefined, undefined], [0, 1])).toEqual([undefined, undefined]);
  });
  const inside = (face: Face, p: readonly [number, number]) => ((p[0] - face.x) / face.rx) ** 2 + ((p[1] - face.y) / face.ry) ** 2 < 1;
  it('covers the face above the shoulders', () => {
    const [face, ...others] = facesAt(take, middle)!;
    const joints = take.bodies!.reduce((best, b) => (Math.abs(b.frame - middle) < Math.abs(best.frame - middle) ? b : best)).joints!;
    expect(inside(face!, joints.nose.point)).toBe(true);
    expect(inside(face!, joints['shoulder.left'].point)).toBe(false);
    expect(others).toEqual([]);
    expect(facesAt({ ...take, bodies: [] }, middle)).toBeUndefined();
  });
  it('covers bystanders too, also in pictures between those in which they were seen, and in a mirrored film', () => {
    const seen = take.bodies!.find((b) => b.joints && Math.abs(b.frame - middle) > 2)!;
    const aside = everyJoint((name) => ({ ...seen.joints![name], point: [seen.joints![name].point[0] + 300, seen.joints![name].point[1]] }));
    const two = { ...take, bodies: take.bodies!.map((b) => (b === seen ? { ...b, others: [aside] } : b)) };
    const index = take.frames.findIndex((f) => Math.abs(f.t - seen.t - 0.5) < 0.05);
    const faces = facesAt(two, index)!;
    expect(faces).toHaveLength(2);
    expect(inside(faces[1]!, aside.nose.point)).toBe(true);
    const [width, nose] = [take.solution.camera.width, aside.nose.point];
    expect(inside(facesAt({ ...two, mirrored: true }, index)![1]!, [width - nose[0], nose[1]])).toBe(true);
    // Long before and after, nobody is there.
    expect(
      facesAt(
        two,
        take.frames.findIndex((f) => f.t > seen.t + 1.5),
      ),
    ).toHaveLength(1);
  });
});

describe('the hand plate', () => {
  it('shows the hand about the frog at frog, middle and tip, and fingers where they were told', () => {
    const squares = handSquares(take, stroke());
    expect(squares.map((s) => s.place)).toEqual(['frog', 'middle', 'tip']);
    for (const { index, x, y, side } of squares) {
      const { frog } = overlayOf(take, index)!;
      expect(frog[0]).toBeGreaterThan(x);
      expect(frog[0]).toBeLessThan(x + side);
      expect(frog[1]).toBeGreaterThan(y);
      expect(frog[1]).toBeLessThan(y + side);
    }
    expect(handSceneOf({ ...take, hands: [] }, middle)).toBeUndefined();
    const close = measureSighted(scenarioOf('hand-front', 34)).take;
    const at = close.frames.findIndex((f) => bendOf(f, 'index') !== undefined);
    const scene = handSceneOf(close, at)!;
    expect(scene.told.has('index')).toBe(true);
    expect(scene.told.has('little')).toBe(false);
    expect(scene.points).toHaveLength(21);
  });
});

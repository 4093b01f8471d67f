import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { add, cross, normalize, scale, subtract, type Vec2, type Vec3 } from '../geometry/vec3';
import { normal, seededRandom } from '../random';
import { median } from '../statistics';
import { fitHand, type HandEvidence } from './fitHand';
import { FINGERS, fingerBends, palmAxes, thumbBends } from './hand';
import { handPoints } from './handModel';
import { deeper, handMiddle } from './handView';
import { handOfHold } from './playedHand';

const camera = cameraFromFieldOfView(960, 540);
/** A close-up from the front: the bow runs across the picture, its top tilted toward the camera. */
const along = normalize([0.95, -0.1, 0.25] as Vec3);
const out = normalize(cross(along, normalize([0.1, 0.8, 0.55] as Vec3)));
const axes: [Vec3, Vec3, Vec3] = [along, cross(out, along), out];

function frames(
  n: number,
  numbers: readonly number[],
  noisePx: number,
  seed: number,
  options: { seen?: boolean; held?: boolean; marks?: readonly number[] } = {},
): { evidence: HandEvidence[]; truth: Vec3[][] } {
  const random = seededRandom(seed);
  const truth: Vec3[][] = [];
  const evidence = Array.from({ length: n }, (_, i): HandEvidence => {
    const frog: Vec3 = [-60 + 8 * i, 20, 520];
    const points = handPoints(numbers, 1).map((p) => axes.reduce<Vec3>((sum, axis, k) => add(sum, scale(axis, p[k]!)), frog));
    truth.push(points);
    const image = points.map((p): Vec2 => {
      const [u, v] = project(camera, p)!;
      return [u + noisePx * normal(random), v + noisePx * normal(random)];
    });
    const marked = i === 1 && options.marks ? new Map(options.marks.map((m) => [m, project(camera, points[m]!)!] as const)) : undefined;
    const middle = handMiddle(frog, axes, 1);
    const held = options.held ? image.map((point, k) => ({ point, sigma: 1, deeper: deeper(points[k]!, middle) + 4 * normal(random) })) : undefined;
    return { t: 0.2 * i, frog, axes, position: 0.3, held, seen: options.seen === false ? undefined : image, marked };
  });
  return { evidence, truth };
}

const fitted = (evidence: readonly HandEvidence[]) => fitHand({ camera, frames: evidence, size: 1, bowScale: 1 })!;

describe('the hand model', () => {
  it('has the bends it was given, by the definitions of the measures', () => {
    const points = handPoints(handOfHold(60, 25), 1);
    FINGERS.forEach((finger, f) => {
      const { pip, dip } = fingerBends(points, finger, 1);
      expect(pip).toBeCloseTo(f === 3 ? 60 : 50 + 5 * f, 4);
      expect(dip).toBeCloseTo(0.6 * (f === 3 ? 60 : 50 + 5 * f) + 3, 4);
    });
    expect(thumbBends(points, 1).ip).toBeCloseTo(25, 0);
    expect(palmAxes(points).width).toBeGreaterThan(50);
  });
});

describe('the bow hand in space', () => {
  it('gives the middle joints of the fingers in a close-up to a few degrees', () => {
    for (const seed of [1, 2]) {
      const { evidence, truth } = frames(7, handOfHold(65, 30), 3, seed);
      const found = fitted(evidence);
      for (const finger of ['index', 'middle', 'ring'] as const) {
        const off = truth.map((p, i) => Math.abs(fingerBends(found.frames[i]!, finger, 1).pip - fingerBends(p, finger, 1).pip));
        expect(median(off)).toBeLessThan(10);
      }
    }
  });
  it('is surer of a finger that was placed by hand, and unsure where nothing was seen', () => {
    const pip = (p: readonly Vec3[]) => fingerBends(p, 'little', 1).pip;
    const blind = fitted(frames(6, handOfHold(65, 30), 3, 3, { seen: false, marks: [0, 5, 9] }).evidence).sigmaOf(1, pip);
    const seen = fitted(frames(6, handOfHold(65, 30), 3, 3).evidence).sigmaOf(1, pip);
    const marked = fitted(frames(6, handOfHold(65, 30), 3, 3, { marks: [17, 18, 19, 20] }).evidence).sigmaOf(1, pip);
    expect(blind).toBeGreaterThan(26);
    expect(seen).toBeLessThan(blind);
    expect(marked).toBeLessThan(seen);
  });
  it('tells a straight little finger from a round one where it was placed', () => {
    const marks = [0, 9, 17, 18, 19, 20];
    const at = (little: number) => fingerBends(fitted(frames(5, handOfHold(little, 30), 2, 4, { marks }).evidence).frames[1]!, 'little', 1).pip;
    expect(at(70) - at(8)).toBeGreaterThan(35);
  });
  it('tells a straight little finger from a round one, and the thumb, by the joints of our own network and their depths', () => {
    const at = (little: number, thumb: number) => fitted(frames(6, handOfHold(little, thumb), 2, 8, { seen: false, held: true }).evidence).frames[2]!;
    const [round, straight] = [at(70, 40), at(8, 0)];
    expect(Math.abs(fingerBends(round, 'little', 1).pip - 70)).toBeLessThan(14);
    expect(Math.abs(fingerBends(straight, 'little', 1).pip - 8)).toBeLessThan(14);
    expect(thumbBends(round, 1).ip - thumbBends(straight, 1).ip).toBeGreaterThan(22);
  });
  it('bends the fingers as they are where our own network has the whole hand deeper than it is', () => {
    const { evidence, truth } = frames(6, handOfHold(65, 30), 2, 12, { seen: false, held: true });
    const off = (by: number) => {
      const found = fitted(evidence.map((e) => ({ ...e, held: e.held!.map((joint) => ({ ...joint, deeper: joint.deeper + by })) }))).frames;
      return FINGERS.map((finger) => median(truth.map((p, i) => fingerBends(found[i]!, finger, 1).pip - fingerBends(p, finger, 1).pip)));
    };
    const [right, further, nearer] = [off(0), off(25), off(-25)];
    for (const f of FINGERS.keys()) for (const wrong of [further, nearer]) expect(Math.abs(wrong[f]! - right[f]!), FINGERS[f]).toBeLessThan(3);
  });
  it('is not drawn along by one joint that our own network takes for another', () => {
    const { evidence, truth } = frames(6, handOfHold(65, 30), 2, 9, { seen: false, held: true });
    const misled = evidence.map((e) => ({ ...e, held: e.held!.map((joint, k) => (k === 10 ? { ...joint, point: [joint.point[0] + 60, joint.point[1] - 40] as Vec2 } : joint)) }));
    const [plain, spoilt] = [evidence, misled].map((e) => fitted(e).frames);
    const off = (hands: typeof plain, k: number) => median(truth.map((p, i) => Math.hypot(...subtract(hands![i]![k]!, p[k]!))));
    expect(off(spoilt, 14)).toBeLessThan(off(plain, 14) + 2);
    expect(off(spoilt, 10)).toBeLessThan(15);
  });
  it('follows a finger that was placed once, not what a network takes for it everywhere', () => {
    const straight = frames(6, handOfHold(8, 30), 2, 6, { marks: [17, 18, 19, 20] });
    const round = frames(6, handOfHold(70, 30), 2, 6);
    const evidence = straight.evidence.map((e, i) => ({ ...e, seen: e.seen!.map((p, k) => (k >= 18 ? round.evidence[i]!.seen![k]! : p)) }));
    const pips = fitted(evidence).frames.map((p) => fingerBends(p, 'little', 1).pip);
    expect(Math.max(...pips)).toBeLessThan(30);
  });
  it('follows our own network beyond the frame that was placed where both have the finger alike, and not where they differ', () => {
    const marks = [17, 18, 19, 20];
    const straight = frames(6, handOfHold(8, 30), 2, 10, { seen: false, held: true, marks });
    const round = frames(6, handOfHold(70, 30), 2, 10, { seen: false, held: true });
    const pipsOf = (evidence: readonly HandEvidence[]) => fitted(evidence).frames.map((p) => fingerBends(p, 'little', 1).pip);
    // Straight where it was placed, as the network saw it too, and round later on.
    const changing = straight.evidence.map((e, i) => (i >= 2 ? { ...e, held: round.evidence[i]!.held } : e));
    const pips = pipsOf(changing);
    expect(pips[5]! - pips[1]!).toBeGreaterThan(20);
    const mistaken = straight.evidence.map((e, i) => ({ ...e, held: round.evidence[i]!.held }));
    expect(Math.max(...pipsOf(mistaken))).toBeLessThan(30);
  });
  it('is absent when the hand is a speck or not seen at all', () => {
    const { evidence } = frames(4, handOfHold(65, 30), 1, 5);
    const far = evidence.map((e) => ({ ...e, seen: e.seen!.map(([u, v]): Vec2 => [480 + (u - 480) / 9, 270 + (v - 270) / 9]) }));
    expect(fitHand({ camera, frames: far, size: 1, bowScale: 1 })).toBeUndefined();
    expect(fitHand({ camera, frames: evidence.map((e) => ({ ...e, seen: undefined })), size: 1, bowScale: 1 })).toBeUndefined();
  });
});

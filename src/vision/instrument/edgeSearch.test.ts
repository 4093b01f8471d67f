import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../../core/geometry/camera';
import { type Pose, stepPose, toOuter } from '../../core/geometry/pose';
import { fromRotationVector } from '../../core/geometry/rotation';
import type { Vec2 } from '../../core/geometry/vec3';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { type EdgeSighting, edgePoint, edgeSpan, INSTRUMENT_EDGES, isStringEdge } from '../../core/instrument/edges';
import { instrumentModel } from '../../core/instrument/landmarks';
import { normal, seededRandom } from '../../core/random';
import type { Frame } from '../film/frame';
import { findEdges } from './edgeSearch';

const [width, height] = [960, 540];
const camera = cameraFromFieldOfView(width, height);
const model = instrumentModel(dimensionsOf('violin', '4/4'));
const poseAt = (away: number, roll = 0): Pose => ({ rotation: fromRotationVector([2.6, 0.3, 0.4 + roll]), translation: [-60, 0, away] });

const placeOf = (pose: Pose, edge: (typeof INSTRUMENT_EDGES)[number], x: number): Vec2 => project(camera, toOuter(pose, edgePoint(model, edge, x)))!;

/** Fingerboard and strings of a violin on pale wood, a little noise; `paint` false leaves only the wood. */
function picture(pose: Pose, seed: number, paint = true): Frame {
  const random = seededRandom(seed);
  const lines = INSTRUMENT_EDGES.map((edge) => {
    const [from] = edgeSpan(model, edge);
    return { edge, a: placeOf(pose, edge, from - (isStringEdge(edge) ? 12 : 0)), b: placeOf(pose, edge, 300) };
  });
  /** How far to the left of a line's direction a place lies, px, and how far along, as a share. */
  const from = ({ a, b }: { a: Vec2; b: Vec2 }, x: number, y: number) => {
    const n = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const [ux, uy] = [(b[0] - a[0]) / n, (b[1] - a[1]) / n];
    return { off: -(x - a[0]) * uy + (y - a[1]) * ux, along: ((x - a[0]) * ux + (y - a[1]) * uy) / n };
  };
  const low = lines.find((l) => l.edge === 'fingerboard.low')!;
  const high = lines.find((l) => l.edge === 'fingerboard.high')!;
  const ramp = (off: number) => Math.max(0, Math.min(1, off + 0.5));
  const luma = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let v = 150;
      if (paint) {
        const [l, h] = [from(low, x + 0.5, y + 0.5), from(high, x + 0.5, y + 0.5)];
        const sign = Math.sign(from(low, ...high.a).off);
        const board = ramp(sign * l.off) * ramp(-sign * h.off) * (l.along > 0 && l.along < 1 ? 1 : 0);
        v += (40 - v) * board;
        for (const line of lines.filter((e) => isStringEdge(e.edge))) {
          const { off, along } = from(line, x + 0.5, y + 0.5);
          if (along > 0 && along < 1) v += (225 - v) * Math.exp(-0.5 * (off / 0.7) ** 2);
        }
      }
      luma[y * width + x] = Math.max(0, Math.min(255, v + 3 * normal(random)));
    }
  }
  return { index: 0, t: 0, width, height, luma };
}

/** Worst sideways distance, px, of a sighting's two places from where the edge truly is. */
function off(sighting: EdgeSighting, truth: Pose): number {
  const [p, q] = [placeOf(truth, sighting.edge, sighting.from), placeOf(truth, sighting.edge, sighting.to)];
  const n = Math.hypot(q[0] - p[0], q[1] - p[1]);
  return Math.max(...[sighting.a, sighting.b].map((s) => Math.abs((s[0] - p[0]) * (q[1] - p[1]) - (s[1] - p[1]) * (q[0] - p[0])) / n));
}

describe('strings and edges of the fingerboard near where the marks put them', () => {
  it('are found to a fraction of a pixel from marks that are a pixel or two off', () => {
    const strings: number[] = [];
    for (const seed of [1, 2, 3, 4]) {
      const random = seededRandom(40 + seed);
      const truth = poseAt(650, 0.1 * seed);
      const marked = stepPose(truth, [0.003 * normal(random), 0.003 * normal(random), 0.004 * normal(random), 0.8 * normal(random), 0.8 * normal(random), 3 * normal(random)]);
      const found = findEdges(picture(truth, seed), camera, model, marked, undefined);
      strings.push(found.filter((f) => isStringEdge(f.edge)).length);
      expect(found.some((f) => !isStringEdge(f.edge))).toBe(true);
      for (const sighting of found) {
        expect(off(sighting, truth)).toBeLessThan(0.6);
        expect(off(sighting, truth)).toBeLessThan(2.5 * Math.max(sighting.sigmaA, sighting.sigmaB));
      }
    }
    // One that does not stand out enough may be left out.
    expect(Math.min(...strings)).toBeGreaterThanOrEqual(2);
    expect(strings.reduce((a, b) => a + b)).toBeGreaterThanOrEqual(12);
  });

  it('are looked for beside the bow, not on it', () => {
    const truth = poseAt(650);
    const middle = placeOf(truth, 'string.1', 40);
    const bow = { frog: [middle[0] - 150, middle[1] + 200] as Vec2, tip: [middle[0] + 150, middle[1] - 200] as Vec2 };
    const luma = picture(truth, 5).luma;
    // The hair itself, bright enough to draw any edge to it.
    for (let s = 0; s <= 1; s += 0.0005) {
      const [x, y] = [bow.frog[0] + s * (bow.tip[0] - bow.frog[0]), bow.frog[1] + s * (bow.tip[1] - bow.frog[1])];
      for (let d = -3; d <= 3; d++) luma[Math.round(y) * width + Math.round(x) + d] = 255;
    }
    const frame = { index: 0, t: 0, width, height, luma };
    const found = findEdges(frame, camera, model, truth, bow);
    expect(found.length).toBeGreaterThanOrEqual(2);
    for (const sighting of found) expect(off(sighting, truth)).toBeLessThan(0.6);
  });

  it('are not made up: none on bare wood, none where the strings are too near each other to be told apart', () => {
    expect(findEdges(picture(poseAt(650), 6, false), camera, model, poseAt(650), undefined)).toEqual([]);
    expect(findEdges(picture(poseAt(2600), 7), camera, model, poseAt(2600), undefined)).toEqual([]);
  });
});

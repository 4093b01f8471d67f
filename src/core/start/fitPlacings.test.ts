import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, stepPose, toOuter } from '../geometry/pose';
import { fromRotationVector, multiply, rotationDistance } from '../geometry/rotation';
import { DEGREES, type Vec2 } from '../geometry/vec3';
import { contourDirection, contourPlace, contourStations } from '../instrument/contours';
import { dimensionsOf } from '../instrument/dimensions';
import { INSTRUMENT_LANDMARKS, instrumentModel, SHAPE } from '../instrument/landmarks';
import { normal, seededRandom } from '../random';
import { fitPlacings } from './fitPlacings';
import { type Ballot, voteStep } from './voteStep';

const camera = cameraFromFieldOfView(960, 540);
const dimensions = dimensionsOf('violin', '4/4');
const truePose: Pose = { rotation: multiply(fromRotationVector([0, 0, 0.6]), fromRotationVector([Math.PI - 0.8, 0, 0])), translation: [-40, 20, 1100] };

/** What is seen of a violin 2 mm wider than usual, its points all off to one side and each a little more. */
function seen(pose: Pose, seed: number, common: Vec2) {
  const random = seededRandom(seed);
  const model = instrumentModel(
    dimensions,
    Float64Array.from(SHAPE, (s) => (s.name === 'body width' ? 0.8 : 0)),
  );
  const at = (p: readonly [number, number, number]) => project(camera, toOuter(pose, p))!;
  const points = INSTRUMENT_LANDMARKS.map((landmark) => {
    const [u, v] = at(model.landmarks[landmark]);
    return { landmark, point: [u + common[0] + 1.5 * normal(random), v + common[1] + 1.5 * normal(random)] as Vec2, sigma: 2 };
  });
  const edges = contourStations()
    .filter((s) => !s.contour.startsWith('back'))
    .map((station) => {
      const place = contourPlace(model, station);
      const [u, v] = at(place);
      const d = contourDirection(model, station);
      const [x, y] = at([place[0] + 0.1 * d[0], place[1] + 0.1 * d[1], place[2] + 0.1 * d[2]]);
      const n = Math.hypot(x - u, y - v);
      const across: Vec2 = [-(y - v) / n, (x - u) / n];
      // One edge in six is another's, some pixels away.
      const off = random() < 0.16 ? 4 * (random() - 0.5) + 3 : 0.3 * normal(random);
      return { station, place: [u + off * across[0], v + off * across[1]] as const, across, sigma: 0.7 };
    });
  return {
    points,
    edges,
    worst: (solved: Pose, model2 = model, c = camera) =>
      Math.max(
        ...INSTRUMENT_LANDMARKS.map((l) => {
          const [u, v] = project(c, toOuter(solved, model2.landmarks[l]))!;
          const [x, y] = at(model.landmarks[l]);
          return Math.hypot(u - x, v - y);
        }),
      ),
  };
}

const usual = { shape: new Float64Array(SHAPE.length), logFocal: 0 };

describe('placing an instrument on its edges', () => {
  it.each([1, 2, 3])('undoes what a network errs by to one side (%i)', (seed) => {
    const { points, edges, worst } = seen(truePose, seed, [4, -2]);
    const near = stepPose(truePose, [0.02, -0.01, 0.015, 4, -3, 8]);
    const byPoints = fitPlacings(camera, dimensions, [{ pose: near, points, edges: [] }], usual, 3);
    const both = fitPlacings(camera, dimensions, [{ pose: near, points, edges }], usual, 3);
    expect(worst(both.poses[0]!, both.model, both.camera)).toBeLessThan(3.2);
    expect(worst(both.poses[0]!, both.model, both.camera)).toBeLessThan(0.7 * worst(byPoints.poses[0]!, byPoints.model, byPoints.camera));
  });

  it('is hardly led astray by points that the network sees elsewhere in every frame', () => {
    const astray = ['instrument.lowerCorner.low', 'instrument.endButton', 'instrument.tailpieceEnd', 'instrument.upperCorner.low'];
    const poses = [truePose, stepPose(truePose, [0.1, 0.05, -0.08, 20, 5, 0]), stepPose(truePose, [-0.1, 0.12, 0.03, -30, 10, 40])];
    const worstWith = (off: number) => {
      const frames = poses.map((pose, i) => {
        const film = seen(pose, 30 + i, [0, 0]);
        const points = film.points.map((p) => (astray.includes(p.landmark) ? { ...p, point: [p.point[0] + off, p.point[1]] as Vec2 } : p));
        return { ...film, points, pose: stepPose(pose, [0.01, 0.01, -0.01, 2, 2, 5]) };
      });
      const { poses: solved } = fitPlacings(camera, dimensions, frames, usual, 3);
      return Math.max(...solved.map((p, i) => rotationDistance(p.rotation, poses[i]!.rotation) * DEGREES));
    };
    expect(worstWith(12)).toBeLessThan(worstWith(0) + 0.35);
  });

  it('finds one shape for several frames', () => {
    const poses = [truePose, stepPose(truePose, [0.1, 0.05, -0.08, 20, 5, 0]), stepPose(truePose, [-0.1, 0.12, 0.03, -30, 10, 40])];
    const frames = poses.map((pose, i) => ({ ...seen(pose, 10 + i, [2, 2]), pose: stepPose(pose, [0.01, 0.01, -0.01, 2, 2, 5]) }));
    const { model, poses: solved, camera: c } = fitPlacings(camera, dimensions, frames, usual, 3);
    expect(model.stretch.across * 208).toBeGreaterThan(208.8);
    frames.forEach((f, i) => {
      expect(f.worst(solved[i]!, model, c)).toBeLessThan(2.5);
    });
  });

  it('learns in the frames that show edges what the network errs by in one that shows none', () => {
    const poses = [truePose, stepPose(truePose, [0.1, 0.05, -0.08, 20, 5, 0]), stepPose(truePose, [-0.1, 0.12, 0.03, -30, 10, 40])];
    const film = poses.map((pose, i) => ({ ...seen(pose, 20 + i, [5, -3]), pose: stepPose(pose, [0.01, 0.01, -0.01, 2, 2, 5]) }));
    const bare = { ...film[0]!, edges: [] };
    const alone = fitPlacings(camera, dimensions, [bare], usual, 3);
    const among = fitPlacings(camera, dimensions, [bare, film[1]!, film[2]!], usual, 3);
    expect(bare.worst(alone.poses[0]!, alone.model, alone.camera)).toBeGreaterThan(4);
    expect(bare.worst(among.poses[0]!, among.model, among.camera)).toBeLessThan(0.7 * bare.worst(alone.poses[0]!, alone.model, alone.camera));
  });
});

describe('voting for a step', () => {
  /** Lines in all directions about a place, each with an edge where the step leads and a stronger one elsewhere. */
  const ballots = (step: readonly [number, number], seed: number): Ballot[] => {
    const random = seededRandom(seed);
    return Array.from({ length: 80 }, () => {
      const a = 2 * Math.PI * random();
      const moves = Float64Array.from([Math.cos(a), Math.sin(a)]);
      const edge = moves[0]! * step[0] + moves[1]! * step[1];
      const stray = 16 * (random() - 0.5);
      const strength = Float32Array.from({ length: 41 }, (_, i) => {
        const at = (i - 20) * 0.5;
        return 0.4 * Math.exp(-0.5 * ((at - edge) / 1.2) ** 2) + 0.5 * Math.exp(-0.5 * ((at - stray) / 1.2) ** 2);
      });
      return { strength, pitch: 0.5, moves };
    });
  };
  const known = Float64Array.from([16, 0, 0, 16]);

  it.each([
    [3, 2],
    [-5, 1],
    [0, -4],
  ] as const)('finds the one most lines agree on: %i, %i', (x, y) => {
    const { step, mean, stay } = voteStep(ballots([x, y], 5), known, 2, 0.5);
    expect(Math.hypot(step[0]! - x, step[1]! - y)).toBeLessThan(0.5);
    expect(mean).toBeGreaterThan(stay);
  });

  it('stays where nothing is seen', () => {
    const flat = ballots([0, 0], 1).map((b) => ({ ...b, strength: new Float32Array(41) }));
    expect(Math.hypot(...voteStep(flat, known, 2, 0.5).step)).toBeLessThan(0.5);
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { fromRotationVector, multiply, rotationDistance } from '../geometry/rotation';
import { DEGREES, distance } from '../geometry/vec3';
import { normal, seededRandom } from '../random';
import { dimensionsOf, SIZES, sizesOf } from './dimensions';
import { FAMILIES, STRINGS } from './family';
import { INSTRUMENT_LANDMARKS, type InstrumentLandmark, instrumentModel, SHAPE } from './landmarks';
import { archAt, halfOutline, halfWidthAt } from './outline';
import { buildRelief, renderDepth } from './relief';
import { type LandmarkSighting, logFocalSigma, MarksError, solveMarks } from './solveMarks';
import { levelMargin, onString, sectorOf, stringLevels, stringLines } from './strings';

const violin = dimensionsOf('violin', '4/4');
const model = instrumentModel(violin);

describe('dimensions', () => {
  it('knows every size of every family, larger sizes being larger', () => {
    for (const family of FAMILIES) {
      const bodies = sizesOf(family).map((size) => SIZES[family][size]!.body);
      expect([...bodies].sort((a, b) => b - a)).toEqual(bodies);
      expect(STRINGS[family]).toHaveLength(4);
    }
  });
  it('refuses unknown sizes and absurd measurements in plain words', () => {
    expect(() => dimensionsOf('violin', '5/4')).toThrow(/Known sizes: 4\/4/);
    expect(() => dimensionsOf('violin', '4/4', { body: 900 })).toThrow(/does not fit a 4\/4 violin/);
    expect(dimensionsOf('violin', '4/4', { stringLength: 325 }).stringLength).toBe(325);
  });
});

describe('string levels', () => {
  it('follow from the bridge arc (full-size violin, R 42, spread 34: lutherie common practice, from memory)', () => {
    const levels = stringLevels(model, 'violin');
    [23.9, 7.7, -7.7, -23.9].forEach((expected, i) => {
      expect(Math.abs(levels.natural[i]! - expected)).toBeLessThan(0.1);
    });
    [15.8, 0, -15.8].forEach((expected, i) => {
      expect(Math.abs(levels.boundary[i]! - expected)).toBeLessThan(0.1);
    });
  });
  it('put every natural level in its own sector with room on both sides', () => {
    for (const family of FAMILIES) {
      for (const size of sizesOf(family)) {
        const levels = stringLevels(instrumentModel(dimensionsOf(family, size)), family);
        levels.natural.forEach((level, i) => {
          expect(sectorOf(levels, level)).toBe(i);
          expect(levelMargin(levels, i, level)).toBeGreaterThan(3);
        });
      }
    }
  });
  it('raise the inner strings about 3 mm above the chord at a violin bridge (common practice, no source)', () => {
    const lines = stringLines(model, 'violin');
    expect(lines[1]!.bridge[2]).toBeGreaterThan(2.8);
    expect(lines[1]!.bridge[2]).toBeLessThan(3.6);
    expect(onString(lines[0]!, 0)).toEqual(lines[0]!.bridge);
  });
});

describe('landmarks', () => {
  it('scale with the size and keep the frame: bridge at the origin, nut along x', () => {
    expect(model.landmarks['instrument.bridge.low']).toEqual([0, 17, 0]);
    expect(model.landmarks['instrument.nut.low'][0]).toBe(328);
    const quarter = instrumentModel(dimensionsOf('violin', '1/4'));
    expect(quarter.landmarks['instrument.scroll'][0]).toBeLessThan(model.landmarks['instrument.scroll'][0]);
  });
  it('of the bridge stay one below the other wherever on the body it stands', () => {
    const at = SHAPE.findIndex((entry) => entry.name === 'bridge along the body');
    const [usual, nearer] = [0, 3].map(
      (sigmas) =>
        instrumentModel(
          dimensionsOf('violin', '4/4'),
          Float64Array.from(SHAPE, (_, i) => (i === at ? sigmas : 0)),
        ).landmarks,
    );
    const moved = (name: InstrumentLandmark) => distance(usual![name], nearer![name]);
    for (const side of ['low', 'high'] as const) {
      expect(moved(`instrument.bridgeFoot.${side}`)).toBeCloseTo(0, 9);
      expect(moved(`instrument.bridge.${side}`)).toBeCloseTo(0, 9);
      expect(moved(`instrument.upperCorner.${side}`)).toBeCloseTo(9, 6);
    }
    expect(moved('instrument.endButton')).toBeCloseTo(9, 6);
  });
  it('bouts are 168, 112 and 208 wide (lutherie common practice, from memory)', () => {
    const half = halfOutline(40);
    expect(2 * Math.max(...half.filter(([u]) => u > 90).map(([, w]) => w))).toBeCloseTo(168, 0);
    expect(2 * Math.min(...half.filter(([u]) => u > 0 && u < 60).map(([, w]) => w))).toBeCloseTo(112, 0);
    expect(2 * Math.max(...half.filter(([u]) => u < -40).map(([, w]) => w))).toBeCloseTo(208, 0);
    expect(archAt(17, 0)).toBeCloseTo(15, 0);
  });
  it('the half width is that of the outermost crossing, corners included, and none beyond the ends', () => {
    const fine = halfOutline(400);
    fc.assert(
      fc.property(fc.double({ min: -160.9, max: 194.9, noNaN: true }), (u) => {
        const crossings = fine.slice(1).flatMap(([u1, w1], i) => {
          const [u0] = fine[i]!;
          return (u - u0) * (u - u1) <= 0 ? [w1] : [];
        });
        // At the lower end the outline runs straight across: half a step of it is a millimetre there.
        expect(Math.abs(halfWidthAt(u) - Math.max(...crossings))).toBeLessThan(u < -150 || u > 190 ? 3 : 0.6);
      }),
    );
    for (const beyond of [-161.5, 195.5, 300, -1e4]) expect(halfWidthAt(beyond)).toBe(0);
  });
});

const camera = cameraFromFieldOfView(960, 540);

/** A violin as a player holds it, seen from in front and above, turned a little by the seed. */
function seenFrom(seed: number): Pose {
  const random = seededRandom(seed);
  const tilt = multiply(fromRotationVector([Math.PI + 0.5 + 0.3 * normal(random), 0.2 * normal(random), 0]), fromRotationVector([0, 0, 0.4 + 0.3 * normal(random)]));
  return { rotation: tilt, translation: [30 * normal(random), 30 * normal(random), 1100 + 80 * normal(random)] };
}

function sightings(pose: Pose, seed: number, noise: number, names = INSTRUMENT_LANDMARKS.filter((n) => !n.includes('endButton'))): LandmarkSighting[] {
  const random = seededRandom(seed * 77 + 1);
  return names.map((landmark) => {
    const [u, v] = project(camera, toOuter(pose, model.landmarks[landmark]))!;
    return { landmark, point: [u + noise * normal(random), v + noise * normal(random)] as const, sigma: Math.max(noise, 0.2) };
  });
}

describe('instrument from marks', () => {
  it('finds the pose from scratch when marks are exact', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), (seed) => {
        const pose = seenFrom(seed);
        const solved = solveMarks(camera, violin, [sightings(pose, seed, 0)]);
        expect(rotationDistance(solved.poses[0]!.rotation, pose.rotation) * DEGREES).toBeLessThan(0.3);
        expect(solved.misfit).toBeLessThan(0.2);
      }),
      { numRuns: 8 },
    );
  });

  it('finds the pose from beside and a little below the plate, where close-ups of the bow hand are taken from', () => {
    for (const tilt of [1.35, 1.5, 1.7]) {
      const pose: Pose = { rotation: multiply(fromRotationVector([Math.PI + tilt, 0, 0]), fromRotationVector([0, 0, 0.5])), translation: [20, 10, 520] };
      const seen = sightings(pose, 3, 0.4, [
        'instrument.fingerboardEnd.low',
        'instrument.fingerboardEnd.high',
        'instrument.bridge.high',
        'instrument.bridgeFoot.high',
        'instrument.endButton',
        'instrument.upperCorner.high',
        'instrument.lowerCorner.high',
      ]);
      expect(rotationDistance(solveMarks(camera, violin, [seen]).poses[0]!.rotation, pose.rotation) * DEGREES).toBeLessThan(6);
    }
  });

  it('states how sure it is: truth lies within 3 standard uncertainties under noise', () => {
    let outside = 0;
    const trials = 12;
    for (let seed = 1; seed <= trials; seed++) {
      const pose = seenFrom(seed);
      const solved = solveMarks(camera, violin, [sightings(pose, seed, 0.7)]);
      const error = rotationDistance(solved.poses[0]!.rotation, pose.rotation);
      const n = solved.unknowns;
      const sigma = Math.sqrt(solved.covariance[0]! + solved.covariance[n + 1]! + solved.covariance[2 * n + 2]!);
      if (error > 3 * sigma) outside++;
    }
    expect(outside).toBeLessThanOrEqual(1);
  });

  it('finds that the lens was zoomed in where the marks tell, and that it was not', () => {
    for (const zoom of [1, 1.5]) {
      const lens = { ...camera, focal: camera.focal * zoom };
      for (const seed of [1, 2, 3]) {
        const random = seededRandom(seed);
        const frames = [0, 1, 2].map((k) => {
          const rotation = multiply(fromRotationVector([Math.PI + 0.3 + 0.35 * k, 0.2 * normal(random), 0]), fromRotationVector([0, 0, 0.4 + 0.5 * k]));
          const pose: Pose = { rotation, translation: [30 * normal(random), 30 * normal(random), 800] };
          return INSTRUMENT_LANDMARKS.map((landmark) => ({ landmark, point: project(lens, toOuter(pose, model.landmarks[landmark]))!, sigma: 0.8 }));
        });
        const solved = solveMarks(camera, violin, frames);
        expect(Math.abs(Math.log(solved.camera.focal / lens.focal))).toBeLessThan(1.5 * logFocalSigma(solved));
      }
    }
  });

  it('names the mark that does not belong', () => {
    const wrong = sightings(seenFrom(3), 3, 0.3).map((s) => (s.landmark === 'instrument.scroll' ? { ...s, point: [s.point[0] + 60, s.point[1] - 40] as const } : s));
    expect(solveMarks(camera, violin, [wrong]).worst.landmark).toBe('instrument.scroll');
  });

  it('refuses too few marks, marks on one spot and marks on one line', () => {
    const all = sightings(seenFrom(2), 2, 0);
    expect(() => solveMarks(camera, violin, [all.slice(0, 3)])).toThrow(/at least four/);
    expect(() => solveMarks(camera, violin, [all.slice(0, 5).map((s) => ({ ...s, point: [300, 200] as const }))])).toThrow(/one spot/);
    expect(() => solveMarks(camera, violin, [all.slice(0, 5).map((s, i) => ({ ...s, point: [100 + 50 * i, 80 + 30 * i] as const }))])).toThrow(MarksError);
  });
});

describe('relief', () => {
  it('shows the bridge before the plate and nothing beside the body', () => {
    const pose = seenFrom(4);
    const map = renderDepth(buildRelief(model), pose, camera);
    const at = (p: readonly [number, number, number]) => {
      const outer = toOuter(pose, p);
      const [u, v] = project(camera, outer)!;
      return { depth: map.depth[(Math.floor(v) - map.y0) * map.width + Math.floor(u) - map.x0]!, true: outer[2] };
    };
    const notch = at(model.landmarks['instrument.bridge.low']);
    expect(Math.abs(notch.depth - notch.true)).toBeLessThan(40);
    expect(map.depth[0]).toBe(0);
    expect(distance([0, 0, 0], model.landmarks['instrument.bridgeFoot.low'])).toBeGreaterThan(25);
  });
});

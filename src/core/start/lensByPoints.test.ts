import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { zoomOfLens } from '../geometry/otherLenses';
import { type Pose, toOuter } from '../geometry/pose';
import { fromRotationVector, multiply } from '../geometry/rotation';
import type { Vec2 } from '../geometry/vec3';
import { dimensionsOf } from '../instrument/dimensions';
import { INSTRUMENT_LANDMARKS, instrumentModel, SHAPE } from '../instrument/landmarks';
import { normal, seededRandom } from '../random';
import { lensByPoints } from './lensByPoints';

const main = cameraFromFieldOfView(1280, 720);
const dimensions = dimensionsOf('violin', '4/4');
const away = (mm: number, turn: number): Pose => ({
  rotation: multiply(fromRotationVector([0, 0, turn]), fromRotationVector([Math.PI - 0.9, 0, 0])),
  translation: [-60, 30, mm],
});

/** What a network sees of a violin in so many frames taken through a lens so zoomed, and where the main lens would have it. */
function seen(zoom: number, seed: number, frames = 4, mm = 900) {
  const random = seededRandom(seed);
  const camera = { ...main, focal: zoom * main.focal };
  const shape = Float64Array.from(SHAPE, () => 0.5 * normal(random));
  const model = instrumentModel(dimensions, shape);
  return Array.from({ length: frames }, (_, f) => {
    const pose = away(zoom * mm, 0.3 + 0.05 * f);
    return {
      pose: { ...pose, translation: [pose.translation[0], pose.translation[1], mm] } as Pose,
      points: INSTRUMENT_LANDMARKS.map((landmark) => {
        const [u, v] = project(camera, toOuter(pose, model.landmarks[landmark]))!;
        return { landmark, point: [u + 1.2 * normal(random), v + 1.2 * normal(random)] as Vec2, sigma: 2.5 };
      }),
    };
  });
}

describe('the lens a film was taken with', () => {
  it.each([1, 2, 3])('is told by points of a film taken with the wide one from close by (%i)', (seed) => {
    const told = lensByPoints(main, dimensions, seen(0.5, seed))!;
    expect(zoomOfLens(told.camera.focal, main.focal)).toBeGreaterThan(0.4);
    expect(zoomOfLens(told.camera.focal, main.focal)).toBeLessThan(0.65);
    expect(told.supposed.focal).toBe(0.5 * main.focal);
  });

  it.each([1, 2, 3, 4, 5, 6])('is taken for the main one where the points do not speak plainly for another (%i)', (seed) => {
    expect(lensByPoints(main, dimensions, seen(1, seed))).toBeUndefined();
    // From afar no lens shows how deep an instrument is.
    expect(lensByPoints(main, dimensions, seen(0.7, seed, 4, 4000))).toBeUndefined();
  });

  it('is not told any surer by many pictures, which a network sees alike', () => {
    const few = seen(0.55, 7);
    expect(lensByPoints(main, dimensions, few)).toBeUndefined();
    expect(lensByPoints(main, dimensions, [...few, ...few, ...few])).toBeUndefined();
  });
});

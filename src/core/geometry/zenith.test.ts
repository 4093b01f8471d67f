import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normal, seededRandom } from '../random';
import { cameraFromFieldOfView, project } from './camera';
import { fromRotationVector, multiply, rotate } from './rotation';
import { DEGREES, dot, RADIANS, type Vec3 } from './vec3';
import { type ImageSegment, meanZenith, sigmaByUp, withFocalDoubt, zenithOf } from './zenith';

const camera = cameraFromFieldOfView(960, 540);

/** Upright edges of a room as a camera tilted down and rolled sees them, among lines that are not upright. */
function room(tiltDeg: number, rollDeg: number, seed: number, noise: number): { up: Vec3; segments: ImageSegment[] } {
  const random = seededRandom(seed);
  // Camera frame: x right, y down, z ahead; up is -y for a level camera.
  const turn = multiply(fromRotationVector([0, 0, rollDeg * RADIANS]), fromRotationVector([tiltDeg * RADIANS, 0, 0]));
  const up = rotate(turn, [0, -1, 0]);
  const between = (a: number, b: number) => a + (b - a) * random();
  const segments: ImageSegment[] = [];
  while (segments.length < 9) {
    const foot: Vec3 = [between(-900, 900), between(-300, 400), between(1500, 3000)];
    const head: Vec3 = [foot[0] + 500 * up[0], foot[1] + 500 * up[1], foot[2] + 500 * up[2]];
    const [a, b] = [project(camera, foot), project(camera, head)];
    if (a && b) segments.push({ a: [a[0] + noise * normal(random), a[1] + noise * normal(random)], b: [b[0] + noise * normal(random), b[1] + noise * normal(random)] });
  }
  for (let k = 0; k < 8; k++) {
    const x = between(100, 860);
    segments.push({ a: [x, between(50, 200)], b: [x + between(-120, 120), between(300, 500)] });
  }
  return { up, segments };
}

const angle = (a: Vec3, b: Vec3) => Math.acos(Math.min(1, dot(a, b))) * DEGREES;

describe('up from the lines of a room', () => {
  it('is exact when the lines are', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 40, noNaN: true }), fc.double({ min: -10, max: 10, noNaN: true }), fc.integer({ min: 1, max: 500 }), (tilt, roll, seed) => {
        const { up, segments } = room(tilt, roll, seed, 0);
        const exact = zenithOf(camera, segments.slice(0, 9));
        expect(exact && angle(exact.direction, up)).toBeLessThan(1e-3);
      }),
      { numRuns: 40 },
    );
  });

  it('holds its own among stray lines', () => {
    const misses = Array.from({ length: 30 }, (_, i) => {
      const { up, segments } = room(15, 3, i + 1, 0.3);
      const found = zenithOf(camera, segments);
      return found ? angle(found.direction, up) : 180;
    });
    // A stray may by chance point nearly to the vanishing point too.
    expect(misses.filter((m) => m < 2).length).toBeGreaterThanOrEqual(25);
  });

  it('lies within three of its stated uncertainties under noise', () => {
    const misses = Array.from({ length: 30 }, (_, i) => {
      const { up, segments } = room(18, -4, i + 1, 0.5);
      const found = zenithOf(camera, segments)!;
      return angle(found.direction, up) / found.sigmaDeg;
    });
    expect(misses.filter((m) => m < 3).length).toBeGreaterThanOrEqual(28);
  });

  it('is as doubtful as the focal length in how far the camera looks down, not in how it leans', () => {
    for (const tilt of [0, 12, 28]) {
      const { segments } = room(tilt, 0, 4, 0);
      const lines = segments.slice(0, 9);
      const found = withFocalDoubt(zenithOf(camera, lines)!, 0.02);
      const otherwise = zenithOf({ ...camera, focal: camera.focal * Math.exp(0.02) }, lines)!;
      const down = (up: Vec3) => Math.asin(-up[2]) * DEGREES;
      const own = zenithOf(camera, lines)!.sigmaDeg;
      expect(sigmaByUp(found, down)).toBeCloseTo(Math.hypot(own, down(otherwise.direction) - down(found.direction)), 1);
      expect(sigmaByUp(found, (up) => Math.asin(up[0]) * DEGREES)).toBeCloseTo(own, 2);
      expect(found.sigmaDeg).toBeCloseTo(sigmaByUp(found, down), 1);
    }
  });

  it('owns to what hangs on a single line that is none of the room', () => {
    // Upright edges near the middle of the picture tell nothing of the tilt: it hangs on the sleeve at the side.
    const ratios = [-0.07, -0.05, -0.03, 0.03, 0.05, 0.07].flatMap((lean) => {
      const { up } = room(8, 0, 1, 0);
      const random = seededRandom(9);
      const edge = (x: number, turned: number): ImageSegment => {
        const [rx, ry] = [(x - 480) / camera.focal, (500 - 270) / camera.focal];
        const [dx, dy] = [up[0] - rx * up[2], up[1] - ry * up[2]];
        const [c, s] = [Math.cos(turned), Math.sin(turned)];
        const k = 380 / Math.hypot(dx, dy);
        return { a: [x + 0.3 * normal(random), 500], b: [x + k * (c * dx - s * dy) + 0.3 * normal(random), 500 + k * (s * dx + c * dy)] };
      };
      const found = zenithOf(camera, [edge(440, 0), edge(500, 0), edge(530, 0), edge(90, lean)]);
      return found ? [angle(found.direction, up) / found.sigmaDeg] : [];
    });
    expect(ratios.length).toBeGreaterThan(2);
    expect(Math.max(...ratios)).toBeLessThan(2.5);
  });

  it('keeps silent where nothing stands upright, or on one line alone', () => {
    const random = seededRandom(3);
    const level = Array.from({ length: 12 }, (): ImageSegment => ({ a: [960 * random(), 540 * random()], b: [960 * random(), 540 * random()] })).map(
      ({ a, b }): ImageSegment => ({ a, b: [b[0], a[1] + 3] }),
    );
    expect(zenithOf(camera, level)).toBeUndefined();
    expect(zenithOf(camera, [{ a: [200, 20], b: [210, 500] }])).toBeUndefined();
  });

  it('does not take the boards of a floor for walls, nor an arm and a bow that lean alike for a door', () => {
    // Boards run to a point of the horizon; those near the middle of the picture look upright.
    const turn = multiply(fromRotationVector([0, 0, 2 * RADIANS]), fromRotationVector([10 * RADIANS, 0, 0]));
    const at = (p: Vec3) => project(camera, rotate(turn, p))!;
    const boards = Array.from({ length: 24 }, (_, i): ImageSegment => ({ a: at([-1200 + 100 * i, 1200, 2600]), b: at([-1200 + 100 * i, 1200, 5200]) }));
    // One edge of one wall, in three pieces, is too little: with a board it would make a wrong up.
    const edge = [-1000, -400, 200].map((y): ImageSegment => ({ a: at([900, y, 3000]), b: at([900, y + 500, 3000]) }));
    expect(zenithOf(camera, [...edge, ...boards])).toBeUndefined();
    const { up, segments } = room(10, 2, 5, 0.2);
    const found = zenithOf(camera, [...segments.slice(0, 5), ...boards]);
    expect(found && angle(found.direction, up)).toBeLessThan(2);

    // More lines lean than stand.
    const leaning = room(10, 16, 6, 0.2).segments.slice(0, 9);
    const upright = room(10, 1, 7, 0.2);
    const level = zenithOf(camera, [...leaning, ...upright.segments.slice(0, 6)]);
    expect(level && angle(level.direction, upright.up)).toBeLessThan(2);
  });

  it('follows a plumb line rather than the rest of the picture', () => {
    const { up, segments } = room(20, 0, 8, 0);
    const leaning = segments.slice(9);
    const found = zenithOf(camera, leaning.concat(segments.slice(0, 5)), segments.slice(5, 6));
    expect(found && angle(found.direction, up)).toBeLessThan(1.5);
  });

  it('of several frames is their mean, without one that disagrees', () => {
    const near = (x: number): Vec3 => rotate(fromRotationVector([0, 0, x * RADIANS]), [0, -1, 0]);
    const found = meanZenith([0.2, -0.2, 0.1, 25].map((x) => ({ direction: near(x), sigmaDeg: 0.5 })))!;
    expect(angle(found.direction, [0, -1, 0])).toBeLessThan(0.1);
    expect(meanZenith([])).toBeUndefined();
    expect(meanZenith([0, 20, 40, 60].map((x) => ({ direction: near(x), sigmaDeg: 0.5 })))).toBeUndefined();
  });
});

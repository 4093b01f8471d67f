import { describe, expect, it } from 'vitest';
import { cameraFromFieldOfView } from '../core/geometry/camera';
import { type Pose, stepPose } from '../core/geometry/pose';
import { fromRotationVector, rotationDistance } from '../core/geometry/rotation';
import { DEGREES, distance, type Vec2 } from '../core/geometry/vec3';
import { nearestIndex } from '../core/nearestIndex';
import { seededRandom } from '../core/random';
import { cutStrip, STATIONS, stationShare } from './bow/bowStrip';
import { findLine } from './bow/lineSearch';
import { RunningTemplate } from './bow/runningTemplate';
import { backward, type Frame, type FrameSource } from './film/frame';
import { upright } from './film/openFilm';
import { sampleLuma } from './image/gray';
import { halve, normaliseRegion, pyramid } from './image/normalise';
import type { KeyFrame } from './instrument/keyFrame';
import { register } from './instrument/registration';

const W = 320;
const H = 240;

/** Smooth random brightness over the plane, repeatable: a sum of waves. */
function texture(seed: number): (x: number, y: number) => number {
  const random = seededRandom(seed);
  const waves = Array.from({ length: 40 }, () => ({ kx: (random() - 0.5) * 0.6, ky: (random() - 0.5) * 0.6, phase: random() * 6.3, a: 4 + 8 * random() }));
  return (x, y) => 128 + waves.reduce((sum, w) => sum + w.a * Math.sin(w.kx * x + w.ky * y + w.phase), 0);
}

function picture(draw: (x: number, y: number) => number, index = 0): Frame {
  const luma = new Uint8Array(W * H);
  for (let y = 0; y < H; y++) for (let x = 0; x < W; x++) luma[y * W + x] = Math.max(0, Math.min(255, Math.round(draw(x + 0.5, y + 0.5))));
  return { index, t: index / 25, width: W, height: H, luma };
}

describe('pictures', () => {
  it('are sampled with the centre of the first pixel at a half', () => {
    const frame = picture((x, y) => 2 * x + y / 2);
    expect(sampleLuma(frame.luma, W, H, 10.5, 20.5)).toBe(frame.luma[20 * W + 10]);
    expect(sampleLuma(frame.luma, W, H, 11, 20.5)).toBeCloseTo((frame.luma[20 * W + 10]! + frame.luma[20 * W + 11]!) / 2, 6);
    expect(sampleLuma(frame.luma, W, H, -5, 3)).toBeNaN();
  });
  it('look alike after normalising, whatever the light', () => {
    const draw = texture(1);
    const region = { x0: 40, y0: 40, x1: 280, y1: 200 };
    const bright = normaliseRegion(picture(draw), region, 6).data.slice();
    const dim = normaliseRegion(
      picture((x, y) => 0.5 * draw(x, y) + 20),
      region,
      6,
    ).data;
    const size = (data: Float32Array) => data.reduce((sum, v) => sum + Math.abs(v), 0) / data.length;
    const ratio = size(bright) / size(dim);
    const difference = bright.map((v, i) => v - dim[i]! * ratio);
    expect(size(difference)).toBeLessThan(0.15 * size(bright));
  });
  it('halve by means of four', () => {
    const half = halve({ x0: 4, y0: 6, width: 2, height: 2, data: Float32Array.from([1, 2, 3, 6]) });
    expect(half).toMatchObject({ x0: 2, y0: 3, width: 1, height: 1 });
    expect(half.data[0]).toBe(3);
  });
  it('turn upright by quarter turns', () => {
    const luma = Uint8Array.from([1, 2, 3, 4, 5, 6]);
    expect([...upright(luma, 3, 2, 90)]).toEqual([4, 1, 5, 2, 6, 3]);
    expect([...upright(luma, 3, 2, 180)]).toEqual([6, 5, 4, 3, 2, 1]);
    expect([...upright(upright(luma, 3, 2, 90), 2, 3, 270)]).toEqual([...luma]);
  });
  it('are found by the nearest presentation time', () => {
    const times = [0, 0.04, 0.081, 0.2];
    expect([-1, 0.019, 0.021, 0.1, 0.15, 9].map((t) => nearestIndex(times, t))).toEqual([0, 0, 1, 2, 3, 3]);
  });
  it('come backwards in runs without one missing', async () => {
    const source: FrameSource = {
      width: W,
      height: H,
      times: Float64Array.from({ length: 120 }, (_, i) => i / 25),
      async *forward(from, to) {
        for (let i = from; i < to; i++) yield { index: i, t: i / 25, width: 1, height: 1, luma: new Uint8Array(1) };
      },
    };
    const seen: number[] = [];
    for await (const frame of backward(source, 110, 7)) seen.push(frame.index);
    expect(seen).toEqual(Array.from({ length: 104 }, (_, i) => 110 - i));
  });
});

describe('registration', () => {
  const camera = cameraFromFieldOfView(W, H);
  const pose: Pose = { rotation: fromRotationVector([0.2, -0.1, 0.3]), translation: [5, -4, 400] };

  /** A textured plane at z = 0 of the inner frame, seen under a pose: exact by intersecting rays. */
  function seen(under: Pose, draw: (x: number, y: number) => number): Frame {
    const m = under.rotation;
    const t = under.translation;
    return picture((u, v) => {
      const r = [(u - W / 2) / camera.focal, (v - H / 2) / camera.focal, 1] as const;
      const nz = [m[2], m[5], m[8]] as const;
      const k = (nz[0] * t[0] + nz[1] * t[1] + nz[2] * t[2]) / (nz[0] * r[0] + nz[1] * r[1] + nz[2] * r[2]);
      const p = [r[0] * k - t[0], r[1] * k - t[1], r[2] * k - t[2]] as const;
      return draw(m[0] * p[0] + m[3] * p[1] + m[6] * p[2], m[1] * p[0] + m[4] * p[1] + m[7] * p[2]);
    });
  }
  const draw = texture(7);
  const levelsOf = (frame: Frame) => pyramid(normaliseRegion(frame, { x0: 0, y0: 0, x1: W, y1: H }, 6), 3);

  /** A key frame of the plane: a grid of points with their brightness on every level. */
  function keyFrame(): KeyFrame {
    const levels = levelsOf(seen(pose, draw));
    const points: number[] = [];
    for (let x = -80; x <= 80; x += 4) for (let y = -60; y <= 60; y += 4) points.push(x, y, 0);
    const count = points.length / 3;
    const m = pose.rotation;
    const values = levels.map((level, l) =>
      Float32Array.from({ length: count }, (_, i) => {
        const [X, Y] = [points[3 * i]!, points[3 * i + 1]!];
        const z = m[6] * X + m[7] * Y + pose.translation[2];
        const u = (W / 2 + (camera.focal * (m[0] * X + m[1] * Y + pose.translation[0])) / z) / 2 ** l - 0.5;
        const v = (H / 2 + (camera.focal * (m[3] * X + m[4] * Y + pose.translation[1])) / z) / 2 ** l - 0.5;
        const [a, b] = [Math.floor(u), Math.floor(v)];
        const at = (i2: number, j2: number) => level.data[j2 * level.width + i2]!;
        const [fx, fy] = [u - a, v - b];
        return (at(a, b) * (1 - fx) + at(a + 1, b) * fx) * (1 - fy) + (at(a, b + 1) * (1 - fx) + at(a + 1, b + 1) * fx) * fy;
      }),
    );
    return {
      index: 0,
      pose,
      count,
      points: Float32Array.from(points),
      values,
      trust: new Float32Array(count).fill(1),
      blocks: new Uint16Array(count).map((_, i) => i >> 3),
      blockCount: (count >> 3) + 1,
    };
  }

  it('finds a small motion to a fraction of a pixel', () => {
    const moved = stepPose(pose, [0.01, -0.008, 0.012, 2, -1.5, 3]);
    const result = register(levelsOf(seen(moved, draw)), [keyFrame()], camera, pose, { looseness: 6 });
    expect(rotationDistance(result.pose.rotation, moved.rotation) * DEGREES).toBeLessThan(0.25);
    expect(distance(result.pose.translation, moved.translation)).toBeLessThan(1.5);
    expect(result.correlation).toBeGreaterThan(0.95);
  });

  it('is not led astray by a third of the picture being covered', () => {
    const moved = stepPose(pose, [0.008, 0.005, -0.01, -1.5, 1, 2]);
    const clean = seen(moved, draw);
    const cover = texture(99);
    const luma = clean.luma.slice();
    for (let y = 0; y < H; y++) for (let x = 130; x < 190; x++) luma[y * W + x] = Math.max(0, Math.min(255, cover(x, y)));
    const result = register(levelsOf({ ...clean, luma }), [keyFrame()], camera, pose, { looseness: 6 });
    expect(rotationDistance(result.pose.rotation, moved.rotation) * DEGREES).toBeLessThan(0.4);
  });

  it('says that an unrelated picture does not fit', () => {
    const result = register(levelsOf(picture(texture(55))), [keyFrame()], camera, pose);
    expect(result.correlation * Math.sqrt(Math.max(0, result.believed))).toBeLessThan(0.5);
  });
});

describe('bow line', () => {
  /** A pale hair with a dark stick beside it, over a busy ground. */
  function withBow(a: Vec2, b: Vec2, ground: (x: number, y: number) => number): Frame {
    const n = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const u = [(b[0] - a[0]) / n, (b[1] - a[1]) / n] as const;
    return picture((x, y) => {
      const side = -(x - a[0]) * u[1] + (y - a[1]) * u[0];
      if (Math.abs(side) < 1.5) return 225;
      if (Math.abs(side - 5) < 1.8) return 50;
      return ground(x, y);
    });
  }
  const stationsOf = (a: Vec2, b: Vec2): Vec2[] => Array.from({ length: STATIONS }, (_, k) => [a[0] + (b[0] - a[0]) * stationShare(k), a[1] + (b[1] - a[1]) * stationShare(k)]);

  it('is found a few pixels away to a fraction of a pixel, on another ground', () => {
    const [a, b]: [Vec2, Vec2] = [
      [40, 190],
      [270, 60],
    ];
    const strip = cutStrip(withBow(a, b, texture(3)), stationsOf(a, b), 8, 0.5);
    const template = { half: strip.half, look: new RunningTemplate(strip.values, () => 1) };
    const [c, d]: [Vec2, Vec2] = [
      [43, 195],
      [272, 66],
    ];
    const found = findLine(cutStrip(withBow(c, d, texture(4)), stationsOf(a, b), 8 + 12, 0.5), template, { frog: 8, tip: 8 }, 4)!;
    const n = Math.hypot(d[0] - c[0], d[1] - c[1]);
    const off = (p: Vec2) => Math.abs(-(p[0] - c[0]) * ((d[1] - c[1]) / n) + (p[1] - c[1]) * ((d[0] - c[0]) / n));
    expect(off(found.a)).toBeLessThan(0.4);
    expect(off(found.b)).toBeLessThan(0.4);
    expect(found.support).toBeGreaterThan(0.6);
    expect(found.rival).toBeLessThan(0.8);
  });

  it('has a rival in a second bow beside it, and in its own neighbourhood none', () => {
    const [a, b]: [Vec2, Vec2] = [
      [40, 190],
      [270, 60],
    ];
    const beside = (by: number): [Vec2, Vec2] => [
      [a[0], a[1] + by],
      [b[0], b[1] + by],
    ];
    const template = { half: 16, look: new RunningTemplate(cutStrip(withBow(a, b, texture(3)), stationsOf(a, b), 8, 0.5).values, () => 1) };
    const rival = (ground: (x: number, y: number) => number, elsewhere: number) =>
      findLine(cutStrip(withBow(a, b, ground), stationsOf(a, b), 8 + 14, 0.5), template, { frog: 8, tip: 8 }, elsewhere)!.rival;
    const second = withBow(...beside(-14), texture(4));
    const secondBow = (x: number, y: number) => second.luma[Math.floor(y) * second.width + Math.floor(x)]!;
    expect(rival(secondBow, 4)).toBeGreaterThan(0.8);
    expect(rival(texture(4), 4)).toBeLessThan(0.7);
    // So near to a bow seen from close by it would be a part of it.
    expect(rival(secondBow, 18)).toBeLessThan(0.7);
  });

  it('learns that the ground is not part of the bow', () => {
    const [a, b]: [Vec2, Vec2] = [
      [40, 190],
      [270, 60],
    ];
    const cut = (seed: number) => cutStrip(withBow(a, b, texture(seed)), stationsOf(a, b), 8, 0.5);
    const first = cut(11);
    const look = new RunningTemplate(first.values, () => 1);
    for (let seed = 12; seed < 30; seed++) look.learn(cut(seed).values, 2 * first.half + 1);
    const weight = (offset: number) => look.weights[30 * (2 * first.half + 1) + first.half + offset]!;
    expect(weight(0)).toBeGreaterThan(0.7);
    expect(weight(10)).toBeGreaterThan(0.7);
    expect(weight(-14)).toBeLessThan(0.5 * weight(0));
  });
});

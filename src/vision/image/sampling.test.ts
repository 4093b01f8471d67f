import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normal, seededRandom } from '../../core/random';
import { deviation, mean } from '../../core/statistics';
import type { Frame } from '../film/frame';
import { addColour, type ColourPicture } from './colourPicture';
import { lumaOf, sampleLuma } from './gray';
import { halve, normaliseRegion, pyramid } from './normalise';

const [WIDTH, HEIGHT] = [40, 30];
/** Brightness that rises evenly across the picture: whole numbers at the centres of pixels, (0.5, 0.5) and on. */
const plane = (x: number, y: number) => 20 + 4 * x + 2 * y;
const planeLuma = Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) => plane((i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5));

describe('brightness between pixels', () => {
  const inside = fc.tuple(fc.double({ min: 0.5, max: WIDTH - 0.51, noNaN: true }), fc.double({ min: 0.5, max: HEIGHT - 0.51, noNaN: true }));
  it('is exact where it rises evenly, the centre of the first pixel at a half', () => {
    fc.assert(
      fc.property(inside, ([x, y]) => {
        expect(sampleLuma(planeLuma, WIDTH, HEIGHT, x, y)).toBeCloseTo(plane(x, y), 6);
      }),
    );
  });
  it('is the same in colour, weighted and added up', () => {
    const picture: ColourPicture = { width: WIDTH, height: HEIGHT, data: Uint8ClampedArray.from({ length: 4 * WIDTH * HEIGHT }, (_, i) => planeLuma[i >> 2]! - 5 * (i & 3)) };
    fc.assert(
      fc.property(inside, ([x, y]) => {
        const sums = [1, 1, 1];
        expect(addColour(picture, x, y, 0.5, sums)).toBe(true);
        for (const [c, sum] of sums.entries()) expect(sum).toBeCloseTo(1 + 0.5 * (plane(x, y) - 5 * c), 6);
      }),
    );
    expect(addColour(picture, WIDTH, 3, 1, [0, 0, 0])).toBe(false);
  });
  it('is nothing outside the picture', () => {
    for (const [x, y] of [
      [0.4, 5],
      [5, 0.2],
      [WIDTH, 5],
      [5, HEIGHT + 3],
      [Number.NaN, 5],
    ] as const)
      expect(sampleLuma(planeLuma, WIDTH, HEIGHT, x, y)).toBeNaN();
  });
  it('of colours is that of BT.709: green counts most, blue least (published weights)', () => {
    expect([...lumaOf(Uint8ClampedArray.of(255, 0, 0, 255, 0, 255, 0, 255, 0, 0, 255, 255, 255, 255, 255, 0))]).toEqual([54, 182, 18, 255]);
  });
});

describe('local normalisation', () => {
  const random = seededRandom(9);
  const texture = Float64Array.from({ length: 96 * 72 }, () => 30 * normal(random));
  const frameOf = (light: (v: number, x: number) => number): Frame => ({
    index: 0,
    t: 0,
    width: 96,
    height: 72,
    luma: Uint8Array.from(texture, (v, i) => Math.max(0, Math.min(255, Math.round(light(v, i % 96))))),
  });
  const whole = { x0: 0, y0: 0, x1: 96, y1: 72 };
  const normalised = (frame: Frame) => normaliseRegion(frame, whole, 6);
  const inner = (data: Float32Array) => [...data].filter((_, i) => i % 96 > 8 && i % 96 < 88 && i > 8 * 96 && i < 64 * 96);

  it('makes pictures of the same thing alike in any light', () => {
    const plain = inner(normalised(frameOf((v) => 120 + v)).data);
    const dim = inner(normalised(frameOf((v) => 60 + 0.5 * v)).data);
    const slanting = inner(normalised(frameOf((v, x) => 80 + 0.9 * x + v)).data);
    for (const other of [dim, slanting]) {
      const differences = other.map((v, i) => v - plain[i]!);
      expect(deviation(differences) / deviation(plain)).toBeLessThan(0.25);
    }
  });
  it('leaves no mean, and says nothing about a flat wall', () => {
    expect(Math.abs(mean(inner(normalised(frameOf((v) => 120 + v)).data)))).toBeLessThan(1);
    expect(Math.max(...normalised(frameOf(() => 97)).data.map(Math.abs))).toBeLessThan(1e-3);
  });
  it('is what its definition says, for regions of even and odd size', () => {
    const grain = seededRandom(4);
    const picture: Frame = { index: 0, t: 0, width: 60, height: 50, luma: Uint8Array.from({ length: 3000 }, () => Math.floor(256 * grain())) };
    type Map = (x: number, y: number) => number;
    for (const [x0, y0, w, h] of [
      [7, 5, 31, 28],
      [10, 9, 22, 23],
      [0, 0, 60, 50],
    ] as const) {
      /** A map kept as a table; beyond its edges the last sample goes on. */
      const table = (width: number, height: number, of: Map): Map => {
        const values = Array.from({ length: width * height }, (_, i) => of(i % width, Math.floor(i / width)));
        const clamp = (v: number, last: number) => Math.min(last, Math.max(0, v));
        return (x, y) => values[clamp(y, height - 1) * width + clamp(x, width - 1)]!;
      };
      const five = [1, 4, 6, 4, 1];
      const seen = table(w, h, (x, y) => picture.luma[(y0 + y) * 60 + x0 + x]!);
      const rows = table(w, h, (x, y) => five.reduce((sum, k, i) => sum + (k / 16) * seen(x + i - 2, y), 0));
      const soft = table(w, h, (x, y) => five.reduce((sum, k, i) => sum + (k / 16) * rows(x, y + i - 2), 0));
      const [hw, hh] = [(w + 1) >> 1, (h + 1) >> 1];
      const halfSize = (of: (v: number) => number): Map => table(hw, hh, (x, y) => [0, 1, 2, 3].reduce((sum, k) => sum + of(soft(2 * x + (k & 1), 2 * y + (k >> 1))) / 4, 0));
      // Two boxes of seven samples each way are near a Gaussian of sigma 3, six at full size.
      const seven = [-3, -2, -1, 0, 1, 2, 3];
      const along = (m: Map): Map => table(hw, hh, (x, y) => seven.reduce((sum, o) => sum + m(x + o, y) / 7, 0));
      const down = (m: Map): Map => table(hw, hh, (x, y) => seven.reduce((sum, o) => sum + m(x, y + o) / 7, 0));
      const about = (m: Map): Map => down(down(along(along(m))));
      const [means, squares] = [about(halfSize((v) => v)), about(halfSize((v) => v * v))];
      const gains = table(hw, hh, (x, y) => 20 / (Math.sqrt(squares(x, y) - means(x, y) ** 2) + 4));
      const between = (m: Map, x: number, y: number) => {
        const [i, j] = [x >> 1, y >> 1];
        const [a, b] = [i + (x & 1 ? 1 : -1), j + (y & 1 ? 1 : -1)];
        return 0.5625 * m(i, j) + 0.1875 * (m(a, j) + m(i, b)) + 0.0625 * m(a, b);
      };
      const patch = normaliseRegion(picture, { x0, y0, x1: x0 + w, y1: y0 + h }, 6);
      expect([patch.width, patch.height]).toEqual([w, h]);
      patch.data.forEach((v, i) => {
        const [x, y] = [i % w, Math.floor(i / w)];
        expect(v, `${x}, ${y} of ${w} x ${h}`).toBeCloseTo((soft(x, y) - between(means, x, y)) * between(gains, x, y), 2);
      });
    }
  });
  it('keeps to the picture, and knows where its patch lies', () => {
    const patch = normaliseRegion(
      frameOf((v) => 120 + v),
      { x0: -20, y0: 30.4, x1: 33.2, y1: 400 },
      6,
    );
    expect([patch.x0, patch.y0, patch.width, patch.height]).toEqual([0, 30, 34, 42]);
  });
  it('halves by means of four, places with it', () => {
    const patch = { x0: 10, y0: 6, width: 4, height: 2, data: Float32Array.of(1, 3, 10, 10, 5, 7, 10, 14) };
    expect(halve(patch)).toEqual({ x0: 5, y0: 3, width: 2, height: 1, data: Float32Array.of(4, 11) });
    expect(pyramid({ ...patch, width: 4, height: 2 }, 2)).toHaveLength(2);
  });
});

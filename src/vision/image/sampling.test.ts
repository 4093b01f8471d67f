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

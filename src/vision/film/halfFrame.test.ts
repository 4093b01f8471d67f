import { describe, expect, it } from 'vitest';
import { normal, seededRandom } from '../../core/random';
import type { Frame } from './frame';
import { halfFrame } from './halfFrame';
import { steepLines } from './steepLines';

const [width, height] = [640, 480];

/** The edge of a door in a dark room: so much brighter to the right of x = 320. */
function door(contrast: number, noise: number): Frame {
  const random = seededRandom(4);
  const luma = Uint8Array.from({ length: width * height }, (_, i) => {
    const x = (i % width) + 0.5;
    return Math.max(0, Math.min(255, Math.round(20 + contrast / (1 + Math.exp(-(x - 320) / 0.6)) + noise * normal(random))));
  });
  return { index: 3, t: 0.12, width, height, luma };
}

const tall = (frame: Frame) => steepLines(frame).filter(({ a, b }) => b[1] - a[1] > 0.5 * frame.height);

describe('a frame at half its size', () => {
  it('shows the lines of a dark and grainy room, where they were', () => {
    const dark = door(14, 3);
    expect(tall(dark)).toEqual([]);
    const half = halfFrame(dark);
    expect(half).toMatchObject({ index: 3, t: 0.12, width: 320, height: 240 });
    const lines = tall(half);
    expect(lines).toHaveLength(1);
    expect(Math.abs(lines[0]!.a[0] - 160)).toBeLessThan(0.7);
    expect(Math.abs(lines[0]!.b[0] - 160)).toBeLessThan(0.7);
  });

  it('finds no line in the grain of an even wall', () => {
    expect(tall(halfFrame(door(0, 4)))).toEqual([]);
  });
});

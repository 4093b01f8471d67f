import { describe, expect, it } from 'vitest';
import type { ImageSegment } from '../../core/geometry/zenith';
import { normal, seededRandom } from '../../core/random';
import type { Frame } from './frame';
import { steepLines } from './steepLines';

const [width, height] = [320, 240];

/** A picture of a brightness per place, with a little noise. */
function draw(at: (x: number, y: number) => number, noise = 2): Frame {
  const random = seededRandom(3);
  const luma = Uint8Array.from({ length: width * height }, (_, i) =>
    Math.max(0, Math.min(255, Math.round(at((i % width) + 0.5, Math.floor(i / width) + 0.5) + noise * normal(random)))),
  );
  return { index: 0, t: 0, width, height, luma };
}

/** Bright to the right of a line that leans by so many degrees through the middle of the picture, blurred as a lens does, or more. */
const edge = (leanDeg: number, contrast = 90, blur = 0.6) => {
  const lean = (leanDeg * Math.PI) / 180;
  return (x: number, y: number) => 80 + contrast / (1 + Math.exp(-((x - width / 2) * Math.cos(lean) - (y - height / 2) * Math.sin(lean)) / blur));
};

const leanOf = ({ a, b }: ImageSegment) => (Math.atan2(b[0] - a[0], b[1] - a[1]) * 180) / Math.PI;
const longest = (segments: readonly ImageSegment[]) => segments.reduce((p, q) => (q.b[1] - q.a[1] > p.b[1] - p.a[1] ? q : p));

describe('steep straight lines of a picture', () => {
  it('are found at their lean to a small part of a degree, nearly from border to border', () => {
    for (const lean of [0, 5, -12, 25]) {
      const line = longest(steepLines(draw(edge(lean))));
      expect(Math.abs(leanOf(line) - lean)).toBeLessThan(0.3);
      expect(line.b[1] - line.a[1]).toBeGreaterThan(0.85 * height);
      const middle = line.a[0] + ((height / 2 - line.a[1]) / (line.b[1] - line.a[1])) * (line.b[0] - line.a[0]);
      expect(Math.abs(middle - width / 2)).toBeLessThan(1);
    }
  });

  it('are found where the film is out of focus, and a wide bend is still none', () => {
    for (const lean of [0, -12]) expect(Math.abs(leanOf(longest(steepLines(draw(edge(lean, 150, 1.3))))) - lean)).toBeLessThan(0.3);
    const bend = (x: number, y: number) => edge(0, 150, 1.3)(x + 0.0006 * (y - height / 2) ** 2, y);
    expect(steepLines(draw(bend)).every(({ a, b }) => b[1] - a[1] < 0.7 * height)).toBe(true);
  });

  it('two beside each other are two', () => {
    const door = steepLines(draw((x) => (x > 100.5 && x < 220.5 ? 190 : 90))).filter(({ a, b }) => b[1] - a[1] > 0.5 * height);
    expect(door).toHaveLength(2);
    const [left, right] = door.map((l) => l.a[0]).sort((p, q) => p - q);
    expect(Math.abs(left! - 100.5)).toBeLessThan(0.75);
    expect(Math.abs(right! - 220.5)).toBeLessThan(0.75);
  });

  it('are not those of the film’s own border: a dark rim, bars beside an upright film', () => {
    const leaning = edge(8);
    const rimmed = steepLines(draw((x, y) => leaning(x, y) * Math.min(1, (x + 1) / 4, (width - x + 1) / 4)));
    const barred = steepLines(draw((x, y) => (x > 70 && x < 250 ? leaning(x, y) + 2 * normal(seededRandom(Math.floor(x * 997 + y))) : 12), 0));
    for (const found of [rimmed, barred]) {
      expect(found.length).toBeGreaterThan(0);
      for (const line of found) expect(Math.abs(leanOf(line) - 8)).toBeLessThan(1);
    }
  });

  it('are not what lies flat, is faint, short, bent, or mere noise', () => {
    expect(steepLines(draw((_, y) => (y > 120 ? 190 : 90)))).toEqual([]);
    expect(steepLines(draw(edge(70)))).toEqual([]);
    expect(steepLines(draw(edge(0, 8), 1))).toEqual([]);
    expect(steepLines(draw((x, y) => (x > 160 && y > 118 && y < 125 ? 190 : 90), 0))).toEqual([]);
    expect(steepLines(draw((x, y) => (Math.hypot(x - 160, y - 120) < 30 ? 190 : 90), 0)).every(({ a, b }) => b[1] - a[1] < 40)).toBe(true);
    expect(steepLines(draw(() => 120, 3))).toEqual([]);
  });
});

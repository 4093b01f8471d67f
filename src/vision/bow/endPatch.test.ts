import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Vec2 } from '../../core/geometry/vec3';
import { normal, seededRandom } from '../../core/random';
import type { Frame } from '../film/frame';
import { EndPatch, type EndScale } from './endPatch';

const [width, height] = [960, 540];
const SCALE: EndScale = { along: 0.8, across: 0.8, slant: 0.2 };
const DIRECTION: Vec2 = [Math.cos(0.3), Math.sin(0.3)];

/** A striped room with a bow whose frog end lies at a place: hair, a dark frog behind it, a bright ferrule between. */
function paintFrog(end: Vec2, seed: number, direction = DIRECTION): Frame {
  const random = seededRandom(seed);
  const luma = new Uint8Array(width * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const [dx, dy] = [x + 0.5 - end[0], y + 0.5 - end[1]];
      const along = dx * direction[0] + dy * direction[1];
      const across = Math.abs(dy * direction[0] - dx * direction[1]);
      let v = 120 + 12 * Math.sin(0.07 * x + 0.03 * y);
      if (along > 0 && across < 4) v = 215;
      if (along > -8 && along <= 0 && across < 6) v = 240;
      if (along > -45 && along <= -8 && across < 11) v = 30;
      luma[y * width + x] = Math.max(0, Math.min(255, v + 4 * normal(random)));
    }
  }
  return { index: 0, t: 0, width, height, luma };
}

const learnt = (end: Vec2, seed = 1) => EndPatch.cut(paintFrog(end, seed), end, DIRECTION, SCALE, 'frog')!;

describe('the look of an end of the bow', () => {
  it('is found again along the bow, to half a pixel, wherever the search begins', () => {
    const start: Vec2 = [480, 270];
    const patch = learnt(start);
    fc.assert(
      fc.property(fc.double({ min: -60, max: 60, noNaN: true }), fc.double({ min: -15, max: 15, noNaN: true }), fc.integer({ min: 2, max: 999 }), (moved, guess, seed) => {
        const end: Vec2 = [start[0] + moved * DIRECTION[0], start[1] + moved * DIRECTION[1]];
        const expected: Vec2 = [end[0] + guess * DIRECTION[0], end[1] + guess * DIRECTION[1]];
        const found = patch.find(paintFrog(end, seed), expected, DIRECTION, SCALE, 25)!;
        expect(Math.hypot(found.point[0] - end[0], found.point[1] - end[1])).toBeLessThan(0.5);
        expect(found.score).toBeGreaterThan(0.8);
        expect(found.clear).toBeGreaterThan(0);
      }),
      { numRuns: 12 },
    );
  });

  it('is not believed at the border of the search', () => {
    const start: Vec2 = [480, 270];
    const far: Vec2 = [start[0] + 26 * DIRECTION[0], start[1] + 26 * DIRECTION[1]];
    const found = learnt(start).find(paintFrog(far, 5), start, DIRECTION, SCALE, 24);
    const gone = found && Math.hypot(found.point[0] - start[0], found.point[1] - start[1]);
    expect(gone ?? 0).toBeLessThan(23);
  });

  it('can neither be learnt nor looked for where too little of it lies in the picture', () => {
    const corner: Vec2 = [4, 4];
    expect(EndPatch.cut(paintFrog(corner, 1), corner, DIRECTION, SCALE, 'frog')).toBeUndefined();
    expect(learnt([480, 270]).likenessAt(paintFrog([480, 270], 2), corner, DIRECTION, SCALE)).toBeUndefined();
  });

  it('looks like itself and not like the room', () => {
    const end: Vec2 = [400, 250];
    const patch = learnt(end);
    const frame = paintFrog(end, 7);
    expect(patch.likenessAt(frame, end, DIRECTION, SCALE)!).toBeGreaterThan(0.85);
    expect(patch.likenessAt(frame, [700, 120], DIRECTION, SCALE)!).toBeLessThan(0.5);
  });

  it('says by how much what lies before the hair is seen nearer the tip once the bow has turned', () => {
    const across = { ...SCALE, slant: 0 };
    const patch = EndPatch.cut(paintFrog([480, 270], 1), [480, 270], DIRECTION, across, 'frog')!;
    expect(patch.parallax(across)).toBe(0);
    // The tip turned away by 30 degrees: of 40 mm before the hair 20 show toward the tip, turned to the camera as many toward the frog.
    expect(-40 * patch.parallax({ ...across, slant: 0.5 })).toBeCloseTo(20 * SCALE.across, 9);
    expect(-40 * patch.parallax({ ...across, slant: -0.5 })).toBeCloseTo(-20 * SCALE.across, 9);
  });

  it('learns how it looks later', () => {
    const end: Vec2 = [480, 270];
    const patch = learnt(end);
    const darker = paintFrog(end, 3);
    const shaded: Frame = { ...darker, luma: darker.luma.map((v, i) => ((i % width) + 0.5 - end[0] < 0 ? v * 0.5 : v)) };
    const before = patch.likenessAt(shaded, end, DIRECTION, SCALE)!;
    for (let k = 0; k < 12; k++) patch.learn(shaded, end, DIRECTION, SCALE);
    expect(patch.likenessAt(shaded, end, DIRECTION, SCALE)!).toBeGreaterThan(before);
  });
});

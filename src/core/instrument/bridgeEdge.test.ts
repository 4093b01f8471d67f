import { describe, expect, it } from 'vitest';
import { normal, seededRandom } from '../random';
import { bridgeEdge } from './bridgeEdge';
import { farEdge, STRIP, stripPitch, stripPlace } from './bridgeTop';
import { dimensionsOf } from './dimensions';
import { instrumentModel } from './landmarks';
import { notches } from './strings';

const MIDDLE = (STRIP.columns - 1) / 2;
const ARM = 4;
const REACH = 9;

/** Frames of a strip: dark wood, from a column on a bright bridge, with grain, `more` laid over it. */
function strips(edge: number, { frames = 20, step = 70, more = (v: number, _row: number, _column: number, _frame: number) => v } = {}): Float32Array[] {
  const random = seededRandom(5);
  return Array.from({ length: frames }, (_, frame) =>
    Float32Array.from({ length: STRIP.rows * STRIP.columns }, (__, cell) => {
      const [row, column] = [Math.floor(cell / STRIP.columns), cell % STRIP.columns];
      // An edge of a pixel's width or two.
      const share = Math.max(0, Math.min(1, (column - MIDDLE - edge) / 3 + 0.5));
      return more(90 + step * share + 6 * normal(random), row, column, frame);
    }),
  );
}

describe('the edge of a bridge in many frames', () => {
  it('is found to a fraction of a column', () => {
    for (const at of [-6, -2.4, 0, 3.3]) {
      const found = bridgeEdge(strips(at), ARM, 0, REACH);
      expect(Math.abs(found!.off - at), `${at}`).toBeLessThan(0.6);
      expect(found!.strength).toBeGreaterThan(50);
      expect(bridgeEdge(strips(at), ARM, 1.5, REACH)!.off).toBeCloseTo(found!.off - 1.5, 6);
      expect(bridgeEdge(strips(at, { step: -50 }), ARM, 0, REACH)!.off, 'a dark bridge').toBeCloseTo(found!.off, 0);
    }
  });
  it('is seen past a bow that comes and goes, and not where it always lies over it', () => {
    const bow = (from: (frame: number) => number) => strips(2, { more: (v, _, column, frame) => (column >= from(frame) && column < from(frame) + 24 ? Number.NaN : v) });
    const [passing, staying] = [bow((frame) => (frame % 5) * 9), bow(() => 24)];
    expect(Math.abs(bridgeEdge(passing, ARM, 0, REACH)!.off - 2)).toBeLessThan(0.6);
    expect(bridgeEdge(staying, ARM, 0, REACH)).toBeUndefined();
  });
  it('is not told by another edge where its own place is hidden', () => {
    const beside = (hidden: boolean) => strips(-7, { more: (v, _, column) => (hidden && column > MIDDLE - 4 ? Number.NaN : v) });
    expect(bridgeEdge(beside(false), 2, 0, REACH)).toBeDefined();
    expect(bridgeEdge(beside(true), 2, 0, REACH)).toBeUndefined();
  });
  it('is not told where it is faint, one of two, or elsewhere in half of the frames', () => {
    expect(bridgeEdge(strips(1, { step: 8 }), ARM, 0, REACH)).toBeUndefined();
    expect(bridgeEdge(strips(-5, { more: (v, _, column) => v - (column > MIDDLE + 5 ? 60 : 0) }), ARM, 0, REACH)).toBeUndefined();
    const twoPlaces = strips(-5).map((strip, frame) => (frame % 2 ? strip : strips(5)[frame]!));
    expect(bridgeEdge(twoPlaces, ARM, 0, REACH)).toBeUndefined();
    expect(bridgeEdge([], ARM, 0, REACH)).toBeUndefined();
    expect(bridgeEdge(strips(-12), ARM, 0, REACH)).toBeUndefined();
  });
});

describe('the strip about the top of a bridge', () => {
  it('follows the arc on which the strings lie', () => {
    const model = instrumentModel(dimensionsOf('violin', '4/4'));
    const middle = stripPlace(model, (STRIP.rows - 1) / 2, MIDDLE);
    // Radius 42 over a spread of 34 (the reference's table): the arc rises 3.6 over the chord; the inner strings lie 3.2 above it.
    expect(middle[0]).toBe(0);
    expect(middle[1]).toBeCloseTo(0, 9);
    expect(middle[2]).toBeCloseTo(42 - Math.sqrt(42 ** 2 - 17 ** 2), 9);
    const { bridge } = notches(model)[1]!;
    const near = Array.from({ length: STRIP.rows }, (_, row) => stripPlace(model, row, MIDDLE)).reduce((a, b) => (Math.abs(b[1] - bridge[1]) < Math.abs(a[1] - bridge[1]) ? b : a));
    expect(Math.abs(near[2] - bridge[2])).toBeLessThan(0.1);
    expect(stripPlace(model, 0, MIDDLE + 10)[0]).toBeCloseTo(10 * stripPitch(model), 9);
  });
  it('ends at the side of the bridge away from the eye', () => {
    const [full, quarter] = ['4/4', '1/4'].map((size) => instrumentModel(dimensionsOf('violin', size)));
    expect(farEdge(full!, 0.7)).toBeCloseTo(-0.65, 9);
    expect(farEdge(full!, -0.7)).toBeCloseTo(0.65, 9);
    expect(farEdge(quarter!, 0.7)).toBeGreaterThan(-0.55);
  });
});

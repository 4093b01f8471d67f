import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { distance, normalize } from '../geometry/vec3';
import { CONTOURS, contourDirection, contourInside, contourPlace, contourShape, contourStations } from './contours';
import { dimensionsOf, sizesOf } from './dimensions';
import { FAMILIES } from './family';
import { instrumentModel, SHAPE } from './landmarks';

const SIZED = FAMILIES.flatMap((family) => sizesOf(family).map((size) => [family, size] as const));
const violin = instrumentModel(dimensionsOf('violin', '4/4'));
const changed = (name: string, by: number) =>
  instrumentModel(
    dimensionsOf('violin', '4/4'),
    Float64Array.from(SHAPE, (s) => (s.name === name ? by : 0)),
  );

describe('contours', () => {
  const stations = contourStations();

  it('have stations on every curve, the same for both sides', () => {
    for (const contour of CONTOURS) expect(stations.filter((s) => s.contour === contour).length, contour).toBeGreaterThanOrEqual(9);
    for (const curve of ['plate', 'back', 'fingerboard'])
      expect(stations.filter((s) => s.contour === `${curve}.low`).map((s) => s.at)).toEqual(stations.filter((s) => s.contour === `${curve}.high`).map((s) => s.at));
  });

  it('lead past the corners, which lie on the rim', () => {
    const rim = stations.filter((s) => s.contour === 'plate.low').map((s) => contourPlace(violin, s));
    for (const corner of ['instrument.upperCorner.low', 'instrument.lowerCorner.low'] as const) {
      const nearest = Math.min(...rim.map((p) => distance(p, violin.landmarks[corner])));
      expect(nearest).toBeGreaterThan(3);
      expect(nearest).toBeLessThan(14);
    }
  });

  it('span the widths of the bouts: 168 above, 112 in the waist, 208 below (from memory, lutherie common practice)', () => {
    const low = stations.filter((s) => s.contour === 'plate.low').map((s) => ({ low: contourPlace(violin, s), high: contourPlace(violin, { ...s, contour: 'plate.high' }) }));
    const widths = low.map(({ low: a, high: b }) => distance(a, b));
    expect(Math.max(...widths)).toBeCloseTo(208, 0);
    expect(Math.min(...widths)).toBeCloseTo(112, 0);
    const upper = widths.slice(0, widths.indexOf(Math.min(...widths)));
    expect(Math.max(...upper)).toBeCloseTo(168, 0);
  });

  it('put the free end of the fingerboard between its corners, arched toward the strings', () => {
    const [low, high] = [violin.landmarks['instrument.fingerboardEnd.low'], violin.landmarks['instrument.fingerboardEnd.high']];
    expect(distance(contourPlace(violin, { contour: 'fingerboard.end', at: 0 }), low)).toBeCloseTo(0, 9);
    expect(distance(contourPlace(violin, { contour: 'fingerboard.end', at: 1 }), high)).toBeCloseTo(0, 9);
    expect(contourPlace(violin, { contour: 'fingerboard.end', at: 0.5 })[2]).toBeGreaterThan((low[2] + high[2]) / 2 + 3);
  });

  it('run across the way inside', () => {
    for (const station of stations) {
      const along = normalize(contourDirection(violin, station));
      const place = contourPlace(violin, station);
      const inside = contourInside(violin, station, 3);
      expect(distance(inside, place)).toBeCloseTo(3, 6);
      const way = normalize([inside[0] - place[0], inside[1] - place[1], inside[2] - place[2]]);
      expect(Math.abs(way[0] * along[0] + way[1] * along[1] + way[2] * along[2]), JSON.stringify(station)).toBeLessThan(0.95);
    }
  });

  it('follow the shape: a wider body moves the rim, higher ribs the back, and neither the fingerboard', () => {
    const move = (name: string, contour: (typeof CONTOURS)[number]) =>
      Math.max(...stations.filter((s) => s.contour === contour).map((s) => distance(contourPlace(changed(name, 2), s), contourPlace(violin, s))));
    expect(move('body width', 'plate.low')).toBeCloseTo(2.5, 1);
    expect(move('rib height', 'back.high')).toBeCloseTo(3, 6);
    expect(move('rib height', 'plate.high')).toBe(0);
    expect(move('body width', 'fingerboard.low')).toBe(0);
  });

  it('depend on the numbers that are said to move them, of any instrument, and on no other', () => {
    const named = contourShape().map((i) => SHAPE[i]!.name);
    expect(named).toEqual(expect.arrayContaining(['body height under the strings', 'body roll', 'fingerboard width', 'body length', 'body width', 'rib height']));
    for (const still of ['scroll x', 'end button z', 'tailpiece end x', 'upper corner low u', 'feet width', 'bridge spread']) expect(named).not.toContain(still);
    const number = fc.double({ min: -2, max: 2, noNaN: true });
    fc.assert(
      fc.property(fc.constantFrom(...SIZED), fc.array(number, { minLength: SHAPE.length, maxLength: SHAPE.length }), fc.nat(stations.length - 1), ([family, size], shape, at) => {
        const dimensions = dimensionsOf(family, size);
        const kept = shape.map((v, i) => (contourShape().includes(i) ? v : 0));
        const station = stations[at]!;
        expect(distance(contourPlace(instrumentModel(dimensions, shape), station), contourPlace(instrumentModel(dimensions, kept), station))).toBeLessThan(1e-9);
      }),
    );
  });
});

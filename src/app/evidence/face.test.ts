import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type BodySighting, everyJoint, type Joints } from '../../core/body/sighting';
import type { Vec2 } from '../../core/geometry/vec3';
import type { TakeMeasures } from '../../core/take/analyse';
import { type Face, facesAt } from './face';

/** A person whose nose is at a place: ears 20 px to either side, a torso of 200 px. */
const personAt = ([x, y]: Vec2): Joints => {
  const off: Partial<Record<string, Vec2>> = {
    'ear.left': [20, 0],
    'ear.right': [-20, 0],
    'shoulder.left': [60, 80],
    'shoulder.right': [-60, 80],
    'hip.left': [40, 280],
    'hip.right': [-40, 280],
  };
  return everyJoint((name) => ({ point: [x + (off[name]?.[0] ?? 0), y + (off[name]?.[1] ?? 0)] as Vec2, space: [0, 0, 0] as const, seen: 1 }));
};
/** A film of 25 frames a second of five seconds; people were looked for at some of its moments. */
const takeOf = (bodies: readonly (Pick<BodySighting, 't'> & Partial<BodySighting>)[], mirrored = false) =>
  ({
    frames: Array.from({ length: 126 }, (_, i) => ({ frame: i, t: i / 25, values: {} })),
    bodies: bodies.map((b) => ({ frame: Math.round(b.t * 25), ...b })),
    solution: { camera: { width: 960 } },
    mirrored,
  }) as unknown as TakeMeasures;
const inside = (face: Face, [x, y]: Vec2) => ((x - face.x) / face.rx) ** 2 + ((y - face.y) / face.ry) ** 2 <= 1;

describe('the oval over a face', () => {
  it('is where the face was seen, mirrored back where the take is', () => {
    const bodies = [{ t: 2, joints: personAt([300, 200]) }];
    const [face] = facesAt(takeOf(bodies), 50)!;
    expect(face!.x).toBeCloseTo(300, 9);
    expect(inside(face!, [300, 200])).toBe(true);
    expect(inside(face!, [300, 280])).toBe(false);
    expect(facesAt(takeOf(bodies, true), 50)![0]!.x).toBeCloseTo(660, 9);
  });

  it('holds a moving face wherever on its way it is between two pictures', () => {
    const place = fc.tuple(fc.integer({ min: 100, max: 800 }), fc.integer({ min: 100, max: 400 }));
    fc.assert(
      fc.property(place, place, fc.integer({ min: 1, max: 19 }), fc.double({ min: 0, max: 1, noNaN: true }), (a, b, frames, k) => {
        const take = takeOf([
          { t: 2, joints: personAt(a) },
          { t: 2 + 20 / 25, joints: personAt(b) },
        ]);
        const [face] = facesAt(take, 50 + frames)!;
        expect(inside(face!, [a[0] + k * (b[0] - a[0]), a[1] + k * (b[1] - a[1])])).toBe(true);
      }),
    );
  });

  it('goes with the face without growing where it keeps still', () => {
    const still = [2, 2.2].map((t) => ({ t, joints: personAt([300, 200]) }));
    expect(facesAt(takeOf(still), 52)).toEqual(facesAt(takeOf(still), 50));
  });

  it('is not known more than a second from where the face was seen: nothing is covered by guess', () => {
    const take = takeOf([{ t: 1, joints: personAt([300, 200]) }, { t: 3.5 }]);
    expect(facesAt(take, 50)).toBeDefined();
    expect(facesAt(take, 51)).toBeUndefined();
    expect(facesAt(take, 88)).toBeUndefined();
    expect(facesAt(takeOf([]), 0)).toBeUndefined();
  });

  it('covers bystanders for a second about where they were seen, after the player', () => {
    const take = takeOf([
      { t: 2, joints: personAt([300, 200]), others: [personAt([700, 150])] },
      { t: 2.4, joints: personAt([300, 200]) },
    ]);
    const faces = facesAt(take, 58)!;
    expect(faces.map((f) => Math.round(f.x))).toEqual([300, 700]);
    expect(facesAt(take, 80)!.map((f) => Math.round(f.x))).toEqual([300]);
  });
});

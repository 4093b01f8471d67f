import { describe, expect, it } from 'vitest';
import type { Vec2 } from '../geometry/vec3';
import { joinAlternate } from './alternateLooks';
import { type BodySighting, everyJoint, type Look } from './sighting';

/** A joint on its way, as a look sees it that errs by half of `error`. */
const moving = (t: number): Vec2 => [300 + 80 * Math.sin(2 * t), 200 + 30 * Math.cos(2 * t)];
const error: Vec2 = [6, -4];
const half = { plain: -0.5, mirrored: 0.5 } as const;
const seen = (t: number, look: Look | undefined): BodySighting => {
  const off = look ? half[look] : 0;
  const [u, v] = moving(t);
  return {
    frame: Math.round(25 * t),
    t,
    ...(look ? { look } : {}),
    joints: everyJoint(() => ({ point: [u + off * error[0], v + off * error[1]], space: [0, 0, 100 * off], seen: 1 })),
  };
};
const byTurns = Array.from({ length: 16 }, (_, k) => seen(0.2 * k, k % 2 ? 'mirrored' : 'plain'));

describe('looks by turns', () => {
  it('are joined as if each picture had been seen in both', () => {
    for (const body of joinAlternate(byTurns)) {
      const { point, space, apart } = body.joints!['wrist.right'];
      const [u, v] = moving(body.t);
      expect(Math.hypot(point[0] - u, point[1] - v)).toBeLessThan(0.25 * Math.hypot(...error));
      expect(apart).toBeGreaterThan(0.5 * Math.hypot(...error));
      expect(apart).toBeLessThan(1.5 * Math.hypot(...error));
      expect(Math.abs(space[2])).toBeLessThan(15);
      expect(body.look).toBeUndefined();
    }
  });

  it('leave what both looks saw, and pictures in which nobody was found', () => {
    const both = seen(1.1, undefined);
    const nobody: BodySighting = { frame: 30, t: 1.2 };
    const out = joinAlternate([...byTurns.slice(0, 5), both, nobody, ...byTurns.slice(7)]);
    expect(out[5]).toEqual(both);
    expect(out[6]).toEqual(nobody);
  });

  it('one look with no other about it is taken as it is, and says nothing of its error', () => {
    const [alone] = joinAlternate([seen(0, 'plain')]);
    expect(alone!.joints!.nose).toEqual(seen(0, 'plain').joints!.nose);
    const apart = joinAlternate([seen(0, 'plain'), seen(2, 'mirrored'), seen(4, 'plain')]);
    expect(apart.every((b) => b.joints!.nose.apart === undefined)).toBe(true);
  });
});

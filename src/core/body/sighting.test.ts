import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Vec2 } from '../geometry/vec3';
import { BODY_JOINTS, everyJoint, joinLooks, mirrorBody, mirrorJoints, otherSide } from './sighting';

const WIDTH = 960;
const number = fc.double({ min: -500, max: 1500, noNaN: true });
const looks = fc
  .array(fc.record({ point: fc.tuple(number, number), space: fc.tuple(number, number, number), seen: fc.double({ min: 0, max: 1, noNaN: true }) }), {
    minLength: BODY_JOINTS.length,
    maxLength: BODY_JOINTS.length,
  })
  .map((list) => everyJoint((name) => list[BODY_JOINTS.indexOf(name)]!));

const close = (a: readonly number[], b: readonly number[]) => a.forEach((v, i) => void expect(v).toBeCloseTo(b[i]!, 6));

describe('joints in a mirror', () => {
  it('are on the other side, and back again in a second mirror', () => {
    fc.assert(
      fc.property(looks, (joints) => {
        const mirrored = mirrorJoints(joints, WIDTH);
        expect(mirrored['elbow.left'].point[0]).toBeCloseTo(WIDTH - joints['elbow.right'].point[0], 6);
        const back = mirrorJoints(mirrored, WIDTH);
        for (const name of BODY_JOINTS) {
          close(back[name].point, joints[name].point);
          close(back[name].space, joints[name].space);
          expect(back[name].seen).toBe(joints[name].seen);
        }
      }),
    );
  });

  it('keep what is known of how far two looks lay apart, hands and time', () => {
    const joints = everyJoint((name) => {
      const i = BODY_JOINTS.indexOf(name);
      return { point: [i, 2 * i], space: [i, 0, 1], seen: 0.9, apart: i };
    });
    const body = mirrorBody({ frame: 7, t: 0.28, joints, others: [joints], bowHand: [[10, 20]], heldBow: [{ point: [12, 20], sigma: 3, deeper: 9 }], neckSought: true }, WIDTH);
    expect(body).toMatchObject({ frame: 7, t: 0.28, bowHand: [[950, 20]], heldBow: [{ point: [948, 20], sigma: 3, deeper: 9 }], neckSought: true });
    for (const name of BODY_JOINTS) expect(body.joints![name].apart).toBe(joints[otherSide(name)].apart);
    expect(body.others).toEqual([body.joints]);
    expect(mirrorBody({ frame: 1, t: 0 }, WIDTH)).toEqual({ frame: 1, t: 0 });
  });
});

describe('two looks at the same joints', () => {
  it('give the middle and their distance, whichever came first', () => {
    fc.assert(
      fc.property(looks, looks, (a, b) => {
        const [ab, ba] = [joinLooks(a, b), joinLooks(b, a)];
        for (const name of BODY_JOINTS) {
          const { point, apart, seen } = ab[name];
          const far = ([x, y]: Vec2) => Math.hypot(point[0] - x, point[1] - y);
          expect(far(a[name].point)).toBeCloseTo(far(b[name].point), 6);
          expect(apart).toBeCloseTo(2 * far(a[name].point), 6);
          expect(seen).toBeCloseTo((a[name].seen + b[name].seen) / 2, 9);
          close(ba[name].point, point);
          close(ba[name].space, ab[name].space);
        }
      }),
    );
  });

  it('that agree are one look with nothing between', () => {
    fc.assert(
      fc.property(looks, (a) => {
        for (const [name, joint] of Object.entries(joinLooks(a, a))) {
          expect(joint.apart).toBe(0);
          close(joint.point, a[name as (typeof BODY_JOINTS)[number]].point);
        }
      }),
    );
  });
});

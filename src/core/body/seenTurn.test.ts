import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addScaled, cross, normalize, RADIANS, scale, type Vec3 } from '../geometry/vec3';
import { seenTurn, type TrunkInSpace, turnFrom, turnResidual } from './seenTurn';

const DOWN = 15 * RADIANS;
/** The camera looks down by 15 degrees. */
const up: Vec3 = [0, -Math.cos(DOWN), -Math.sin(DOWN)];
const ahead = (sight: Vec3) => normalize(addScaled(sight, up, -(sight[0] * up[0] + sight[1] * up[1] + sight[2] * up[2])));
/** The way from right to left of a player turned by so many degrees against that line of sight. */
const turned = (degrees: number, sight: Vec3 = [0, 0, 1]): Vec3 =>
  addScaled(scale(cross(ahead(sight), up), Math.cos(degrees * RADIANS)), ahead(sight), Math.sin(degrees * RADIANS));

describe('the turn of a trunk', () => {
  it('is nothing squarely to the camera, a quarter with the left side away, whatever the sight and the lean', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -80, max: 80, noNaN: true }),
        fc.double({ min: -0.5, max: 0.5, noNaN: true }),
        fc.double({ min: -0.3, max: 0.3, noNaN: true }),
        (degrees, x, lean) => {
          const sight: Vec3 = [x, 0.2, 1];
          expect(turnFrom(addScaled(turned(degrees, sight), up, lean), sight, up)).toBeCloseTo(degrees, 8);
        },
      ),
    );
    expect(turnFrom([400, 0, 0], [0, 0, 1], up)).toBeCloseTo(0, 8);
    expect(turnFrom([0, 0, 400], [0, 0, 1], up)).toBeCloseTo(90, 8);
  });

  /** What a network that tells half of the turn, and too much by nine degrees, has of the player. */
  const look = (shoulders: number, hips: number): TrunkInSpace => {
    const corners = {
      'shoulder.right': [0, -500, 0],
      'shoulder.left': addScaled([0, -500, 0], turned(shoulders), 320),
      'hip.right': [0, 0, 0],
      'hip.left': addScaled([0, 0, 0], turned(hips), 180),
    } as const;
    return (corner) => corners[corner];
  };

  it('is read from a network that flattens it: about twice what it tells, less what the arms add', () => {
    const told = (degrees: number) => seenTurn([look(degrees, degrees)], up)!;
    expect(told(8.5)).toBeCloseTo(0, 6);
    expect(told(20) - told(10)).toBeCloseTo(10 / 0.53, 6);
    expect(told(-2)).toBeLessThan(-15);
  });

  it('takes the middle of many looks, and shoulders and hips by halves', () => {
    expect(seenTurn([look(10, 10), look(14, 14), look(48, 48)], up)).toBeCloseTo(seenTurn([look(14, 14)], up)!, 6);
    expect(seenTurn([look(20, 0)], up)).toBeCloseTo(seenTurn([look(10, 10)], up)!, 6);
  });

  it('is not told of a player seen from the side, from behind, or without hips', () => {
    expect(seenTurn([look(70, 60)], up)).toBeUndefined();
    expect(seenTurn([look(170, 170)], up)).toBeUndefined();
    expect(seenTurn([(corner) => (corner.startsWith('hip') ? undefined : look(10, 10)(corner))], up)).toBeUndefined();
    expect(seenTurn([], up)).toBeUndefined();
  });

  it('holds shoulders to it by its doubt', () => {
    const right: Vec3 = [-160, -100, 1500];
    const left = addScaled(right, turned(10, right), 320);
    const at = turnFrom(addScaled(left, right, -1), addScaled(right, turned(10, right), 160), up);
    expect(turnResidual(right, left, at, up)).toBeCloseTo(0, 8);
    expect(turnResidual(right, left, at - 11, up)).toBeCloseTo(1, 8);
  });
});

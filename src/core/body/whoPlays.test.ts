import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Vec2 } from '../geometry/vec3';
import { type BodyJoint, type BodySighting, everyJoint, type Joints } from './sighting';
import { playerAmong, whoPlays, withoutBystanders } from './whoPlays';

/** Someone who stands at x, 200 px from shoulders to hips, with the wrists at places. */
function person(x: number, right: Vec2, left: Vec2): Joints {
  const at: Partial<Record<BodyJoint, Vec2>> = {
    'shoulder.left': [x + 60, 200],
    'shoulder.right': [x - 60, 200],
    'hip.left': [x + 40, 400],
    'hip.right': [x - 40, 400],
    'wrist.right': right,
    'wrist.left': left,
  };
  return everyJoint((name) => ({ point: at[name] ?? [x, 300], space: [0, 0, 0], seen: 1 }));
}

const bow: Vec2 = [260, 260];
const neck: Vec2 = [430, 230];
const player = person(300, [250, 270], [425, 240]);
const teacher = person(700, [640, 410], [760, 410]);

describe('who plays', () => {
  it('is the one whose hands are at bow and neck, however plain another is to see', () => {
    expect(whoPlays([teacher, player], { bow, neck })).toBe(player);
    expect(whoPlays([player, teacher], { bow, neck })).toBe(player);
    expect(whoPlays([teacher, player], { bow })).toBe(player);
    expect(whoPlays([teacher, player], { neck })).toBe(player);
  });

  it('may be left-handed', () => {
    const leftHanded = person(350, [430, 240], [255, 270]);
    expect(whoPlays([teacher, leftHanded], { bow, neck })).toBe(leftHanded);
  });

  it('is the only one there, wherever the hands are: at rest they may be anywhere', () => {
    const resting = person(300, [240, 420], [350, 410]);
    expect(whoPlays([resting], { bow, neck })).toBe(resting);
    expect(whoPlays([teacher, resting], { neck })).toBe(resting);
  });

  it('is the plainest to see where nothing tells', () => {
    expect(whoPlays([teacher, player], {})).toBe(teacher);
    expect(whoPlays([], {})).toBeUndefined();
  });

  it('is still known where the network errs by a third of the torso', () => {
    const off = fc.double({ min: -45, max: 45, noNaN: true });
    fc.assert(
      fc.property(off, off, off, off, (a, b, c, d) => {
        const seen = person(300, [bow[0] + a, bow[1] + b], [neck[0] + c, neck[1] + d]);
        expect(whoPlays([teacher, seen], { bow, neck })).toBe(seen);
      }),
    );
  });

  it('does not hang on how large the picture is', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.2, max: 4, noNaN: true }), (k) => {
        const scaled = (j: Joints): Joints => everyJoint((name) => ({ ...j[name], point: [k * j[name].point[0], k * j[name].point[1]] }));
        const hands = { bow: [k * bow[0], k * bow[1]] as Vec2, neck: [k * neck[0], k * neck[1]] as Vec2 };
        const [t, p] = [scaled(teacher), scaled(player)];
        expect(whoPlays([t, p], hands)).toBe(p);
      }),
    );
  });
});

describe('two looks at one picture', () => {
  const moved = person(320, [255, 272], [428, 238]);
  it('join the player of both, and never two people', () => {
    const { joints, others } = playerAmong([player, teacher], [teacher, moved], { bow, neck });
    expect(joints!['wrist.right'].point).toEqual([252.5, 271]);
    expect(others).toEqual([teacher]);
    expect(playerAmong([player], [teacher], { bow, neck })).toEqual({ joints: player, others: [teacher] });
  });
  it('find the player where one of them missed that person', () => {
    expect(playerAmong([teacher], [teacher, player], { bow, neck })).toEqual({ joints: player, others: [teacher] });
    expect(playerAmong([], [player], {})).toEqual({ joints: player });
    expect(playerAmong([], [], { bow })).toEqual({});
  });
});

describe('a bystander', () => {
  const swaying = (frame: number) => person(300 + 40 * Math.sin(frame), [250, 270], [425, 240]);
  const film = (at: (frame: number) => Omit<BodySighting, 'frame' | 't'>) => Array.from({ length: 12 }, (_, frame): BodySighting => ({ frame, t: frame / 5, ...at(frame) }));

  it('alone is not measured where the film shows several people, and is still covered', () => {
    const out = withoutBystanders(film((i) => (i === 5 ? { joints: teacher, bowHand: [[1, 2]] } : { joints: swaying(i), ...(i % 2 ? { others: [teacher] } : {}) })));
    expect(out[5]!.joints).toBeUndefined();
    expect(out[5]).toMatchObject({ frame: 5, bowHand: [[1, 2]] });
    expect(out[5]!.others).toEqual([teacher]);
    expect(out.filter((b) => b.joints)).toHaveLength(11);
  });

  it('is not suspected where one person is seen throughout, however the player moves', () => {
    const alone = film((i) => ({ joints: person(300 + 60 * i, [250, 270], [425, 240]) }));
    expect(withoutBystanders(alone)).toEqual(alone);
    expect(withoutBystanders(film(() => ({})))).toHaveLength(12);
  });
});

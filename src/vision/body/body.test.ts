import { describe, expect, it } from 'vitest';
import { type BodyJoint, everyJoint, type Look } from '../../core/body/sighting';
import type { BowOnString } from '../../core/bow/bowState';
import { NO_BOW } from '../../core/bow/sighting';
import { cameraFromFieldOfView, project } from '../../core/geometry/camera';
import { toOuter } from '../../core/geometry/pose';
import { fromRotationVector } from '../../core/geometry/rotation';
import type { Vec2 } from '../../core/geometry/vec3';
import { dimensionsOf } from '../../core/instrument/dimensions';
import { instrumentModel } from '../../core/instrument/landmarks';
import type { TakeMeasures } from '../../core/take/analyse';
import { type BowHandPlace, bowHandPlaces, holdsBow, mirrorBowHand, placeByArm } from './bowHand';
import { isAtNeck, neckHandPlaces } from './neckHand';
import { framesToSee, seeBody } from './seeBody';

const times = Float64Array.from({ length: 60 }, (_, i) => i / 30);

describe('which frames the networks look at', () => {
  it('every few, and those that were marked, once each and in order', () => {
    const frames = framesToSee(times, [7, 10]);
    expect(frames).toContain(7);
    expect(frames).toEqual([...new Set(frames)].sort((a, b) => a - b));
    expect(framesToSee(times).length).toBeLessThan(times.length / 4);
    expect(framesToSee(times)[0]).toBe(0);
  });
  it('more of them about a change of string, at other times after each', () => {
    const long = Float64Array.from({ length: 300 }, (_, i) => i / 30);
    const changes = [1, 2, 3, 4, 5, 6, 7, 8];
    const frames = framesToSee(long, [], changes);
    const after = changes.map((c) => frames.map((i) => long[i]! - c).filter((d) => d > -0.1 && d < 0.4));
    for (const near of after) expect(near.length).toBeGreaterThanOrEqual(3);
    expect(new Set(after.map((near) => near.at(-1)!.toFixed(2))).size).toBeGreaterThan(2);
    expect(frames.length).toBeLessThan(1.6 * framesToSee(long).length);
  });
  it('keeps sightings in the order of the film whatever is answered first, and stops when asked to', async () => {
    const source = {
      times,
      async *pictures(frames: readonly number[]) {
        for (const index of frames) yield { index, picture: {} as ImageBitmap };
      },
    };
    let call = 0;
    const slowFirst = () => new Promise<object>((done) => setTimeout(() => done({}), call++ % 2 ? 1 : 12));
    const told: number[] = [];
    const seen = await seeBody(source, slowFirst, () => ({}), { onProgress: (done) => told.push(done) });
    expect(seen.map((s) => s.frame)).toEqual(framesToSee(times));
    expect(told.at(-1)).toBe(seen.length);
    // The picture and its mirror image by turns; both where joints were marked.
    const looks: (Look | undefined)[] = [];
    await seeBody(
      source,
      async (_picture, _hands, { look }) => (looks.push(look), {}),
      () => ({}),
      { marked: [7] },
    );
    expect(looks.slice(0, 4)).toEqual(['plain', 'mirrored', undefined, 'plain']);
    const stop = new AbortController();
    stop.abort(new Error('stopped'));
    await expect(seeBody(source, slowFirst, () => ({}), { signal: stop.signal })).rejects.toThrow('stopped');
  });
});

const model = instrumentModel(dimensionsOf('violin', '4/4'));
const bow: BowOnString = { state: { contact: 28, skew: 0, inclination: -7.7, position: 0.3 }, string: 2 };
const take = {
  family: 'violin',
  dimensions: dimensionsOf('violin', '4/4'),
  solution: { camera: cameraFromFieldOfView(960, 540), model },
  tracked: [
    { index: 4, t: 0.1, pose: { rotation: fromRotationVector([2.5, 0.4, 0.5]), translation: [0, 0, 1200] }, quality: 1, sighting: NO_BOW },
    { index: 5, t: 0.2, pose: undefined, quality: 0, sighting: NO_BOW },
  ],
  bows: [bow, bow],
} as unknown as TakeMeasures;

describe('where the bow hand is looked for', () => {
  const place = bowHandPlaces(take).get(4)!;
  it('near the frog, in a square of a hand, and nowhere without a pose', () => {
    expect(bowHandPlaces(take).has(5)).toBe(false);
    expect(Math.hypot(place.centre[0] - place.frog[0], place.centre[1] - place.frog[1])).toBeLessThan(0.5 * place.side);
    expect(Math.hypot(...place.bow)).toBeCloseTo(1);
  });
  it('on the other side in a mirror', () => {
    const there = mirrorBowHand(place, 960);
    expect(there.frog[0]).toBeCloseTo(960 - place.frog[0]);
    expect(mirrorBowHand(there, 960).centre[0]).toBeCloseTo(place.centre[0]);
    expect(there.square).toMatchObject({ mirrored: true, side: place.square.side, bow: place.square.bow });
    expect(there.square.centre[0]).toBeCloseTo(960 - place.square.centre[0]);
  });
});

/** A hand's place of that side at a bow that points to the right. */
const placeAt = (side: number): BowHandPlace => ({
  centre: [100, 80],
  side,
  bow: [1, 0],
  frog: [100, 100],
  square: { centre: [100, 78], side, size: 1, bow: [1, 0, 0, 0, -1, 0], mirrored: false },
});

describe('a hand that holds the bow', () => {
  const place = placeAt(90);
  /** Knuckles along the stick, fingertips about a place. */
  const hand = (index: Vec2, little: Vec2, tips: Vec2): Vec2[] =>
    Array.from({ length: 21 }, (_, i) => (i === 5 ? index : i === 17 ? little : [8, 12, 16].includes(i) ? tips : [100, 80]));
  it('has its knuckles along the stick and its fingertips at the frog', () => {
    expect(holdsBow(hand([115, 80], [90, 82], [102, 100]), place)).toBe(true);
  });
  it('is not one whose thumb and little finger were swapped, nor one far off', () => {
    expect(holdsBow(hand([90, 80], [115, 82], [102, 100]), place)).toBe(false);
    expect(holdsBow(hand([115, 80], [90, 82], [150, 140]), place)).toBe(false);
  });
});

/** A body of which only the arms matter. */
function arms(elbow: Vec2, wrist: Vec2, otherElbow: Vec2 = [900, 900], otherWrist: Vec2 = [900, 900]) {
  const at: Partial<Record<BodyJoint, Vec2>> = { 'elbow.right': elbow, 'wrist.right': wrist, 'elbow.left': otherElbow, 'wrist.left': otherWrist };
  return everyJoint((j) => ({ point: at[j] ?? [0, 0], space: [0, 0, 0], seen: 1 }));
}

describe('a bow hand where the arm leads to', () => {
  const place = placeAt(80);
  it('is looked for along the bow from where it was not found', () => {
    const there = placeByArm(place, arms([160, 180], [210, 90]))!;
    expect(there.centre[1]).toBe(80);
    expect(there.centre[0]).toBeCloseTo(210 + 0.25 * 50);
    expect(there.frog[0] - there.centre[0]).toBeCloseTo(place.frog[0] - place.centre[0]);
    expect(there.square.centre[0] - there.centre[0]).toBeCloseTo(place.square.centre[0] - place.centre[0]);
  });
  it('is not looked for twice in one place', () => {
    expect(placeByArm(place, arms([40, 180], [90, 90]))).toBeUndefined();
  });
  it('is not the hand at the neck: with the bow hand in its place the other is not taken, nor one far from the bow', () => {
    expect(placeByArm(place, arms([40, 180], [90, 90], [300, 200], [260, 110]))).toBeUndefined();
    expect(placeByArm(place, arms([160, 400], [210, 300]))).toBeUndefined();
  });
  it('is the left of a left-handed player', () => {
    expect(placeByArm(place, arms([400, 500], [500, 600], [160, 180], [210, 90]))!.centre[0]).toBeCloseTo(222.5);
  });
});

describe('the hand at the neck', () => {
  it('is looked for by the scroll, in a square of a hand; not at a cello, nor without a pose', () => {
    const places = neckHandPlaces(take);
    expect([...places.keys()]).toEqual([4]);
    const { centre, side } = places.get(4)!;
    const seen = (name: 'instrument.nut.high' | 'instrument.tailpieceEnd') => project(take.solution.camera, toOuter(take.tracked[0]!.pose!, model.landmarks[name]))!;
    const [nut, tail] = [seen('instrument.nut.high'), seen('instrument.tailpieceEnd')];
    expect(Math.hypot(centre[0] - nut[0], centre[1] - nut[1])).toBeLessThan(0.6 * side);
    expect(Math.hypot(centre[0] - tail[0], centre[1] - tail[1])).toBeGreaterThan(side);
    expect(neckHandPlaces({ ...take, family: 'cello' }).size).toBe(0);
  });
  it('is a hand there of about the right size', () => {
    const place = { centre: [100, 80] as Vec2, side: 90 };
    const hand = (x: number, y: number, size: number) => Array.from({ length: 21 }, (_, i): Vec2 => [x + size * Math.cos(i), y + size * Math.sin(i)]);
    expect(isAtNeck(hand(108, 84, 14), place)).toBe(true);
    expect(isAtNeck(hand(150, 84, 14), place)).toBe(false);
    expect(isAtNeck(hand(100, 80, 3), place)).toBe(false);
    expect(isAtNeck(hand(100, 80, 60), place)).toBe(false);
  });
  it('is looked for now and then', async () => {
    const long = Float64Array.from({ length: 150 }, (_, i) => i / 30);
    const source = {
      times: long,
      async *pictures(frames: readonly number[]) {
        for (const index of frames) yield { index, picture: {} as ImageBitmap };
      },
    };
    const asked: number[] = [];
    const square = { centre: [1, 2] as Vec2, side: 3 };
    const seen = await seeBody(
      source,
      async (_, { neck }, { neckToo }) => {
        // By its place the player is known in every picture.
        expect(neck).toEqual(square);
        if (neckToo) asked.push(1);
        return {};
      },
      () => ({ neck: square }),
    );
    expect(asked).toHaveLength(2);
    expect(seen.filter((s) => s.neckSought).map((s) => s.t)).toEqual([0, 3]);
  });
});

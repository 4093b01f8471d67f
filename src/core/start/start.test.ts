import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { marksToText, parseMarks } from '../formats/marks';
import { cameraFromFieldOfView, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { fromRotationVector, multiply, rotationDistance } from '../geometry/rotation';
import { DEGREES, type Vec2 } from '../geometry/vec3';
import { dimensionsOf } from '../instrument/dimensions';
import { type INSTRUMENT_LANDMARKS, instrumentModel } from '../instrument/landmarks';
import { normal, seededRandom } from '../random';
import { chooseStart } from './chooseStart';
import { type FusedPoint, fuseLooks } from './fuse';
import { CELLS, INPUT, NETWORK_POINTS, readMaps } from './landmarkMaps';
import { type FrameLook, REFUSAL_WORDS, REFUSALS } from './outcome';
import { placeInstrument } from './placeInstrument';
import { playerRegion } from './playerRegion';
import { fromInput, type Square, toInput } from './square';
import { startMarks } from './startMarks';

const camera = cameraFromFieldOfView(960, 540);
const model = instrumentModel(dimensionsOf('violin', '4/4'));

/** Facing the camera from above, turned by a vector. */
const poseTurned = (w: readonly [number, number, number]): Pose => ({
  rotation: multiply(fromRotationVector([...w]), multiply(fromRotationVector([0, 0, 0.6]), fromRotationVector([Math.PI - 0.7, 0, 0]))),
  translation: [-40, 20, 1100],
});

function pointsOf(pose: Pose, noise: number, seed: number, wrong: readonly number[] = []): FusedPoint[] {
  const random = seededRandom(seed);
  return NETWORK_POINTS.map((name, i) => {
    const image = name.startsWith('bow.') ? undefined : project(camera, toOuter(pose, model.landmarks[name as (typeof INSTRUMENT_LANDMARKS)[number]]));
    const [u, v] = image ?? [0, 0];
    const off: Vec2 = wrong.includes(i) ? [70 * (random() - 0.5) + 60, 50] : [noise * normal(random), noise * normal(random)];
    return { name, point: [u + off[0], v + off[1]], sigma: Math.max(noise, 0.5), confidence: image ? 0.8 : 0 };
  });
}

describe('squares', () => {
  it('lead there and back', () => {
    fc.assert(
      fc.property(
        fc.record({
          x: fc.integer({ min: 0, max: 960 }),
          y: fc.integer({ min: 0, max: 540 }),
          side: fc.integer({ min: 40, max: 900 }),
          turn: fc.double({ min: -3, max: 3, noNaN: true }),
        }),
        fc.tuple(fc.double({ min: 0, max: 191, noNaN: true }), fc.double({ min: 0, max: 191, noNaN: true })),
        ({ x, y, side, turn }, place) => {
          const square: Square = { middle: [x, y], side, turn };
          const [u, v] = toInput(square, fromInput(square, place));
          expect(u).toBeCloseTo(place[0], 6);
          expect(v).toBeCloseTo(place[1], 6);
        },
      ),
    );
  });

  it('turn as a canvas does: the square turned by a quarter shows below what lies to the right', () => {
    const square: Square = { middle: [100, 100], side: INPUT, turn: Math.PI / 2 };
    const [x, y] = toInput(square, [110, 100]);
    expect(x).toBeCloseTo(INPUT / 2 - 0.5, 6);
    expect(y).toBeCloseTo(INPUT / 2 - 0.5 + 10, 6);
  });
});

describe('maps', () => {
  const mapsWith = (place: Vec2, spread: number, height = 12): Float32Array => {
    const maps = new Float32Array(NETWORK_POINTS.length * CELLS * CELLS);
    const at = place.map((c) => ((c + 0.5) * CELLS) / INPUT - 0.5);
    for (let n = 0; n < NETWORK_POINTS.length; n++)
      for (let y = 0; y < CELLS; y++) for (let x = 0; x < CELLS; x++) maps[(n * CELLS + y) * CELLS + x] = height - ((x - at[0]!) ** 2 + (y - at[1]!) ** 2) / (2 * spread ** 2);
    return maps;
  };

  it('are read to a fraction of a cell, less what the weights were taught off', () => {
    fc.assert(
      fc.property(fc.double({ min: 20, max: 170, noNaN: true }), fc.double({ min: 20, max: 170, noNaN: true }), (x, y) => {
        const [seen] = readMaps(mapsWith([x, y], 0.8));
        expect(seen!.place[0]).toBeCloseTo(x, 1);
        expect(seen!.place[1]).toBeCloseTo(y, 1);
        expect(seen!.confidence).toBeGreaterThan(0.98);
      }),
    );
  });

  it('that are flat give no confidence, and peaks at the border little', () => {
    expect(readMaps(mapsWith([90, 90], 400))[0]!.confidence).toBeLessThan(0.1);
    expect(readMaps(mapsWith([3, 90], 0.8))[0]!.confidence).toBeLessThan(0.06);
  });
});

describe('fusing looks', () => {
  const look = (place: Vec2, confidence: number) => ({
    square: { middle: [INPUT / 2, INPUT / 2] as Vec2, side: INPUT, turn: 0 },
    seen: NETWORK_POINTS.map(() => ({ place, confidence })),
  });

  it('keeps to what most looks say', () => {
    const [p] = fuseLooks([look([50, 60], 0.8), look([51, 60], 0.8), look([50, 61], 0.8), look([120, 20], 0.7)]);
    expect(Math.hypot(p!.point[0] - 50.3, p!.point[1] - 60.3)).toBeLessThan(1.5);
  });

  it('asks only looks whose square reaches to the point', () => {
    const wide = look([150, 60], 0.9);
    const near = { square: { middle: [40, 60] as Vec2, side: 80, turn: 0 }, seen: NETWORK_POINTS.map(() => ({ place: [100, 96] as Vec2, confidence: 0.1 })) };
    const [p] = fuseLooks([wide, wide, near]);
    expect(p!.confidence).toBeCloseTo(0.9, 6);
    expect(Math.hypot(p!.point[0] - 150.5, p!.point[1] - 60.5)).toBeLessThan(0.1);
  });

  it('is less sure where looks differ', () => {
    const near = fuseLooks([look([50, 60], 0.8), look([50.5, 60], 0.8)])[0]!;
    const far = fuseLooks([look([50, 60], 0.8), look([58, 60], 0.8)])[0]!;
    expect(far.sigma).toBeGreaterThan(1.5 * near.sigma);
  });
});

describe('placing the instrument', () => {
  it('finds the pose from noisy points', () => {
    fc.assert(
      fc.property(fc.tuple(...Array.from({ length: 3 }, () => fc.double({ min: -0.35, max: 0.35, noNaN: true }))), fc.integer({ min: 1, max: 1e6 }), (w, seed) => {
        const pose = poseTurned(w as [number, number, number]);
        const placed = placeInstrument(camera, model, pointsOf(pose, 1.2, seed));
        expect(placed).toBeDefined();
        expect(rotationDistance(placed!.pose.rotation, pose.rotation) * DEGREES).toBeLessThan(9);
        expect(placed!.support).toBeGreaterThan(0.6);
      }),
      { numRuns: 25 },
    );
  });

  it('leaves wrong points out', () => {
    const pose = poseTurned([0.1, 0.1, 0]);
    const wrong = [NETWORK_POINTS.indexOf('instrument.scroll'), NETWORK_POINTS.indexOf('instrument.nut.low'), NETWORK_POINTS.indexOf('instrument.lowerCorner.high')];
    const placed = placeInstrument(camera, model, pointsOf(pose, 0.8, 5, wrong))!;
    expect(placed.sightings.map((s) => s.landmark)).not.toContain('instrument.scroll');
    expect(rotationDistance(placed.pose.rotation, pose.rotation) * DEGREES).toBeLessThan(6);
  });

  it('refuses points without order', () => {
    const random = seededRandom(3);
    const points: FusedPoint[] = NETWORK_POINTS.map((name) => ({ name, point: [960 * random(), 540 * random()], sigma: 1.5, confidence: 0.7 }));
    const placed = placeInstrument(camera, model, points);
    expect(placed === undefined || placed.support < 0.45).toBe(true);
  });
});

describe('choosing a start', () => {
  const look = (index: number, turn: number, change: Partial<NonNullable<FrameLook['placed']>> = {}): FrameLook => ({
    index,
    t: index / 25,
    player: true,
    light: 120,
    placed: { pose: poseTurned([0, 0, turn]), sightings: [], support: 0.8, misfit: 0.008, length: 240, facing: 0.6, ...change },
  });
  const refusal = (looks: readonly FrameLook[]) => {
    const choice = chooseStart(looks, 1);
    return 'refused' in choice ? choice.refused : 'started';
  };

  it('takes the best of frames that agree, one with the bow first', () => {
    const looks = [look(0, 0), look(10, 0.02, { support: 0.9 }), { ...look(20, 0.03), bow: { frog: [0, 0] as Vec2, tip: [1, 1] as Vec2, frogReckoned: false, sure: 0.1 } }];
    const choice = chooseStart(looks, 1);
    expect('starts' in choice && choice.starts.map((s) => s.index)).toEqual([20, 10, 0]);
  });

  it('prefers a bow that lies across the picture to one that points at the camera', () => {
    const withBow = (index: number, length: number, sure: number): FrameLook => ({ ...look(index, 0), bow: { frog: [0, 0], tip: [length, 0], frogReckoned: true, sure } });
    const choice = chooseStart([withBow(0, 200, 0.9), withBow(10, 500, 0.6), withBow(20, 480, 0.5)], 1);
    expect('starts' in choice && choice.starts.map((s) => s.index)).toEqual([10, 20, 0]);
  });

  it('never starts on frames that do not agree, nor on too few', () => {
    expect(refusal([look(0, 0), look(10, 0.6), look(20, 1.2), look(30, 1.8)])).toBe('disagree');
    expect(refusal([look(0, 0), look(10, 0)])).not.toBe('started');
  });

  it('does not trust an instrument whose contours the picture does not show', () => {
    const edges = (value: number) => refusal([0, 1, 2, 3].map((i) => look(i, 0, { edges: value })));
    expect(edges(0.5)).toBe('started');
    expect(edges(0.2)).toBe('not-found');
  });

  it('leaves out frames whose contours are much fainter than those of the clearest, even with a bow', () => {
    const bow = { frog: [0, 0] as Vec2, tip: [500, 0] as Vec2, frogReckoned: false, sure: 0.9 };
    const among = (edges: number) => {
      const choice = chooseStart([...[0, 1, 2].map((i) => look(i, 0, { edges: 0.46 + 0.01 * i })), { ...look(3, 0, { edges }), bow }], 1);
      return 'starts' in choice && choice.starts.map((s) => s.index);
    };
    expect(among(0.41)).toEqual([3, 2, 1, 0]);
    expect(among(0.37)).toEqual([2, 1, 0]);
  });

  it('says why', () => {
    const each = (change: Partial<NonNullable<FrameLook['placed']>>) => refusal([0, 1, 2, 3].map((i) => look(i, 0, change)));
    expect(each({ length: 40 })).toBe('too-small');
    expect(each({ facing: 0.05 })).toBe('edge-on');
    expect(each({ support: 0.1 })).toBe('not-found');
    expect(refusal([0, 1, 2, 3].map((i) => ({ ...look(i, 0), neckHand: 'right' as const })))).toBe('other-side');
    expect(refusal([0, 1, 2, 3].map((i) => ({ ...look(i, 0), player: false, placed: undefined })))).toBe('no-player');
    expect(refusal([0, 1, 2, 3].map((i) => ({ ...look(i, 0), player: false, placed: undefined, light: 8 })))).toBe('too-dark');
  });

  it('has words for every refusal', () => {
    for (const r of REFUSALS) expect(REFUSAL_WORDS[r].help.length).toBeGreaterThan(10);
  });
});

describe('a start as marks', () => {
  const seen: FrameLook = {
    index: 4,
    t: 0.16,
    player: true,
    light: 120,
    placed: {
      pose: poseTurned([0, 0, 0]),
      sightings: [
        { landmark: 'instrument.nut.low', point: [100.123, 50], sigma: 1 },
        { landmark: 'instrument.scroll', point: [-20, 50], sigma: 1 },
      ],
      support: 0.8,
      misfit: 0.01,
      length: 240,
      facing: 0.6,
    },
    bow: { frog: [300, 200], tip: [700, 100], frogReckoned: true, sure: 0.5 },
  };
  const film = { width: 960, height: 540 };

  it('names what was found and what only reckoned, and leaves out what lies beyond the picture', () => {
    const marks = startMarks(film, { family: 'violin', size: '4/4' }, seen, []);
    expect(marks.frames).toEqual([
      { t: 0.16, points: { 'instrument.nut.low': [100.12, 50], 'bow.frog': [300, 200], 'bow.tip': [700, 100] }, guessed: ['bow.frog'], found: ['instrument.nut.low', 'bow.tip'] },
    ]);
    expect(marks.agreeing).toBeUndefined();
  });

  it('says with which lens it was found', () => {
    expect(startMarks({ ...film, zoom: 0.5 }, { family: 'violin', size: '4/4' }, seen, []).video).toEqual({ ...film, zoom: 0.5 });
    expect(startMarks({ ...film, zoom: undefined }, { family: 'violin', size: '4/4' }, seen, []).video).toEqual(film);
  });

  it('stands in the picture as it is for a left-handed player, and keeps the frames that agree', () => {
    const marks = startMarks(film, { family: 'violin', size: '4/4', side: 'left' }, seen, [{ ...seen, t: 1 }]);
    expect(marks.frames[0]!.points['bow.tip']).toEqual([260, 100]);
    expect(marks.agreeing?.map((f) => f.t)).toEqual([1]);
    expect(parseMarks(marksToText(marks))).toEqual(marks);
  });
});

describe('the region of the player', () => {
  const joints: Record<string, Vec2> = {
    'body.nose': [480, 100],
    'body.shoulder.left': [540, 180],
    'body.shoulder.right': [420, 180],
    'body.hip.left': [520, 400],
    'body.hip.right': [440, 400],
    'body.wrist.left': [640, 220],
  };

  it('lies between hand and chin, and lower for a cello', () => {
    const violin = playerRegion((n) => joints[n], 'violin')!;
    const cello = playerRegion((n) => joints[n], 'cello')!;
    expect(violin.middle[0]).toBeGreaterThan(480);
    expect(violin.side).toBeCloseTo(1.75 * 220, 6);
    expect(cello.middle[1]).toBeGreaterThan(violin.middle[1]);
  });

  it('is not guessed where a joint is missing', () => {
    expect(playerRegion((n) => (n === 'body.nose' ? undefined : joints[n]), 'violin')).toBeUndefined();
  });
});

import { describe, expect, it } from 'vitest';
import type { Marks } from '../formats/marks';
import { type Camera, cameraFromFieldOfView, insidePicture, project } from '../geometry/camera';
import { type Pose, toOuter } from '../geometry/pose';
import { fromAxes, transpose } from '../geometry/rotation';
import { cross, normalize, scale, type Vec3 } from '../geometry/vec3';
import { dimensionsOf } from '../instrument/dimensions';
import type { Family } from '../instrument/family';
import { INSTRUMENT_LANDMARKS, instrumentModel } from '../instrument/landmarks';
import { logFocalSigma } from '../instrument/solveMarks';
import { normal, seededRandom } from '../random';
import { isLeftHanded, looksLeftHanded, mirrorMarks } from './handedness';
import { markedFrames, solutionFromMarks, zoomByMarks } from './marksToSolution';
import { gradeOf, type JudgedQuantity, viewFitness } from './viewFitness';

const camera = cameraFromFieldOfView(1280, 720);

/** The instrument seen from a direction of its own frame, its long axis across the picture. */
function seenFrom(toward: Vec3, distance = 1100): Pose {
  const z = scale(normalize(toward), -1);
  const x = normalize(cross(cross(z, [1, 0, 0]), z));
  return { rotation: transpose(fromAxes(x, cross(z, x))), translation: [0, 0, distance] };
}

function marksFrom(toward: Vec3, family: Family = 'violin', size = '4/4', seed = 1, distance?: number, eye: Camera = camera): Marks {
  const model = instrumentModel(dimensionsOf(family, size));
  const random = seededRandom(seed);
  const pose = seenFrom(toward, distance);
  const points = Object.fromEntries(
    INSTRUMENT_LANDMARKS.flatMap((name) => {
      const p = project(eye, toOuter(pose, model.landmarks[name]));
      return p && insidePicture(eye, p, 3) ? [[name, [p[0] + 0.7 * normal(random), p[1] + 0.7 * normal(random)] as [number, number]]] : [];
    }),
  );
  return { format: 'gestometra-marks/1', video: { width: eye.width, height: eye.height }, instrument: { family, size }, frames: [{ t: 0, points }] };
}

const fitnessFrom = (toward: Vec3, family: Family = 'violin', size = '4/4', distance?: number) => {
  const marks = marksFrom(toward, family, size, 1, distance);
  const { solution, dimensions } = solutionFromMarks(marks);
  return viewFitness(solution, dimensions, family);
};
const uOf = (f: ReturnType<typeof viewFitness>, quantity: JudgedQuantity) => f.quantities.find((q) => q.quantity === quantity)!.u;

describe('ends of the bow', () => {
  it('are guesses where the network found the frog, until a hand has placed it', () => {
    const marks = marksFrom([-0.5, -0.5, 0.7]);
    const ends = { 'bow.frog': [200, 300], 'bow.tip': [600, 250] } satisfies Record<string, [number, number]>;
    const frame = (found: string[]) => markedFrames({ ...marks, frames: [{ t: 0, points: { ...marks.frames[0]!.points, ...ends }, found }] })[0]!;
    expect(frame(['bow.frog', 'bow.tip'])).toMatchObject({ unsure: { frog: 15, tip: 4 } });
    expect(frame(['bow.tip'])).toMatchObject({ unsure: { frog: 0, tip: 4 } });
  });
});

describe('the lens', () => {
  const zoomed = (zoom: number): Camera => ({ ...camera, focal: zoom * camera.focal });
  const directions: Vec3[] = [
    [-0.5, -0.5, 0.7],
    [0.4, -0.6, 0.7],
    [-0.1, -0.7, 0.7],
  ];

  it('is taken for another where the marks speak plainly for it', () => {
    for (const [zoom, distance] of [
      [0.5, 600],
      [1.5, 800],
    ] as const) {
      // Seen along its middle line it could be another lens yet.
      for (const toward of directions.slice(0, 2)) {
        const marks = marksFrom(toward, 'violin', '4/4', 3, distance, zoomed(zoom));
        const solved = solutionFromMarks(marks);
        const { solution } = solved;
        expect(Math.abs(zoomByMarks(solved, marks)! - zoom)).toBeLessThan(0.16);
        const off = Math.abs(Math.log(solution.camera.focal / zoomed(zoom).focal));
        expect(off).toBeLessThan(0.1);
        expect(off).toBeLessThan(2 * logFocalSigma(solution));
      }
    }
  });

  it('stays the main one where it was that, and the one that was said whatever the marks say', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const marks = marksFrom(directions[seed % 3]!, 'violin', '4/4', seed, 500 + 120 * seed);
      expect(solutionFromMarks(marks).supposed).toEqual(camera);
      expect(zoomByMarks(solutionFromMarks(marks), marks)).toBeUndefined();
      const said = { ...marks, video: { ...marks.video, zoom: 0.7 } };
      expect(solutionFromMarks(said).supposed.focal).toBeCloseTo(0.7 * camera.focal, 6);
    }
    const wide = marksFrom(directions[0]!, 'violin', '4/4', 3, 600, zoomed(0.5));
    expect(solutionFromMarks({ ...wide, video: { ...wide.video, zoom: 1 } }).supposed).toEqual(camera);
  });
});

describe('points that the network found', () => {
  /** Sigma of a found point, and of the same placed by hand, seen from so far over the plate (sine). */
  const sigmas = (over: number, agreeing = false) => {
    const flat = Math.sqrt(1 - over * over);
    const marks = marksFrom([-0.6 * flat, -0.8 * flat, over]);
    const [byHand] = marks.frames;
    const found = { ...byHand!, found: Object.keys(byHand!.points) };
    const of = (m: Marks) => {
      const { frames, agreeing: others } = solutionFromMarks(m);
      return (agreeing ? others : frames)[0]!.sightings[0]!.sigma;
    };
    return { found: of({ ...marks, frames: [found], agreeing: [found] }), byHand: of({ ...marks, agreeing: [byHand!] }) };
  };

  it('are believed less than marks by hand, and half as much from low over the plate', () => {
    const [high, low] = [sigmas(0.6), sigmas(0.2)];
    expect(high.found).toBeGreaterThan(3 * high.byHand);
    expect(low.found / high.found).toBeCloseTo(2, 6);
    expect(low.byHand).toBeCloseTo(high.byHand, 9);
    expect(sigmas(0.2, true).found / sigmas(0.6, true).found).toBeCloseTo(2, 6);
  });

  it('tell so with the doubt of the pose', () => {
    const doubt = (found: boolean) => {
      const marks = marksFrom([-0.58, -0.78, 0.2]);
      const [frame] = marks.frames;
      const { solution } = solutionFromMarks({ ...marks, frames: [found ? { ...frame!, found: Object.keys(frame!.points) } : frame!] });
      return Math.sqrt(solution.covariance[2 * solution.unknowns + 2]!);
    };
    expect(doubt(true)).toBeGreaterThan(2 * doubt(false));
  });
});

describe('view fitness', () => {
  it('grades by thirds of the half-band (section 6 of the measurement reference)', () => {
    expect([gradeOf(1.6, 5), gradeOf(1.7, 5), gradeOf(5, 5), gradeOf(5.1, 5), gradeOf(Number.POSITIVE_INFINITY, 5)]).toEqual(['fit', 'doubtful', 'doubtful', 'unfit', 'unfit']);
  });

  it('trusts the bow angle from the bow-arm side above the strings, and the less the more the view runs along the strings', () => {
    const side = fitnessFrom([0, -0.85, 0.55]);
    const front = fitnessFrom([0.6, -0.5, 0.6]);
    const along = fitnessFrom([0.95, -0.1, 0.3]);
    expect(side.quantities.find((q) => q.quantity === 'skew_deg')!.grade).toBe('fit');
    expect(uOf(side, 'skew_deg')).toBeLessThan(uOf(front, 'skew_deg'));
    expect(uOf(front, 'skew_deg')).toBeLessThan(uOf(along, 'skew_deg'));
  });

  it('cannot place the contact from the plane of the strings, and names a better place', () => {
    const low = fitnessFrom([0.7, -0.7, 0.06], 'violin', '4/4', 2400);
    expect(low.quantities.find((q) => q.quantity === 'contact_fraction')!.grade).not.toBe('fit');
    expect(low.better?.words).toMatch(/above/);
  });

  it('sees no contact along the bow, where the bow is a spot behind the hand, and names a better place', () => {
    const along = fitnessFrom([0, -0.97, 0.25], 'violin', '4/4', 700);
    const across = fitnessFrom([0, -0.8, 0.6], 'violin', '4/4', 700);
    expect(along.quantities.find((q) => q.quantity === 'contact_fraction')).toMatchObject({ grade: 'unfit', u: Number.POSITIVE_INFINITY });
    expect(along.better!.gains).toContain('contact_fraction');
    expect(across.quantities.find((q) => q.quantity === 'contact_fraction')!.grade).toBe('fit');
  });

  it('stands for a cello too', () => {
    const cello = fitnessFrom([0.2, 0.3, 0.95], 'cello', '4/4', 2300);
    expect(uOf(cello, 'skew_deg')).toBeLessThan(5);
  });
});

describe('left-handed set-ups', () => {
  it('show by the sense of rotation, from every side', () => {
    for (const toward of [
      [0.45, -0.5, 0.75],
      [0.9, 0, 0.4],
      [0, -0.9, 0.4],
      [0.1, 0.3, 0.9],
    ] as const) {
      for (const seed of [1, 2, 3]) {
        const marks = marksFrom(toward, 'violin', '4/4', seed);
        expect(looksLeftHanded(marks)).toBe(false);
        expect(looksLeftHanded(mirrorMarks(marks))).toBe(true);
      }
    }
  });
  it('are told from right-handed ones nearly along the top too, where the arch of the bridge alone looks the wrong way round', () => {
    const inSight = (name: string) => !/\.low$/.test(name) || /nut|bridge\./.test(name);
    let misleading = 0;
    for (const toward of [
      [0.87, -0.49, 0.06],
      [0.9, -0.4, 0.04],
      [0.58, -0.79, 0.2],
      [0.8, -0.55, 0.1],
    ] as const) {
      for (const seed of [1, 2, 3]) {
        const all = marksFrom(toward, 'violin', '4/4', seed);
        const marks = { ...all, frames: all.frames.map((f) => ({ ...f, points: Object.fromEntries(Object.entries(f.points).filter(([name]) => inSight(name))) })) };
        if (looksLeftHanded(marks)) misleading++;
        expect(isLeftHanded(marks), `${toward}, seed ${seed}`).toBe(false);
        expect(isLeftHanded(mirrorMarks(marks)), `${toward}, seed ${seed}, mirrored`).toBe(true);
      }
    }
    expect(misleading).toBeGreaterThan(0);
  });
  it('mirrored twice are themselves, and what the marks file says wins', () => {
    const marks: Marks = {
      ...marksFrom([0.45, -0.5, 0.75]),
      plumb: [
        [20, 30],
        [22, 400],
      ],
    };
    const back = mirrorMarks(mirrorMarks(marks));
    for (const [name, [x, y]] of Object.entries(marks.frames[0]!.points)) {
      expect(back.frames[0]!.points[name]![0]).toBeCloseTo(x, 9);
      expect(back.frames[0]!.points[name]![1]).toBe(y);
    }
    expect(mirrorMarks(marks).plumb![0][0]).toBe(1260);
    expect(mirrorMarks({ ...marks, agreeing: marks.frames }).agreeing).toEqual(mirrorMarks(marks).frames);
    expect(isLeftHanded({ ...mirrorMarks(marks), instrument: { ...marks.instrument, side: 'right' } })).toBe(false);
  });
  it('are placed as well as right-handed ones', () => {
    const left = mirrorMarks(marksFrom([0.45, -0.5, 0.75]));
    expect(solutionFromMarks(mirrorMarks(left)).solution.misfit).toBeLessThan(1.5);
    expect(() => solutionFromMarks(left)).toThrow(/low and high side/);
  });
});

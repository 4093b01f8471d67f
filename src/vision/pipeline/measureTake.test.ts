import { beforeAll, describe, expect, it } from 'vitest';
import { type BowState, hairLine } from '../../core/bow/bowState';
import type { Marks } from '../../core/formats/marks';
import { project } from '../../core/geometry/camera';
import { type Pose, stepPose, toOuter } from '../../core/geometry/pose';
import { fromRotationVector } from '../../core/geometry/rotation';
import type { Vec2 } from '../../core/geometry/vec3';
import { INSTRUMENT_LANDMARKS } from '../../core/instrument/landmarks';
import { stringLines } from '../../core/instrument/strings';
import { normal, seededRandom } from '../../core/random';
import type { TakeMeasures } from '../../core/take/analyse';
import { doubtfulSpans } from '../../core/take/doubt';
import type { Frame, FrameSource } from '../film/frame';
import { type Before, texturedViolin } from '../instrument/texturedViolin';
import { measureTake } from './measureTake';

// A film small enough for a test: a textured instrument moving before a busy wall, a bow drawn across it.
const W = 640;
const H = 520;
const FRAMES = 48;
const { camera, model, shoot: shootViolin } = texturedViolin(W, H);
const strings = stringLines(model, 'violin');

const poseAt = (i: number): Pose =>
  stepPose({ rotation: fromRotationVector([2.5, 0.4, 0.5]), translation: [20, -20, 1100] }, [
    0.03 * Math.sin(i / 9),
    0.02 * Math.sin(i / 7),
    0.03 * Math.sin(i / 11),
    9 * Math.sin(i / 8),
    6 * Math.sin(i / 10),
    8 * Math.sin(i / 12),
  ]);
const bowAt = (i: number): BowState => ({
  contact: 28 + 6 * Math.sin(i / 10),
  skew: 2 + 7 * Math.sin(i / 12),
  inclination: -7.75,
  position: 0.5 - 0.3 * Math.cos((Math.PI * i) / 16),
});

/** One picture; frames in `hidden` show only the wall. */
function shoot(i: number, hidden: (i: number) => boolean): Frame {
  const pose = poseAt(i);
  const line = hairLine(bowAt(i), strings[2]!, 650, 1);
  const frog = project(camera, toOuter(pose, line.frog))!;
  const tip = project(camera, toOuter(pose, line.tip))!;
  const n = Math.hypot(tip[0] - frog[0], tip[1] - frog[1]);
  const u: Vec2 = [(tip[0] - frog[0]) / n, (tip[1] - frog[1]) / n];
  const bow: Before = (p) => {
    const along = (p[0] - frog[0]) * u[0] + (p[1] - frog[1]) * u[1];
    const side = -(p[0] - frog[0]) * u[1] + (p[1] - frog[1]) * u[0];
    if (along > 0 && along < n && Math.abs(side) < 2) return 235;
    if (along > -20 && along < n + 6 && Math.abs(side - 8) < 2.4) return 35;
    if (along > -26 && along < 1 && side > -2 && side < 9) return 20;
    if (along > n - 1 && along < n + 9 && side > -3 && side < 10) return 40;
    return undefined;
  };
  const luma = hidden(i) ? shootViolin(undefined, i + 500) : shootViolin(pose, i + 500, bow);
  return { index: i, t: i / 25, width: W, height: H, luma };
}

function filmOf(hidden: (i: number) => boolean = () => false): FrameSource & { asked: number[] } {
  const kept = new Map<number, Frame>();
  const asked: number[] = [];
  return {
    asked,
    width: W,
    height: H,
    times: Float64Array.from({ length: FRAMES }, (_, i) => i / 25),
    async *forward(from, to) {
      for (let i = from; i < to; i++) {
        if (!kept.has(i)) kept.set(i, shoot(i, hidden));
        asked.push(i);
        yield kept.get(i)!;
      }
    },
  };
}

function marksAt(frame: number): Marks['frames'][0] {
  const pose = poseAt(frame);
  const names = INSTRUMENT_LANDMARKS.filter((n) => !n.includes('endButton'));
  const line = hairLine(bowAt(frame), strings[2]!, 650, 1);
  const image = (p: Parameters<typeof toOuter>[1]): [number, number] => {
    const [u, v] = project(camera, toOuter(pose, p))!;
    return [u, v];
  };
  return { t: frame / 25, points: { ...Object.fromEntries(names.map((n) => [n, image(model.landmarks[n])])), 'bow.frog': image(line.frog), 'bow.tip': image(line.tip) } };
}
const marksOf = (...frames: number[]): Marks => ({
  format: 'gestometra-marks/1',
  video: { width: W, height: H },
  instrument: { family: 'violin', size: '4/4' },
  frames: frames.map(marksAt),
});

describe('measuring a take', () => {
  let clear: TakeMeasures;
  const progress: number[] = [];
  beforeAll(async () => {
    clear = await measureTake(filmOf(), marksOf(20), { onProgress: (done) => progress.push(done) });
  }, 120_000);

  it('follows instrument and bow both ways from one marked frame', () => {
    expect(doubtfulSpans(clear)).toEqual([]);
    const errors = clear.frames.map((f, i) => ({
      skew: Math.abs(f.values.skew_deg!.value - bowAt(i).skew),
      contact: Math.abs(f.values.contact_mm!.value - bowAt(i).contact),
      position: Math.abs(f.values.bow_position!.value - bowAt(i).position),
      insideSkew: Math.abs(f.values.skew_deg!.value - bowAt(i).skew) <= 2 * f.values.skew_deg!.u,
    }));
    const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;
    expect(median(errors.map((e) => e.skew))).toBeLessThan(1.5);
    expect(median(errors.map((e) => e.contact))).toBeLessThan(1.5);
    expect(median(errors.map((e) => e.position))).toBeLessThan(0.03);
    expect(errors.filter((e) => e.insideSkew).length / errors.length).toBeGreaterThan(0.9);
    expect(clear.frames.every((f) => f.string === 'A')).toBe(true);
  });

  it('tells every frame of progress and cuts the bow into strokes', () => {
    expect(progress).toEqual(Array.from({ length: FRAMES }, (_, i) => i + 1));
    expect(clear.strokes.map((s) => s.direction)).toEqual(['down', 'up', 'down']);
  });

  it('says where it lost the instrument, gives no numbers there, and finds it again by itself', async () => {
    const take = await measureTake(
      filmOf((i) => i >= 30 && i < 38),
      marksOf(20),
    );
    const spans = doubtfulSpans(take);
    expect(spans).toHaveLength(1);
    expect(spans[0]).toMatchObject({ why: 'instrument-lost', firstFrame: 30 });
    expect(take.frames[34]!.values).toEqual({});
    expect(take.frames[46]!.values.contact_mm).toBeDefined();
    expect(Math.abs(take.frames[46]!.values.contact_mm!.value - bowAt(46).contact)).toBeLessThan(4);
  }, 60_000);

  it('finds the instrument again where another known frame has it, when the camera has moved meanwhile', async () => {
    const [far, gone, back] = [70, 30, 38];
    const still = filmOf((i) => i >= gone && i < back);
    // From the loss on everything stands further to the right.
    const film: FrameSource = {
      ...still,
      async *forward(from, to) {
        for await (const frame of still.forward(from, to)) {
          if (frame.index < gone) {
            yield frame;
            continue;
          }
          const luma = new Uint8Array(frame.luma.length).fill(130);
          for (let y = 0; y < H; y++) luma.set(frame.luma.subarray(y * W, (y + 1) * W - far), y * W + far);
          yield { ...frame, luma };
        }
      },
    };
    const there = marksAt(46);
    const moved = { ...there, points: Object.fromEntries(Object.entries(there.points).map(([name, [u, v]]) => [name, [u + far, v] as [number, number]])) };
    const lost = await measureTake(film, marksOf(20));
    const known = await measureTake(film, { ...marksOf(20), agreeing: [{ ...moved, found: Object.keys(moved.points) }] });
    const followed = (take: TakeMeasures) => take.tracked.filter((f) => f.index >= back && f.pose).length;
    expect(followed(lost)).toBe(0);
    expect(followed(known)).toBeGreaterThan(0.6 * (FRAMES - back));
  }, 120_000);

  it('follows only the affected span again when one more frame is marked', async () => {
    const film = filmOf();
    const again = await measureTake(film, marksOf(20, 40), { previous: { measures: clear, marks: marksOf(20) } });
    const kept = again.tracked.filter((f, i) => f === clear.tracked[i]).length;
    expect(kept).toBe(30);
    expect(Math.min(...film.asked)).toBe(30);
    expect(Math.abs(again.frames[44]!.values.skew_deg!.value - bowAt(44).skew)).toBeLessThan(2.5);
  }, 60_000);

  it('takes frames that agree with a found one, and leads on from the found one alone', async () => {
    const random = seededRandom(77);
    // A network errs by pixels, in each frame anew.
    const foundAt = (frame: number): Marks['frames'][0] => {
      const { t, points } = marksAt(frame);
      const off = () => 2.2 * normal(random);
      const moved = Object.fromEntries(Object.entries(points).map(([name, [u, v]]) => [name, name.startsWith('bow.') ? [u, v] : [u + off(), v + off()]])) as typeof points;
      // The frog was put right by hand: found by the network it would tell nothing of the bow's length.
      return { t, points: moved, found: Object.keys(points).filter((name) => name !== 'bow.frog') };
    };
    const take = await measureTake(filmOf(), { ...marksOf(20), frames: [foundAt(20)], agreeing: [4, 12, 34, 44].map(foundAt) });
    expect(take.solution.poses).toHaveLength(5);
    const errors = take.frames.flatMap((f, i) => (f.values.skew_deg ? [Math.abs(f.values.skew_deg.value - bowAt(i).skew)] : []));
    expect(errors.length).toBeGreaterThan(0.9 * FRAMES);
    expect(errors.sort((a, b) => a - b)[errors.length >> 1]!).toBeLessThan(1.8);
    expect(take.strokes.map((s) => s.direction)).toEqual(['down', 'up', 'down']);
  }, 120_000);

  it('uses a frame in which only the bow is marked', async () => {
    const bowOnly = marksAt(40);
    const marks = marksOf(20);
    const take = await measureTake(filmOf(), {
      ...marks,
      frames: [...marks.frames, { t: bowOnly.t, points: { 'bow.frog': bowOnly.points['bow.frog']!, 'bow.tip': bowOnly.points['bow.tip']! } }],
    });
    expect(take.frames[42]!.values.skew_deg).toBeDefined();
  }, 60_000);

  it('stops when told', async () => {
    const stop = new AbortController();
    const running = measureTake(filmOf(), marksOf(20), { signal: stop.signal, onProgress: (done) => done === 5 && stop.abort() });
    await expect(running).rejects.toThrow();
  }, 60_000);

  it('refuses marks of another film', async () => {
    await expect(measureTake(filmOf(), { ...marksOf(20), video: { width: 1920, height: 1080 } })).rejects.toThrow(/belong to a picture of 1920 x 1080/);
    await expect(measureTake(filmOf(), { ...marksOf(20), frames: [{ ...marksAt(20), t: 99 }] })).rejects.toThrow(/film ends at/);
  });
});

import { copyFileSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Marks, marksToText, parseMarks } from '../src/core/formats/marks';
import { normal, seededRandom } from '../src/core/random';
import { CAST, DEMO_TAKES, type DemoTake, PLUMB, ROUND } from './demoCast';
import { renderClips } from './synth';

/** The demo's marks are set with the loupe, so surer than a hurried hand's: px at 960 across, 1 sigma. */
const CAREFUL = 0.3;
/** Takes whose truth is kept with them, for the tests. */
const WITH_TRUTH = new Set(['ilvi-long-bows', 'ilvi-tube-glide', 'tavi-ready']);

/** Marks of the same frame and points, placed with care on the true places; the player's points in the nearest frame that has them all in the picture. */
function carefulMarks(marks: Marks, landmarksCsv: string, { scenario, alsoMarked }: DemoTake): Marks {
  const random = seededRandom(4);
  const [high, low] = PLUMB;
  const [frame] = marks.frames;
  const number = Math.round(frame!.t * scenario.framesPerSecond);
  const { width, height } = marks.video;
  const places = new Map<number, Map<string, readonly [number, number]>>();
  for (const [index, name, u, v] of landmarksCsv
    .trim()
    .split('\n')
    .slice(1)
    .map((line) => line.split(','))) {
    const k = Number(index);
    places.set(k, (places.get(k) ?? new Map()).set(name!, [Number(u), Number(v)]));
  }
  const sigma = (CAREFUL * Math.max(width, height)) / 960;
  const placed = (index: number, names: readonly string[]) =>
    Object.fromEntries(
      names.map((name) => [
        name,
        places
          .get(index)!
          .get(name)!
          .map((v) => Number((v + sigma * normal(random)).toFixed(2))),
      ]),
    ) as Marks['frames'][0]['points'];
  const inside = ([u, v]: readonly [number, number]) => u > 4 && v > 4 && u < width - 4 && v < height - 4;
  const near = [...places.keys()].filter((k) => alsoMarked.every((name) => inside(places.get(k)!.get(name)!))).sort((a, b) => Math.abs(a - number) - Math.abs(b - number))[0];
  const own = placed(number, Object.keys(frame!.points));
  if (alsoMarked.length === 0 || near === undefined) return { ...marks, frames: [{ t: frame!.t, points: own }] };
  const player = placed(
    near,
    alsoMarked.filter((name) => name !== high && name !== low),
  );
  const line = placed(
    near,
    alsoMarked.filter((name) => name === high || name === low),
  );
  const plumb = line[high] && line[low] ? { plumb: [line[high], line[low]] as [[number, number], [number, number]] } : {};
  return near === number
    ? { ...marks, ...plumb, frames: [{ t: frame!.t, points: { ...own, ...player } }] }
    : {
        ...marks,
        ...plumb,
        frames: [
          { t: frame!.t, points: own },
          { t: Number((near / scenario.framesPerSecond).toFixed(4)), points: player },
        ],
      };
}

const files = await renderClips(DEMO_TAKES.map((t) => t.scenario));
for (const name of readdirSync('demo')) rmSync(join('demo', name));
const takes = DEMO_TAKES.map((take, i) => {
  const { film, marks, landmarks, truth } = files[i]!;
  const { id, scenario } = take;
  copyFileSync(film, `demo/${id}.mp4`);
  if (WITH_TRUTH.has(id)) copyFileSync(truth, `demo/${id}.truth.csv`);
  if (take.marked) writeFileSync(`demo/${id}.marks.json`, marksToText(carefulMarks(parseMarks(readFileSync(marks, 'utf8')), readFileSync(landmarks, 'utf8'), take)));
  const frames = readFileSync(truth, 'utf8').trim().split('\n').length - 1;
  return {
    id,
    studentId: take.studentId,
    title: take.title,
    filmedOn: take.filmedOn,
    film: { width: scenario.width, height: scenario.height, frames, duration: frames / scenario.framesPerSecond, hasSound: true },
    video: `${id}.mp4`,
    ...(take.marked ? { marks: `${id}.marks.json` } : {}),
  };
});
const students = CAST.map(({ seed, always, ...student }) => ({ ...student, ...(always?.leftHanded ? { side: 'left' } : {}) }));
writeFileSync('demo/index.json', `${JSON.stringify({ places: ROUND, students, takes }, null, 2)}\n`);

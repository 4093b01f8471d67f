import { copyFileSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { type Marks, marksToText, parseMarks } from '../src/core/formats/marks';
import { normal, seededRandom } from '../src/core/random';
import { CAST, DEMO_TAKES, type DemoTake, ROUND } from './demoCast';
import { renderClips } from './synth';

/** The demo's marks are set with the loupe, so surer than a hurried hand's: px at 960 across, 1 sigma. */
const CAREFUL = 0.3;
/** Takes whose truth is kept with them, for the tests. */
const WITH_TRUTH = new Set(['ilvi-long-bows', 'ilvi-tube-glide']);

/** Marks of the same frame and points, placed with care on the true places. */
function carefulMarks(marks: Marks, landmarksCsv: string, { scenario, alsoMarked }: DemoTake): Marks {
  const random = seededRandom(4);
  const [frame] = marks.frames;
  const number = String(Math.round(frame!.t * scenario.framesPerSecond));
  const rows = landmarksCsv
    .trim()
    .split('\n')
    .map((line) => line.split(','));
  const sigma = (CAREFUL * Math.max(marks.video.width, marks.video.height)) / 960;
  const points = Object.fromEntries(
    [...Object.keys(frame!.points), ...alsoMarked].map((name) => {
      const row = rows.find((r) => r[0] === number && r[1] === name)!;
      return [name, [Number(row[2]) + sigma * normal(random), Number(row[3]) + sigma * normal(random)].map((v) => Number(v.toFixed(2)))];
    }),
  ) as Marks['frames'][0]['points'];
  return { ...marks, frames: [{ t: frame!.t, points }] };
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

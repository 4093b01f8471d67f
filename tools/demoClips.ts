import { copyFileSync, readFileSync, writeFileSync } from 'node:fs';
import { type Marks, marksToText, parseMarks } from '../src/core/formats/marks';
import { normal, seededRandom } from '../src/core/random';
import { scenarioOf } from '../synth/presets/presets';
import { renderClips } from './synth';

/** The demo's marks are set with the loupe, so surer than a hurried hand's: px at 960 across, 1 sigma. */
const CAREFUL = 0.3;

/** Marks of the same frame and points, placed with care on the true places. */
function carefulMarks(marks: Marks, landmarksCsv: string, framesPerSecond: number): Marks {
  const random = seededRandom(4);
  const [frame] = marks.frames;
  const number = String(Math.round(frame!.t * framesPerSecond));
  const rows = landmarksCsv
    .trim()
    .split('\n')
    .map((line) => line.split(','));
  const sigma = (CAREFUL * marks.video.width) / 960;
  const points = Object.fromEntries(
    Object.keys(frame!.points).map((name) => {
      const row = rows.find((r) => r[0] === number && r[1] === name)!;
      return [name, [Number(row[2]) + sigma * normal(random), Number(row[3]) + sigma * normal(random)].map((v) => Number(v.toFixed(2)))];
    }),
  ) as Marks['frames'][0]['points'];
  return { ...marks, frames: [{ t: frame!.t, points }] };
}

const names = ['arc-to-fingerboard', 'straight'] as const;
const scenarios = names.map((name) => scenarioOf(name, 1));
const files = await renderClips(scenarios);
names.forEach((name, i) => {
  const { film, marks, landmarks } = files[i]!;
  copyFileSync(film, `demo/${name}.mp4`);
  const careful = carefulMarks(parseMarks(readFileSync(marks, 'utf8')), readFileSync(landmarks, 'utf8'), scenarios[i]!.framesPerSecond);
  writeFileSync(`demo/${name}.marks.json`, marksToText(careful));
});

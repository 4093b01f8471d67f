import { mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { parseMarks } from '../src/core/formats/marks';
import { MIDDLE_OF_STRIP, RUBRICS, rubricById, STAGES, type Stage } from '../src/core/rubric/rubric';
import { TASKS, type Task } from '../src/core/take/task';
import { startBrowser } from './browser';
import { measureClip } from './measureClip';
import { serveToolPages } from './toolPages';

const USAGE =
  'usage: npm run measure -- --video FILE --marks FILE --out FOLDER [--rubric ID] [--stage first-term|first-year|later] [--task ordinary|behind-the-bridge|guide|silent|plucked]';

class InputError extends Error {}

function readInput() {
  let values: Record<string, string | undefined>;
  try {
    ({ values } = parseArgs({
      options: { video: { type: 'string' }, marks: { type: 'string' }, out: { type: 'string' }, rubric: { type: 'string' }, stage: { type: 'string' }, task: { type: 'string' } },
    }));
  } catch (error) {
    throw new InputError(`${(error as Error).message}. ${USAGE}`);
  }
  const { video, marks, out, rubric = MIDDLE_OF_STRIP.id, stage = 'later', task = 'ordinary' } = values;
  if (!video || !marks || !out) throw new InputError(USAGE);
  const chosen = rubricById(rubric);
  if (!chosen) throw new InputError(`There is no rubric "${rubric}". Known: ${RUBRICS.map((r) => r.id).join(', ')}.`);
  if (!(STAGES as readonly string[]).includes(stage)) throw new InputError(`There is no stage "${stage}". Known: ${STAGES.join(', ')}.`);
  if (!(TASKS as readonly string[]).includes(task)) throw new InputError(`There is no task "${task}". Known: ${TASKS.join(', ')}.`);
  const marksText = readText(marks);
  parseMarks(marksText);
  try {
    if (!statSync(video).isFile()) throw new Error();
  } catch {
    throw new InputError(`The film ${video} cannot be read.`);
  }
  return { video, marksText, out, rubric: chosen, stage: stage as Stage, task: task as Task };
}

function readText(path: string): string {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    throw new InputError(`The marks file ${path} cannot be read.`);
  }
}

async function main(): Promise<void> {
  const input = readInput();
  const server = await serveToolPages();
  const browser = await startBrowser();
  try {
    let told = -1;
    const files = await measureClip(browser, server.url, input, (done, total) => {
      const percent = Math.floor((10 * done) / total) * 10;
      if (percent > told) process.stderr.write(`measured ${done} of ${total} pictures\n`);
      told = Math.max(told, percent);
    });
    mkdirSync(input.out, { recursive: true });
    writeFileSync(join(input.out, 'measures.csv'), files.measures);
    writeFileSync(join(input.out, 'events.json'), files.events);
    writeFileSync(join(input.out, 'findings.json'), files.findings);
    if (files.leftHanded) process.stderr.write('read as a left-handed set-up: angles and sides are those of the mirrored picture\n');
    for (const span of files.doubtful)
      process.stderr.write(`${span.why.replace('-', ' ')} from ${span.from.toFixed(2)} to ${span.to.toFixed(2)} s: one more mark there would mend it\n`);
    process.stderr.write(`${files.frames} frames in ${(files.milliseconds / 1000).toFixed(1)} s\n`);
  } finally {
    await browser.close();
    await server.close();
  }
}

main().catch((error: Error) => {
  process.stderr.write(`${error.message.split('\n')[0]}\n`);
  process.exit(1);
});

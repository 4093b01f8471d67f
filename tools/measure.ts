import { existsSync, mkdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import type { Browser } from 'playwright';
import { marksToText, parseMarks } from '../src/core/formats/marks';
import { parseRubric } from '../src/core/formats/rubricJson';
import { LEAST_ZOOM, MOST_ZOOM } from '../src/core/geometry/camera';
import { dimensionsOf } from '../src/core/instrument/dimensions';
import { FAMILIES } from '../src/core/instrument/family';
import { MIDDLE_OF_STRIP, RUBRICS, type Rubric, rubricById, STAGES, type Stage } from '../src/core/rubric/rubric';
import { REFUSAL_WORDS } from '../src/core/start/outcome';
import type { KnownOfClip } from '../src/core/start/startMarks';
import { missingForMeasure } from '../src/core/take/missingForMeasure';
import { TASKS, type Task } from '../src/core/take/task';
import { measureClip, startClip } from './measureClip';
import { serveToolPages } from './toolPages';

const USAGE = `usage: npm run measure -- --video FILE (--marks FILE | --instrument violin|viola|cello --size 4/4 [--left-handed]) --out FOLDER [--zoom 0.5|1|2|3] [--rubric ID|FILE] [--stage first-term|first-year|later] [--task ${TASKS.join('|')}]`;

class InputError extends Error {}

/** Ends with this code when no marks are given and the film does not start by itself. */
const REFUSED = 3;

function readInput() {
  let values: Partial<Record<'video' | 'marks' | 'out' | 'rubric' | 'stage' | 'task' | 'instrument' | 'size' | 'zoom', string>> & { 'left-handed'?: boolean };
  try {
    ({ values } = parseArgs({
      options: {
        video: { type: 'string' },
        marks: { type: 'string' },
        out: { type: 'string' },
        rubric: { type: 'string' },
        stage: { type: 'string' },
        task: { type: 'string' },
        instrument: { type: 'string' },
        size: { type: 'string' },
        zoom: { type: 'string' },
        'left-handed': { type: 'boolean' },
      },
    }));
  } catch (error) {
    throw new InputError(`${(error as Error).message}. ${USAGE}`);
  }
  const { video, marks, out, instrument, size = '4/4', 'left-handed': left, rubric = MIDDLE_OF_STRIP.id, stage = 'later', task = 'ordinary' } = values;
  if (!video || !(marks || instrument) || !out) throw new InputError(USAGE);
  const chosen = rubricById(rubric) ?? rubricFrom(rubric);
  if (!(STAGES as readonly string[]).includes(stage)) throw new InputError(`There is no stage "${stage}". Known: ${STAGES.join(', ')}.`);
  if (!(TASKS as readonly string[]).includes(task)) throw new InputError(`There is no task "${task}". Known: ${TASKS.join(', ')}.`);
  const zoom = values.zoom === undefined ? undefined : zoomOf(values.zoom);
  const given = marks && parseMarks(readText(marks));
  const marksText = given && marksToText(zoom === undefined ? given : { ...given, video: { ...given.video, zoom } });
  const itself = marksText ? undefined : knownOf(instrument!, size, left ?? false, zoom);
  try {
    if (!statSync(video).isFile()) throw new Error();
  } catch {
    throw new InputError(`The film ${video} cannot be read.`);
  }
  return { video, marksText, itself, out, rubric: chosen, stage: stage as Stage, task: task as Task };
}

/** How far the lens was zoomed, from what was given. */
function zoomOf(text: string): number {
  const zoom = Number(text);
  if (!(zoom >= LEAST_ZOOM && zoom <= MOST_ZOOM))
    throw new InputError(`--zoom takes what the phone's camera showed, from ${LEAST_ZOOM} to ${MOST_ZOOM}: 0.5 for the wide lens, 1 for the main one.`);
  return zoom;
}

/** What is known of a film that is to start by itself. */
function knownOf(family: string, size: string, left: boolean, zoom: number | undefined): KnownOfClip {
  const known = FAMILIES.find((f) => f === family);
  if (!known) throw new InputError(`There is no instrument "${family}". Known: ${FAMILIES.join(', ')}.`);
  try {
    dimensionsOf(known, size);
  } catch (error) {
    throw new InputError((error as Error).message);
  }
  return { family: known, size, ...(left ? { side: 'left' } : {}), zoom };
}

function readText(path: string): string {
  try {
    return readFileSync(path, 'utf8');
  } catch {
    throw new InputError(`The marks file ${path} cannot be read.`);
  }
}

/** Marks found in a film; tells why and sets the exit code when there are none. */
async function startByItself(browser: Browser, url: string, video: string, known: KnownOfClip): Promise<string | undefined> {
  const { start, milliseconds } = await startClip(browser, url, video, known);
  const seconds = (milliseconds / 1000).toFixed(1);
  if ('refused' in start) {
    const { why, help } = REFUSAL_WORDS[start.refused];
    process.stderr.write(`not started without marks (${start.refused}, after ${seconds} s): ${why} ${help}\n`);
    process.exitCode = REFUSED;
    return undefined;
  }
  const [best] = start.candidates;
  if (missingForMeasure(best!.marks)) {
    process.stderr.write(`not started without marks (no-bow, after ${seconds} s): ${REFUSAL_WORDS['no-bow'].why} ${REFUSAL_WORDS['no-bow'].help}\n`);
    process.exitCode = REFUSED;
    return undefined;
  }
  process.stderr.write(`started without marks in frame ${best!.frame}, after ${seconds} s\n`);
  return marksToText(best!.marks);
}

/** A rubric from a file. @throws InputError where there is none, or it cannot be used. */
function rubricFrom(path: string): Rubric {
  if (!existsSync(path)) throw new InputError(`There is no rubric "${path}". Known: ${RUBRICS.map((r) => r.id).join(', ')}; or give a rubric file.`);
  try {
    return parseRubric(readFileSync(path, 'utf8'));
  } catch (error) {
    throw new InputError((error as Error).message);
  }
}

async function main(): Promise<void> {
  const input = readInput();
  const server = await serveToolPages();
  // Wrong input is told without waiting for the browser's driver to be loaded.
  const { startBrowser } = await import('./browser');
  const browser = await startBrowser();
  try {
    let told = -1;
    const marksText = input.marksText ?? (await startByItself(browser, server.url, input.video, input.itself!));
    if (!marksText) return;
    const files = await measureClip(browser, server.url, { ...input, marksText }, (done, total) => {
      const percent = Math.floor((10 * done) / total) * 10;
      if (percent > told) process.stderr.write(`measured ${done} of ${total} pictures\n`);
      told = Math.max(told, percent);
    });
    mkdirSync(input.out, { recursive: true });
    if (!input.marksText) writeFileSync(join(input.out, 'marks.json'), marksText);
    writeFileSync(join(input.out, 'measures.csv'), files.measures);
    writeFileSync(join(input.out, 'events.json'), files.events);
    writeFileSync(join(input.out, 'findings.json'), files.findings);
    if (files.leftHanded) process.stderr.write('read as a left-handed set-up: angles and sides are those of the mirrored picture\n');
    for (const span of files.doubtful)
      process.stderr.write(`${span.why.replace('-', ' ')} from ${span.from.toFixed(2)} to ${span.to.toFixed(2)} s: one more mark there would mend it\n`);
    const { pictures, player, hand, neck, neckHand } = files.looked;
    if (pictures > 0) process.stderr.write(`player found in ${player} of ${pictures} pictures looked at, bow hand in ${hand}, hand at the neck in ${neckHand} of ${neck}\n`);
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

import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import type { Browser } from 'playwright';
import { MIDDLE_OF_STRIP } from '../src/core/rubric/rubric';
import { median } from '../src/core/statistics';
import { startBrowser } from './browser';
import { measureClip } from './measureClip';
import { serveToolPages } from './toolPages';

/** The clip played there and back until it is so long; made once. */
async function lengthened(browser: Browser, url: string, video: string, seconds: number): Promise<string> {
  const key = createHash('sha256').update(readFileSync(video)).update(String(seconds)).digest('hex').slice(0, 16);
  const path = `.cache/bench/${key}.mp4`;
  if (existsSync(path)) return path;
  const page = await browser.newPage();
  await page.goto(`${url}/tools/bench-page/`);
  await page.setInputFiles('#film', video);
  const [download] = await Promise.all([page.waitForEvent('download', { timeout: 0 }), page.evaluate((s) => window.lengthenFilm(s), seconds)]);
  await download.saveAs(path);
  await page.close();
  return path;
}

/** Resident memory of the browser's page processes in MB; undefined where the system does not tell. */
async function pageMemory(browser: Browser): Promise<number | undefined> {
  const session = await browser.newBrowserCDPSession();
  try {
    const { processInfo } = await session.send('SystemInfo.getProcessInfo');
    const pages = processInfo.filter((p) => p.type === 'renderer').map((p) => readFileSync(`/proc/${p.id}/status`, 'utf8'));
    return Math.round(pages.reduce((sum, status) => sum + Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0), 0) / 1024);
  } catch {
    return undefined;
  } finally {
    await session.detach();
  }
}

/** Frames a second of decoding, of following, of looking at the player and of all together over a film of `--seconds`, their ratios to its length, and memory on the way. */
async function main(): Promise<void> {
  const { values } = parseArgs({
    options: {
      video: { type: 'string', default: 'demo/ilvi-long-bows.mp4' },
      marks: { type: 'string' },
      runs: { type: 'string', default: '3' },
      seconds: { type: 'string', default: '60' },
    },
  });
  const marks = readFileSync(values.marks ?? values.video.replace(/\.mp4$/, '.marks.json'), 'utf8');
  const server = await serveToolPages();
  const browser = await startBrowser();
  const decode: number[] = [];
  const following: number[] = [];
  const looking: number[] = [];
  const memory: Record<string, number | undefined> = {};
  let frames = 0;
  let duration = 0;
  try {
    const video = await lengthened(browser, server.url, values.video, Number(values.seconds));
    for (let run = 0; run < Number(values.runs); run++) {
      const page = await browser.newPage();
      await page.goto(`${server.url}/tools/bench-page/`);
      await page.setInputFiles('#film', video);
      const timing = await page.evaluate(() => window.timeDecode());
      await page.close();
      frames = timing.frames;
      duration = timing.duration;
      decode.push(timing.decodeSeconds);
      let followed: number | undefined;
      const onProgress = async (done: number, total: number) => {
        // Progress counts the frames first, then the pictures in which the player is looked at.
        if (done > frames) followed ??= performance.now();
        const quarter = `after ${25 * Math.floor((4 * done) / total)} %`;
        if (run === 0 && !(quarter in memory)) {
          memory[quarter] = undefined;
          memory[quarter] = await pageMemory(browser);
        }
      };
      const { milliseconds } = await measureClip(browser, server.url, { video, marksText: marks, rubric: MIDDLE_OF_STRIP, stage: 'later' }, onProgress);
      const after = followed === undefined ? 0 : performance.now() - followed;
      following.push((milliseconds - after) / 1000);
      looking.push(after / 1000);
    }
  } finally {
    await browser.close();
    await server.close();
  }
  const d = median(decode);
  const row = (seconds: number) => ({
    'frames/s': (frames / seconds).toFixed(0),
    'x film length': (duration / seconds).toFixed(2),
    'x 30 frames/s': (frames / 30 / seconds).toFixed(2),
    'x plain decoding': (d / seconds).toFixed(2),
  });
  process.stdout.write(`${values.video} there and back, ${duration.toFixed(0)} s, ${frames} frames, median of ${values.runs} runs\n`);
  console.table({
    decoding: row(d),
    'bow, instrument and sound': row(median(following)),
    'body and hands': row(median(looking)),
    'the whole measuring': row(median(following.map((s, i) => s + looking[i]!))),
  });
  process.stdout.write('memory of the page while measuring (MB)\n');
  console.table(memory);
}

main().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});

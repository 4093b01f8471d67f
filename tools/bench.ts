import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { MIDDLE_OF_STRIP } from '../src/core/rubric/rubric';
import { median } from '../src/core/statistics';
import { startBrowser } from './browser';
import { measureClip } from './measureClip';
import { serveToolPages } from './toolPages';

/** Frames a second of decoding and of the whole measuring, and their ratios to the clip's length. Three runs, median. */
async function main(): Promise<void> {
  const { values } = parseArgs({
    options: { video: { type: 'string', default: 'demo/arc-to-fingerboard.mp4' }, marks: { type: 'string' }, runs: { type: 'string', default: '3' } },
  });
  const marks = readFileSync(values.marks ?? values.video.replace(/\.mp4$/, '.marks.json'), 'utf8');
  const server = await serveToolPages();
  const browser = await startBrowser();
  const decode: number[] = [];
  const whole: number[] = [];
  let frames = 0;
  let duration = 0;
  try {
    for (let run = 0; run < Number(values.runs); run++) {
      const page = await browser.newPage();
      await page.goto(`${server.url}/tools/bench-page/`);
      await page.setInputFiles('#film', values.video);
      const timing = await page.evaluate(() => window.timeDecode());
      await page.close();
      frames = timing.frames;
      duration = timing.duration;
      decode.push(timing.decodeSeconds);
      whole.push((await measureClip(browser, server.url, values.video, marks, MIDDLE_OF_STRIP, 'later')).milliseconds / 1000);
    }
  } finally {
    await browser.close();
    await server.close();
  }
  const d = median(decode);
  const w = median(whole);
  console.table({
    decoding: { 'frames/s': (frames / d).toFixed(0), 'x real time': (duration / d).toFixed(2), 'x plain decoding': '1.00' },
    'following and estimating': { 'frames/s': (frames / (w - d)).toFixed(0), 'x real time': (duration / (w - d)).toFixed(2), 'x plain decoding': (d / (w - d)).toFixed(2) },
    whole: { 'frames/s': (frames / w).toFixed(0), 'x real time': (duration / w).toFixed(2), 'x plain decoding': (d / w).toFixed(2) },
  });
}

main().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});

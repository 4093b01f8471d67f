import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { GPU_ARGS, startBrowser } from './browser';
import { serveToolPages } from './toolPages';

/** What the squares show, how many there are of one varied player, and their size. */
const ABOUT = {
  instrument: { pictures: 14, pixels: 320 },
  hand: { pictures: 40, pixels: 208 },
} as const;

/**
 * Writes labelled squares about the instrument or the bow hand for a network to learn from: `crop-SEED.json` beside its
 * pictures, for players `from` to `to` (not included). What is there already is left.
 */
export async function renderCrops(about: keyof typeof ABOUT, from: number, to: number, folder: string, browsers = 2): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const { pictures, pixels } = ABOUT[about];
  const seeds = Array.from({ length: to - from }, (_, i) => from + i).filter((seed) => !existsSync(join(folder, `crop-${seed}.json`)));
  const server = await serveToolPages();
  const start = Date.now();
  let done = 0;
  const work = async () => {
    const browser = await startBrowser(GPU_ARGS);
    try {
      for (let seed = seeds.shift(); seed !== undefined; seed = seeds.shift()) {
        const page = await browser.newPage();
        page.on('pageerror', (error) => process.stderr.write(`${error.message}\n`));
        await page.goto(`${server.url}/synth/page/`);
        await page.waitForFunction(() => typeof window.renderCrops === 'function');
        const crops = await page.evaluate(
          ([what, s, count, side]): Promise<{ readonly picture: string }[]> => (what === 'hand' ? window.renderHands(s, count, side) : window.renderCrops(s, count, side)),
          [about, seed, pictures, pixels] as const,
        );
        await page.close();
        crops.forEach(({ picture }, n) => {
          writeFileSync(join(folder, `crop-${seed}-${n}.webp`), Buffer.from(picture, 'base64'));
        });
        writeFileSync(join(folder, `crop-${seed}.json`), JSON.stringify(crops.map(({ picture: _, ...labels }, n) => ({ ...labels, file: `crop-${seed}-${n}.webp` }))));
        done += crops.length;
        if (done % 50 < pictures) process.stderr.write(`${done} pictures, ${((Date.now() - start) / done).toFixed(0)} ms each\n`);
      }
    } finally {
      await browser.close();
    }
  };
  try {
    await Promise.all(Array.from({ length: browsers }, work));
  } finally {
    await server.close();
  }
}

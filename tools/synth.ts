import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import type { Browser } from 'playwright';
import { withFaults } from '../synth/presets/faults';
import { PRESETS, scenarioOf } from '../synth/presets/presets';
import type { Scenario } from '../synth/presets/scenario';
import { startBrowser } from './browser';
import { serveToolPages } from './toolPages';

export interface ClipFiles {
  readonly film: string;
  readonly truth: string;
  readonly landmarks: string;
  readonly marks: string;
  readonly score: string;
}

export const GPU_ARGS = ['--use-gl=angle', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist'];

const filesOf = (folder: string, name: string): ClipFiles => ({
  film: join(folder, `${name}.mp4`),
  truth: join(folder, `${name}.truth.csv`),
  landmarks: join(folder, `${name}.landmarks.csv`),
  marks: join(folder, `${name}.marks.json`),
  score: join(folder, `${name}.score.json`),
});

/** What a clip is made from: the scenario and the sources that draw it. Same content, same clip. */
function fingerprint(scenario: Scenario): string {
  const hash = createHash('sha256').update(JSON.stringify(scenario));
  const walk = (folder: string) => {
    for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => a.name.localeCompare(b.name))) {
      const path = join(folder, entry.name);
      if (entry.isDirectory()) walk(path);
      else if (path.endsWith('.ts') && !path.endsWith('.test.ts') && !path.includes('presets/presets.ts') && !path.includes('presets/faults.ts')) hash.update(readFileSync(path));
    }
  };
  walk('synth');
  for (const file of ['body', 'dimensions', 'family', 'landmarks', 'outline', 'strings']) hash.update(readFileSync(`src/core/instrument/${file}.ts`));
  return hash.digest('hex').slice(0, 16);
}

/** Renders clips that are not in the cache yet, and gives the place of each. */
export async function renderClips(scenarios: readonly Scenario[], folder = '.cache/clips'): Promise<ClipFiles[]> {
  mkdirSync(folder, { recursive: true });
  const wanted = scenarios.map((scenario) => ({ scenario, files: filesOf(folder, `${scenario.name}-${scenario.seed}-${fingerprint(scenario)}`) }));
  const missing = wanted.filter(({ files }) => !existsSync(files.film));
  if (missing.length > 0) {
    const server = await serveToolPages();
    try {
      // Two browsers side by side: drawing is single-threaded in each.
      const queue = [...missing];
      const work = async () => {
        const browser = await startBrowser(GPU_ARGS);
        try {
          for (let next = queue.shift(); next; next = queue.shift()) await renderOne(browser, server.url, next.scenario, next.files);
        } finally {
          await browser.close();
        }
      };
      await Promise.all(Array.from({ length: Math.min(2, missing.length) }, work));
    } finally {
      await server.close();
    }
  }
  return wanted.map(({ files }) => files);
}

async function renderOne(browser: Browser, url: string, scenario: Scenario, files: ClipFiles): Promise<void> {
  const page = await browser.newPage();
  page.on('pageerror', (error) => process.stderr.write(`${error.message}\n`));
  await page.goto(`${url}/synth/page/`);
  await page.waitForFunction(() => typeof window.renderClip === 'function');
  const clip = await page.evaluate((s) => window.renderClip(s), scenario);
  await page.close();
  writeFileSync(files.film, Buffer.from(clip.film, 'base64'));
  writeFileSync(files.truth, clip.truth);
  writeFileSync(files.landmarks, clip.landmarks);
  writeFileSync(files.marks, clip.marks);
  writeFileSync(files.score, clip.score);
  process.stderr.write(`${scenario.name} seed ${scenario.seed}: ${clip.frames} frames, ${(clip.milliseconds / clip.frames).toFixed(0)} ms each\n`);
}

async function main(): Promise<void> {
  const { values } = parseArgs({
    options: {
      preset: { type: 'string' },
      seed: { type: 'string', default: '1' },
      out: { type: 'string', default: '.cache/clips' },
      still: { type: 'string' },
      sheet: { type: 'boolean' },
      fault: { type: 'string', multiple: true, default: [] },
    },
  });
  const faults = values.fault.map((text) => {
    const [id, strength = '1'] = text.split(':');
    return { id: id!, strength: Number(strength) };
  });
  const asked = (preset: string) => withFaults(scenarioOf(preset, Number(values.seed)), faults);
  if (values.still !== undefined || values.sheet) {
    const server = await serveToolPages();
    const browser = await startBrowser(GPU_ARGS);
    mkdirSync(values.out, { recursive: true });
    for (const preset of values.sheet ? Object.keys(PRESETS) : [values.preset ?? 'straight']) {
      const page = await browser.newPage();
      page.on('pageerror', (error) => process.stderr.write(`${error.message}\n`));
      page.on('console', (m) => m.type() === 'error' && process.stderr.write(`${m.text()}\n`));
      await page.goto(`${server.url}/synth/page/`);
      await page.waitForFunction(() => typeof window.renderStill === 'function');
      const png = await page.evaluate(([s, t]) => window.renderStill(s, t), [asked(preset), Number(values.still ?? 1)] as const);
      const path = join(values.out, `${preset}-${values.seed}.png`);
      writeFileSync(path, Buffer.from(png, 'base64'));
      process.stdout.write(`${path}\n`);
      await page.close();
    }
    await browser.close();
    await server.close();
    return;
  }
  if (!values.preset)
    throw new Error(
      `usage: npm run synth -- --preset NAME --seed N [--out FOLDER] [--fault ID[:STRENGTH] ...] [--still SECONDS] [--sheet]. Presets: ${Object.keys(PRESETS).join(', ')}`,
    );
  const [files] = await renderClips([asked(values.preset)], values.out);
  process.stdout.write(`${Object.values(files!).join('\n')}\n`);
}

if (process.argv[1]?.endsWith('synth.ts')) {
  main().catch((error: Error) => {
    process.stderr.write(`${error.message.split('\n')[0]}\n`);
    process.exit(1);
  });
}

import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import type { Browser } from 'playwright';
import { withFaults } from '../synth/presets/faults';
import { PRESETS, pictureOf, scenarioOf, VIEWS } from '../synth/presets/presets';
import type { Scenario } from '../synth/presets/scenario';
import { GPU_ARGS, startBrowser } from './browser';
import { renderCrops } from './crops';
import { serveToolPages } from './toolPages';

export interface ClipFiles {
  readonly film: string;
  readonly truth: string;
  readonly landmarks: string;
  readonly marks: string;
  readonly score: string;
}

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
  for (const file of ['instrument/body', 'instrument/dimensions', 'instrument/family', 'instrument/landmarks', 'instrument/outline', 'instrument/strings', 'sound/openStrings'])
    hash.update(readFileSync(`src/core/${file}.ts`));
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

/** One picture (PNG) of each scenario at a moment. */
export async function stills(wanted: readonly { readonly scenario: Scenario; readonly t: number }[]): Promise<Buffer[]> {
  const server = await serveToolPages();
  const browser = await startBrowser(GPU_ARGS);
  const out: Buffer[] = [];
  try {
    for (const { scenario, t } of wanted) {
      const page = await browser.newPage();
      page.on('pageerror', (error) => process.stderr.write(`${error.message}\n`));
      await page.goto(`${server.url}/synth/page/`);
      await page.waitForFunction(() => typeof window.renderStill === 'function');
      out.push(Buffer.from(await page.evaluate(([s, at]) => window.renderStill(s, at), [scenario, t] as const), 'base64'));
      await page.close();
    }
  } finally {
    await browser.close();
    await server.close();
  }
  return out;
}

/** Pictures side by side with their names beneath, as one PNG. */
export async function contactSheet(pictures: readonly { readonly png: Buffer; readonly label: string }[], columns = 4): Promise<Buffer> {
  const browser = await startBrowser();
  try {
    const page = await browser.newPage({ viewport: { width: columns * 320, height: 200 } });
    const cells = pictures.map(({ png, label }) => `<figure><img src="data:image/png;base64,${png.toString('base64')}"><figcaption>${label}</figcaption></figure>`);
    await page.setContent(
      `<style>body{margin:0;background:#e6eae7;display:grid;grid-template-columns:repeat(${columns},1fr);font:13px sans-serif;color:#1f2629}figure{margin:6px}img{width:100%;height:176px;object-fit:contain;background:#d3dad7}</style>${cells.join('')}`,
    );
    return await page.screenshot({ fullPage: true });
  } finally {
    await browser.close();
  }
}

async function main(): Promise<void> {
  const { values } = parseArgs({
    options: {
      preset: { type: 'string' },
      seed: { type: 'string', default: '1' },
      out: { type: 'string', default: '.cache/clips' },
      still: { type: 'string' },
      sheet: { type: 'boolean' },
      crops: { type: 'string' },
      hands: { type: 'string' },
      view: { type: 'string' },
      fault: { type: 'string', multiple: true, default: [] },
    },
  });
  for (const [about, players] of [
    ['instrument', values.crops],
    ['hand', values.hands],
  ] as const) {
    if (players === undefined) continue;
    const [from = 0, to = 0] = players.split('-').map(Number);
    if (!(to > from)) throw new Error('--crops and --hands take the seeds of the first and the last player and one more, as in 1-700.');
    await renderCrops(about, from, to, values.out);
    return;
  }
  const faults = values.fault.map((text) => {
    const [id, strength = '1'] = text.split(':');
    return { id: id!, strength: Number(strength) };
  });
  const view = VIEWS.find((v) => v === values.view);
  if (values.view !== undefined && !view) throw new Error(`There is no view "${values.view}". Known: ${VIEWS.join(', ')}.`);
  // A clip from elsewhere is another clip: its name says so.
  const named = (scenario: Scenario): Scenario => (view ? { ...scenario, name: `${scenario.name}-${view}` } : scenario);
  const asked = (preset: string) => named(withFaults(scenarioOf(preset, Number(values.seed), view ? { view, ...pictureOf(view) } : {}), faults));
  if (values.still !== undefined || values.sheet) {
    const t = Number(values.still ?? 1);
    const scenarios = values.sheet ? Object.keys(PRESETS).map(asked) : [asked(values.preset ?? 'straight')];
    mkdirSync(values.out, { recursive: true });
    const pictures = await stills(scenarios.map((scenario) => ({ scenario, t })));
    const path = values.sheet ? join(values.out, 'sheet.png') : join(values.out, `${scenarios[0]!.name}-${values.seed}.png`);
    const labelled = pictures.map((png, i) => ({ png, label: `${scenarios[i]!.name} ${scenarios[i]!.seed}` }));
    writeFileSync(path, values.sheet ? await contactSheet(labelled) : pictures[0]!);
    process.stdout.write(`${path}\n`);
    return;
  }
  if (!values.preset)
    throw new Error(
      `usage: npm run synth -- --preset NAME --seed N [--out FOLDER] [--view VIEW] [--fault ID[:STRENGTH] ...] [--still SECONDS] [--sheet], or --crops FROM-TO --out FOLDER. Presets: ${Object.keys(PRESETS).join(', ')}`,
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

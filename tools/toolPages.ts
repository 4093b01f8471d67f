import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { type Listening, listen } from '../server/listen';

const OUT = '.cache/tools';

function newest(folder: string): number {
  let latest = 0;
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    latest = Math.max(latest, entry.isDirectory() ? newest(path) : statSync(path).mtimeMs);
  }
  return latest;
}

/** Builds the headless pages when their sources are newer than the last build. */
export async function buildToolPages(): Promise<void> {
  const page = join(OUT, 'tools/measure-page/index.html');
  const sources = Math.max(...['src/core', 'src/vision', 'synth', 'tools'].map(newest));
  if (existsSync(page) && statSync(page).mtimeMs > sources) return;
  // Loading the bundler takes longer than finding that it is not needed.
  const { build } = await import('vite');
  await build({ configFile: 'vite.tools.config.ts', logLevel: 'error' });
}

/** Serves the headless pages on a free port. */
export async function serveToolPages(): Promise<Listening> {
  await buildToolPages();
  return listen(OUT, 0);
}

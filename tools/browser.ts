import { existsSync } from 'node:fs';
import { type Browser, chromium } from 'playwright';

export const CHROMIUM_ARGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

/** Drawing in three dimensions without a graphics card. */
export const GPU_ARGS = ['--use-gl=angle', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist'];

/** Chromium as the system has it. */
export const chromiumPath = (): string => process.env.CHROMIUM ?? '/usr/bin/chromium';

/** Starts headless Chromium. @throws Error in plain words when it is not installed. */
export async function startBrowser(extra: readonly string[] = []): Promise<Browser> {
  const executablePath = chromiumPath();
  if (!existsSync(executablePath)) throw new Error(`Chromium is not installed at ${executablePath}. Run "npm test" once, or install Debian's package "chromium".`);
  return chromium.launch({ executablePath, args: [...CHROMIUM_ARGS, ...extra] });
}

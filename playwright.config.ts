import { defineConfig } from '@playwright/test';
import { ADDRESS } from './e2e/addresses';
import { CHROMIUM_ARGS, chromiumPath } from './tools/browser';

export default defineConfig({
  testDir: 'e2e',
  // A busy machine is no failure: speed is measured by the bench alone.
  timeout: 900_000,
  expect: { timeout: 60_000 },
  workers: 1,
  retries: 0,
  reporter: [['list'], ['json', { outputFile: '.cache/e2e.json' }]],
  use: {
    baseURL: ADDRESS,
    viewport: { width: 1280, height: 800 },
    actionTimeout: 60_000,
    launchOptions: { executablePath: chromiumPath(), args: CHROMIUM_ARGS },
  },
  webServer: { command: 'npx tsx e2e/serve.ts', url: ADDRESS, reuseExistingServer: false },
});

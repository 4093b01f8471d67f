import { defineConfig } from '@playwright/test';
import { CHROMIUM_ARGS, chromiumPath } from './tools/browser';

export default defineConfig({
  testDir: 'e2e',
  timeout: 240_000,
  expect: { timeout: 30_000 },
  workers: 1,
  retries: 0,
  reporter: [['list'], ['json', { outputFile: '.cache/e2e.json' }]],
  use: {
    baseURL: 'http://127.0.0.1:4199',
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: chromiumPath(), args: CHROMIUM_ARGS },
  },
  webServer: { command: 'npx tsx e2e/serve.ts', url: 'http://127.0.0.1:4199', reuseExistingServer: false },
});

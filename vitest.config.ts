import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['src/**/*.test.{ts,tsx}', 'synth/**/*.test.ts', 'tools/**/*.test.ts', 'server/**/*.test.ts'],
    environment: 'node',
    // A busy machine is no failure: speed is measured by the bench alone.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    maxWorkers: '100%',
  },
});

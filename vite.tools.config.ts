import { defineConfig } from 'vite';

/** Pages that run in a headless browser only: measuring from the command line, and the synthetic student. */
export default defineConfig({
  publicDir: false,
  worker: { format: 'es' },
  build: {
    target: 'es2022',
    outDir: '.cache/tools',
    emptyOutDir: true,
    chunkSizeWarningLimit: 1500,
    rolldownOptions: { input: ['tools/measure-page/index.html', 'tools/bench-page/index.html', 'synth/page/index.html'] },
  },
});

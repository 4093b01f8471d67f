import { defineConfig } from 'vite';
import { modelBundles } from './tools/models/bundles';

/** Pages that run in a headless browser only: measuring from the command line, and the synthetic student. */
export default defineConfig({
  plugins: [modelBundles()],
  publicDir: false,
  worker: { format: 'es' },
  optimizeDeps: { exclude: ['@mediapipe/tasks-vision'] },
  build: {
    target: 'es2022',
    outDir: '.cache/tools',
    emptyOutDir: true,
    chunkSizeWarningLimit: 1500,
    rolldownOptions: { input: ['tools/measure-page/index.html', 'tools/bench-page/index.html', 'synth/page/index.html'] },
  },
});

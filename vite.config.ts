import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { modelBundles } from './tools/models/bundles';

/** The application. */
export default defineConfig({
  plugins: [modelBundles(), react(), tailwindcss()],
  worker: { format: 'es' },
  optimizeDeps: { exclude: ['@mediapipe/tasks-vision'] },
  build: { target: 'es2022', chunkSizeWarningLimit: 1500, rolldownOptions: { input: 'index.html' } },
});

/** Layers import only toward core: app -> store -> vision -> core. */
module.exports = {
  forbidden: [
    { name: 'core-stands-alone', severity: 'error', from: { path: '^src/core' }, to: { path: '^(src/(vision|store|app)|server|synth|tools)' } },
    { name: 'core-uses-few-packages', severity: 'error', from: { path: '^src/core', pathNot: '\\.test\\.ts$' }, to: { dependencyTypes: ['npm', 'npm-dev'], pathNot: 'node_modules/(zod|fft\\.js|pitchy|date-fns)/' } },
    { name: 'vision-asks-core-only', severity: 'error', from: { path: '^src/vision' }, to: { path: '^(src/(store|app)|server|synth|tools)' } },
    { name: 'store-below-app', severity: 'error', from: { path: '^src/store' }, to: { path: '^(src/app|server|synth|tools)' } },
    { name: 'app-not-from-tools', severity: 'error', from: { path: '^src/app', pathNot: '\\.test\\.tsx?$' }, to: { path: '^(server|synth|tools|e2e)' } },
    { name: 'synth-uses-core-only', severity: 'error', from: { path: '^synth' }, to: { path: '^(src/(vision|store|app)|server|tools)' } },
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
  ],
  options: { tsPreCompilationDeps: true, tsConfig: { fileName: 'tsconfig.json' }, doNotFollow: { path: 'node_modules' }, enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.js'] } },
};

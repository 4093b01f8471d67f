// Installs what is needed, then runs every check and ends with one plain line of counts.
import { mkdirSync, readFileSync } from 'node:fs';
import { installChromium, installPackages, run } from './setup.mjs';

installPackages();
installChromium();
mkdirSync('.cache', { recursive: true });

let passed = 0;
let failed = 0;
const check = (name, ok) => {
  console.log(`${ok ? 'ok' : 'FAILED'}: ${name}`);
  if (ok) passed++;
  else failed++;
};

check('lint and formatting', run('npx', ['biome', 'check', '--diagnostic-level=error']));
check('types', run('npx', ['tsc', '-p', '.']));
check('core without browser types', run('npx', ['tsc', '-p', 'tsconfig.core.json']));
check('layers import only toward core', run('npx', ['depcruise', '--config', '.dependency-cruiser.cjs', 'src', 'server', 'synth', 'tools']));
check('build', run('npx', ['vite', 'build', '--logLevel', 'warn']));

/** Counts of a runner's own report; a run that wrote none counts as one failure. */
const count = (path, read) => {
  try {
    const [p, f] = read(JSON.parse(readFileSync(path, 'utf8')));
    passed += p;
    failed += f;
    if (p + f === 0) failed++;
  } catch {
    failed++;
  }
};

run('npx', ['vitest', 'run', '--reporter=default', '--reporter=json', '--outputFile=.cache/unit.json']);
count('.cache/unit.json', (r) => [r.numPassedTests, r.numFailedTests + (r.numFailedTestSuites > 0 && r.numFailedTests === 0 ? r.numFailedTestSuites : 0)]);
run('npx', ['playwright', 'test']);
count('.cache/e2e.json', (r) => [r.stats.expected, r.stats.unexpected + r.stats.flaky]);

console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);

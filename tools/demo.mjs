// One command for a new machine: installs, builds, starts with demo data, prints the address.
import { installPackages, run } from './setup.mjs';

installPackages();
if (!run('npx', ['vite', 'build', '--logLevel', 'warn'])) process.exit(1);
run('npx', ['tsx', 'tools/serve.ts', ...process.argv.slice(2)]);

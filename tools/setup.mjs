// What a fresh machine needs, with Node alone: packages from the lock file, and Chromium.
import { spawnSync } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';

/** Runs a command with its output shown; answers whether it succeeded. */
export function run(command, args, options = {}) {
  const done = spawnSync(command, args, { stdio: 'inherit', ...options });
  return done.status === 0;
}

export function installPackages() {
  const stamp = 'node_modules/.package-lock.json';
  if (existsSync(stamp) && statSync(stamp).mtimeMs >= statSync('package-lock.json').mtimeMs) return;
  if (!run('npm', ['ci', '--no-audit', '--no-fund'])) {
    console.error('The packages could not be installed. Is the npm registry reachable?');
    process.exit(1);
  }
}

export function installChromium() {
  const path = process.env.CHROMIUM ?? '/usr/bin/chromium';
  if (existsSync(path)) return;
  const sudo = process.getuid?.() === 0 ? [] : ['sudo'];
  const apt = (...args) => run([...sudo, 'apt-get', ...args][0], [...sudo, 'apt-get', ...args].slice(1), { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } });
  apt('update', '-qq');
  if (!apt('install', '-y', '-qq', 'chromium')) {
    console.error(`Chromium is not at ${path} and could not be installed. Install the package "chromium", or set CHROMIUM to its path.`);
    process.exit(1);
  }
}

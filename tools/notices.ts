import { readFileSync, writeFileSync } from 'node:fs';

/** Licence notices of everything that ships with the build, from the packages themselves. */
const lock = JSON.parse(readFileSync('package-lock.json', 'utf8')) as { packages: Record<string, { version?: string; license?: string; dev?: boolean; optional?: boolean }> };
const rows = Object.entries(lock.packages)
  .filter(([path, entry]) => path.startsWith('node_modules/') && !entry.dev && !entry.optional)
  .map(([path, entry]) => `| ${path.replace(/^.*node_modules\//, '')} | ${entry.version ?? ''} | ${entry.license ?? 'see package'} |`)
  .sort();
writeFileSync(
  'NOTICES.md',
  `# Notices\n\nPackages that ship with the build, with their licences. The texts stand in each package. Fonts: Vollkorn and Source Sans 3, SIL Open Font License 1.1. The build also holds the weights of the body, hand and face networks from the packages @mediapipe/pose 0.5.1675469404, @mediapipe/hands 0.4.1675469240 and @mediapipe/face_mesh 0.4.1633559619, Apache License 2.0, with a metadata entry added.\n\n| package | version | licence |\n|---|---|---|\n${[...new Set(rows)].join('\n')}\n`,
);

import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { listen } from '../server/listen';
import { EMPTY_PORT, PORT } from './addresses';
import { TWO_BOWS, twoBows } from './films';

/** The demo cut down to its first student's marked takes: every test begins with a fresh browser, which measures what it finds. */
const FOLDER = '.cache/e2e-demo';
const demo = JSON.parse(readFileSync('demo/index.json', 'utf8'));
const takes = demo.takes.filter((t: { studentId: string; marks?: string }) => t.studentId === demo.students[0].id && t.marks);
mkdirSync(FOLDER, { recursive: true });
for (const { video, marks } of takes) for (const file of [video, marks]) copyFileSync(join('demo', file), join(FOLDER, file));
writeFileSync(join(FOLDER, 'index.json'), JSON.stringify({ students: [demo.students[0]], takes }));
writeFileSync(TWO_BOWS, await twoBows());
for (const server of [await listen('dist', PORT, FOLDER), await listen('dist', EMPTY_PORT)]) process.stdout.write(`${server.url}\n`);

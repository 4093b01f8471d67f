// @ts-nocheck
import { createRequire } from 'node:module'; const require = createRequire(import.meta.url);
import { readFileSync } from 'node:fs';
import { startBrowser } from './browser'; import { serveToolPages } from './toolPages'; import { startClip } from './measureClip'; import { readTable } from './score';
import { solutionFromMarks } from '../src/core/take/marksToSolution'; import { project } from '../src/core/geometry/camera'; import { toOuter } from '../src/core/geometry/pose';
const server = await serveToolPages(); const b = await startBrowser();
for (const name of process.argv.slice(2)) {
  const base = name.includes('/') ? name : '/work/shared/samples/'+name; const m = JSON.parse(readFileSync(base+'.marks.json','utf8'));
  const { start } = await startClip(b, server.url, base+'.mp4', m.instrument);
  if ('refused' in start) { console.log(name, start.refused); continue; }
  const c = start.candidates[0]; const rows = readTable(readFileSync(base+'.landmarks.csv','utf8'));
  const frames = [...new Set(rows.map(r=>Number(r.frame)))]; const f0 = frames.filter(f=>f<=c.frame).at(-1), f1 = frames.find(f=>f>=c.frame)??f0; const k = f1>f0?(c.frame-f0)/(f1-f0):0;
  const at = (p) => { const a = rows.find(r=>r.point===p&&Number(r.frame)===f0), q = rows.find(r=>r.point===p&&Number(r.frame)===f1); return a&&q?[Number(a.u)+k*(q.u-a.u), Number(a.v)+k*(q.v-a.v), a.visible]:undefined; };
  const { solution } = solutionFromMarks(c.marks); require('fs').writeFileSync('/tmp/h/start-'+name.split('/').pop()+'.json', JSON.stringify({frame:c.frame, points:c.marks.frames[0].points, truth:Object.fromEntries(Object.keys(c.marks.frames[0].points).map(p=>[p,at(p)])), pose:Object.fromEntries(Object.keys(c.marks.frames[0].points).filter(p=>p.startsWith('instrument')).map(p=>[p,project(solution.camera,toOuter(solution.poses[0],solution.model.landmarks[p]))]))})); console.log(name, 'frame', c.frame, 'focal', solution.camera.focal.toFixed(0), 'misfit', solution.misfit.toFixed(2));
  for (const [p, [x,y]] of Object.entries(c.marks.frames[0].points)) { const t = at(p); if (!t) continue; const im = p.startsWith('instrument') && project(solution.camera, toOuter(solution.poses[0], solution.model.landmarks[p])); console.log('  ', p.padEnd(30), 'net', (x-t[0]).toFixed(1), (y-t[1]).toFixed(1), im?`pose ${(im[0]-t[0]).toFixed(1)} ${(im[1]-t[1]).toFixed(1)}`:'', t[2]); }
}
await b.close(); await server.close();

// @ts-nocheck
import { writeFileSync } from 'node:fs';
import { startBrowser } from './tools/browser';
import { serveToolPages } from './tools/toolPages';
import { GPU_ARGS } from './tools/synth';
import { scenarioOf } from './synth/presets/presets';
import { withFaults } from './synth/presets/faults';
const server=await serveToolPages(); const browser=await startBrowser(GPU_ARGS);
const list=JSON.parse(process.argv[2]);
for(const [i,[p,seed,t,over,faults]] of list.entries()){ const page=await browser.newPage(); page.on('pageerror',e=>console.log(e.message));
await page.goto(`${server.url}/synth/page/`); await page.waitForFunction(()=>typeof window.renderStill==='function');
const png=await page.evaluate(([s,t])=>window.renderStill(s,t),[withFaults(scenarioOf(p,seed,over),(faults??[]).map(id=>({id,strength:1}))),t]); writeFileSync(`/tmp/st/g${i}.png`,Buffer.from(png,'base64')); await page.close();}
await browser.close(); await server.close(); process.exit(0);

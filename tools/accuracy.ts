import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { MIDDLE_OF_STRIP } from '../src/core/rubric/rubric';
import { accuracyClips } from './accuracyClips';
import { startBrowser } from './browser';
import { measureClip } from './measureClip';
import { type Pair, pairsOf, readTable, scoreOf, stringScore } from './score';
import { renderClips } from './synth';
import { serveToolPages } from './toolPages';

const QUANTITIES = ['skew_deg', 'contact_mm', 'inclination_deg', 'bow_position'];

/** Renders (or takes from the cache) seeded clips, measures them and prints how far off the numbers are. */
async function main(): Promise<void> {
  const { values } = parseArgs({ options: { preset: { type: 'string' } } });
  const wanted = accuracyClips(values.preset);
  const scenarios = wanted.map((w) => w.scenario);
  const clips = await renderClips(scenarios);
  const server = await serveToolPages();
  const browser = await startBrowser();
  const all = new Map<string, { pairs: Pair[]; possible: number }>(QUANTITIES.map((q) => [q, { pairs: [], possible: 0 }]));
  const table: Record<string, string | number>[] = [];
  let named = 0;
  let right = 0;
  try {
    for (const [i, scenario] of scenarios.entries()) {
      const files = clips[i]!;
      const measured = await measureClip(browser, server.url, files.film, readFileSync(files.marks, 'utf8'), MIDDLE_OF_STRIP, 'later');
      const measures = readTable(measured.measures);
      const truth = readTable(readFileSync(files.truth, 'utf8'));
      const row: Record<string, string | number> = { clip: `${scenario.name} ${scenario.seed}`, view: scenario.view };
      for (const quantity of QUANTITIES) {
        const { pairs, possible } = pairsOf(measures, truth, quantity);
        all.get(quantity)!.pairs.push(...pairs);
        all.get(quantity)!.possible += possible;
        const s = scoreOf(quantity, pairs, possible);
        const short = quantity.replace(/_(deg|mm)$/, '');
        row[`${short} med/95%`] = `${s.median.toFixed(2)}/${s.p95.toFixed(2)}`;
        if (quantity === 'skew_deg') row.cover = s.coverage.toFixed(2);
      }
      const strings = stringScore(measures, truth);
      named += strings.named;
      right += strings.right;
      row.findings = (JSON.parse(measured.findings) as { findings: { fault: string; third: string }[] }).findings.map((f) => `${f.fault}(${f.third})`).join(' ') || '-';
      table.push(row);
      process.stderr.write(`${row.clip}: done\n`);
    }
  } finally {
    await browser.close();
    await server.close();
  }
  console.table(table);
  console.table(
    QUANTITIES.map((quantity) => {
      const { pairs, possible } = all.get(quantity)!;
      const s = scoreOf(quantity, pairs, possible);
      return {
        quantity,
        coverage: s.coverage.toFixed(3),
        bias: s.bias.toFixed(3),
        median: s.median.toFixed(3),
        '95 %': s.p95.toFixed(3),
        'within 1u': s.within[0].toFixed(3),
        '2u': s.within[1].toFixed(3),
        '3u': s.within[2].toFixed(3),
      };
    }),
  );
  console.log(`string right in ${((100 * right) / Math.max(1, named)).toFixed(1)} % of ${named} frames`);
}

main().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});

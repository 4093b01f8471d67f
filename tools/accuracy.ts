import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import pMap, { pMapSkip } from 'p-map';
import type { Browser } from 'playwright';
import { marksToText } from '../src/core/formats/marks';
import { MIDDLE_OF_STRIP } from '../src/core/rubric/rubric';
import { accuracyClips } from './accuracyClips';
import { startBrowser } from './browser';
import type { MeasuredFiles } from './measure-page/main';
import { measureClip } from './measureClip';
import { type Pair, pairsOf, readTable, scoreOf, stringScore } from './score';
import { printSoundAccuracy } from './soundAccuracy';
import { printStarts, type StartScore, scoreStart } from './startAccuracy';
import { startScenarios } from './startClips';
import { renderClips } from './synth';
import { serveToolPages } from './toolPages';

const QUANTITIES = [
  'skew_deg',
  'contact_mm',
  'inclination_deg',
  'bow_position',
  'instrument_pitch_deg',
  'instrument_roll_deg',
  'instrument_heading_deg',
  'elbow_angle_deg',
  'elbow_rise_deg',
  'arm_bow_gap_deg',
  'wrist_flexion_deg',
  'thumb_ip_deg',
  'index_pip_deg',
  'middle_pip_deg',
  'ring_pip_deg',
  'little_pip_deg',
  'trunk_lean_deg',
  'head_tilt_deg',
  'head_turn_deg',
  'stance_width',
] as const;
type Quantity = (typeof QUANTITIES)[number];

interface Clip {
  readonly name: string;
  readonly view: string;
  readonly difficulty: string;
  readonly film: string;
  readonly marks: string;
  readonly truth: string;
  readonly landmarks: string;
  /** Milliseconds by which the sound is late, where known. */
  readonly late?: number;
}

/** Errors of one clip, and how many frames could have been measured. */
interface Result {
  readonly clip: Clip;
  readonly pairs: Readonly<Record<Quantity, Pair[]>>;
  readonly possible: Readonly<Record<Quantity, number>>;
  readonly named: number;
  readonly right: number;
  readonly findings: string;
  /** Shares of the looked-at pictures in which player, bow hand and the hand at the neck were found. */
  readonly found: string;
  /** Measured and true offset of the sound, ms; absent without. */
  readonly offset: string;
}

/** Clips with marks and truth beside them in a folder, from whatever renderer. */
function clipsIn(folder: string): Clip[] {
  return readdirSync(folder)
    .filter((file) => file.endsWith('.mp4'))
    .map((file) => file.replace(/\.mp4$/, ''))
    .filter((name) => ['marks.json', 'truth.csv'].every((ending) => existsSync(join(folder, `${name}.${ending}`))))
    .map((name) => ({
      name,
      view: 'given',
      difficulty: 'given',
      film: join(folder, `${name}.mp4`),
      marks: join(folder, `${name}.marks.json`),
      truth: join(folder, `${name}.truth.csv`),
      landmarks: join(folder, `${name}.landmarks.csv`),
    }));
}

/** Clips to be started without marks only. */
async function startingClips(): Promise<Clip[]> {
  const wanted = startScenarios(STARTS);
  const files = await renderClips(wanted);
  return wanted.map((scenario, i) => ({
    ...files[i]!,
    name: `${scenario.family} ${scenario.size} ${scenario.seed}`,
    view: scenario.view,
    difficulty: scenario.light < 0.65 ? 'dark' : scenario.height > scenario.width ? 'upright film' : 'plain',
  }));
}

async function seededClips(only: Parameters<typeof accuracyClips>[0]): Promise<Clip[]> {
  const wanted = accuracyClips(only);
  const files = await renderClips(wanted.map((w) => w.scenario));
  return wanted.map(({ scenario, difficulty }, i) => ({
    ...files[i]!,
    name: `${scenario.name} ${scenario.seed}`,
    view: scenario.view,
    difficulty,
    late: 1000 * scenario.soundLate,
  }));
}

function offsetOf(events: string, late: number | undefined): string {
  const { audio_offset_ms: found, audio_offset_ms_u: u } = JSON.parse(events) as { audio_offset_ms?: number; audio_offset_ms_u?: number };
  return found === undefined ? '-' : `${found} \u00b1${u}${late === undefined ? '' : ` (is ${late.toFixed(0)})`} ms`;
}

const foundOf = ({ pictures, player, hand, neck, neckHand }: MeasuredFiles['looked']): string => {
  const share = (found: number, of: number) => (of > 0 ? `${((100 * found) / of).toFixed(0)} %` : '-');
  return [share(player, pictures), share(hand, pictures), share(neckHand, neck)].join(', ');
};

/** Players started from in a run of `--starts`. */
const STARTS = 24;

const statistics = (results: readonly Result[], quantity: Quantity) => {
  const pairs = results.flatMap((r) => r.pairs[quantity]);
  return scoreOf(
    quantity,
    pairs,
    results.reduce((n, r) => n + r.possible[quantity], 0),
  );
};

function printGroups(title: string, results: readonly Result[], key: (r: Result) => string): void {
  console.log(`\n${title}`);
  const groups = [...new Set(results.map(key))];
  console.table(
    groups.flatMap((group) =>
      QUANTITIES.map((quantity) => {
        const inside = results.filter((r) => key(r) === group);
        const s = statistics(inside, quantity);
        return {
          group,
          clips: inside.length,
          quantity,
          coverage: s.coverage.toFixed(3),
          bias: s.bias.toFixed(2),
          median: s.median.toFixed(2),
          '95 %': s.p95.toFixed(2),
          'within 1u': s.within[0].toFixed(2),
          '2u': s.within[1].toFixed(2),
          '3u': s.within[2].toFixed(2),
        };
      }).filter((row) => row.median !== 'NaN'),
    ),
  );
}

/** Clips measured side by side: each keeps one core busy. */
const AT_A_TIME = 2;

/** Measures a clip and compares it with its truth. @throws Error in plain words where it cannot be measured. */
async function resultOf(browser: Browser, url: string, clip: Clip, marksText: string): Promise<Result> {
  const measured = await measureClip(browser, url, { video: clip.film, marksText, rubric: MIDDLE_OF_STRIP, stage: 'later' });
  const measures = readTable(measured.measures);
  const truth = readTable(readFileSync(clip.truth, 'utf8'));
  const of = QUANTITIES.map((quantity) => [quantity, pairsOf(measures, truth, quantity)] as const);
  const { named, right } = stringScore(measures, truth);
  return {
    clip,
    pairs: Object.fromEntries(of.map(([q, { pairs }]) => [q, pairs])) as Record<Quantity, Pair[]>,
    possible: Object.fromEntries(of.map(([q, { possible }]) => [q, possible])) as Record<Quantity, number>,
    named,
    right,
    found: foundOf(measured.looked),
    offset: offsetOf(measured.events, clip.late),
    findings: (JSON.parse(measured.findings) as { findings: { fault: string; third: string }[] }).findings.map((f) => `${f.fault}(${f.third})`).join(' ') || '-',
  };
}

/** Says how a clip started while the others are still to come; with LOOKS set, what each look at it found. */
function tellStart(scored: Awaited<ReturnType<typeof scoreStart>>): void {
  process.stderr.write(`${scored.clip.name}: ${scored.refused ?? `started, worst landmark ${scored.worst!.toFixed(1)} px`} in ${scored.seconds.toFixed(1)} s\n`);
  if (!process.env.LOOKS) return;
  for (const { index, player, light, placed, bow } of scored.start.looks) {
    const instrument = placed
      ? ` support ${placed.support.toFixed(2)} misfit ${placed.misfit.toFixed(3)} length ${placed.length.toFixed(0)} facing ${placed.facing.toFixed(2)} edges ${placed.edges?.toFixed(2) ?? '-'} depth ${placed.pose.translation[2].toFixed(0)}`
      : '';
    process.stderr.write(`   ${index} ${player ? 'player' : '-'} light ${light.toFixed(0)}${instrument}${bow ? ` bow ${bow.sure.toFixed(2)}` : ''}\n`);
  }
}

/**
 * Measures seeded clips, rendered or taken from the cache, or with `--clips FOLDER` clips from elsewhere, and
 * prints how far off the numbers are: clip by clip, by view, by difficulty and in all. `--preset NAME` or `--seeds 101,102`
 * takes some of them. `--sound` does it for sounds alone;
 * `--no-marks` starts every clip by itself and measures those that start, `--starts` only starts them.
 */
async function main(): Promise<void> {
  const { values } = parseArgs({
    options: {
      preset: { type: 'string' },
      seeds: { type: 'string' },
      clips: { type: 'string' },
      sound: { type: 'boolean' },
      'no-marks': { type: 'boolean' },
      starts: { type: 'boolean' },
    },
  });
  if (values.sound) return printSoundAccuracy();
  const clips = values.clips
    ? clipsIn(values.clips)
    : values.starts
      ? await startingClips()
      : await seededClips({ preset: values.preset, seeds: values.seeds?.split(',').map(Number) });
  if (clips.length === 0)
    throw new Error(values.clips ? `There are no clips with marks and truth in ${values.clips}.` : 'There is no such clip. Presets and seeds are those of tools/accuracyClips.ts.');
  const server = await serveToolPages();
  const browser = await startBrowser();
  const starts: StartScore[] = [];
  const unmeasured: string[] = [];
  let results: Result[];
  try {
    const marked: { clip: Clip; marksText: string }[] = [];
    // One at a time: how long each takes is told.
    for (const clip of clips) {
      if (!values['no-marks'] && !values.starts) {
        marked.push({ clip, marksText: readFileSync(clip.marks, 'utf8') });
        continue;
      }
      const scored = await scoreStart(browser, server.url, clip);
      starts.push(scored);
      tellStart(scored);
      if (!('refused' in scored.start)) marked.push({ clip, marksText: marksToText(scored.start.candidates[0]!.marks) });
    }
    results = await pMap(
      values.starts ? [] : marked,
      async ({ clip, marksText }) => {
        try {
          const result = await resultOf(browser, server.url, clip, marksText);
          process.stderr.write(`${clip.name}: done\n`);
          return result;
        } catch (error) {
          unmeasured.push(`${clip.name} was not measured: ${(error as Error).message}`);
          return pMapSkip;
        }
      },
      { concurrency: AT_A_TIME },
    );
  } finally {
    await browser.close();
    await server.close();
  }
  if (starts.length > 0) printStarts(starts);
  for (const why of unmeasured) console.log(why);
  if (values.starts) return;
  console.log('Median / 95 % of the error, clip by clip');
  console.table(
    results.map((r) => ({
      clip: r.clip.name,
      view: r.clip.view,
      ...Object.fromEntries(
        QUANTITIES.map((q) => {
          const s = statistics([r], q);
          return [q.replace(/_(deg|mm)$/, ''), r.pairs[q].length ? `${s.median.toFixed(2)} / ${s.p95.toFixed(2)}` : '-'];
        }),
      ),
      cover: statistics([r], 'skew_deg').coverage.toFixed(2),
      string: r.named ? `${((100 * r.right) / r.named).toFixed(0)} %` : '-',
      'player, bow hand, neck hand': r.found,
      sound: r.offset,
      findings: r.findings,
    })),
  );
  if (!values.clips) {
    printGroups('By view', results, (r) => r.clip.view);
    printGroups('By difficulty', results, (r) => r.clip.difficulty);
  }
  printGroups('In all', results, () => 'all');
  const named = results.reduce((n, r) => n + r.named, 0);
  const right = results.reduce((n, r) => n + r.right, 0);
  console.log(`string right in ${((100 * right) / Math.max(1, named)).toFixed(1)} % of ${named} frames in which it was named`);
}

main().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});

import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { readyHolds, readyLength } from '../synth/motion/ready';
import { DEMO_TAKES } from '../tools/demoCast';
import { readTable, scoreAgainst } from '../tools/score';
import { TWO_BOWS } from './films';

const folder = mkdtempSync(join(tmpdir(), 'gestometra-'));

const file = (name: string, text: string) => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};

function measure(...args: string[]) {
  const done = spawnSync(process.execPath, ['--import', 'tsx', 'tools/measure.ts', ...args], { encoding: 'utf8' });
  const lines = done.stderr.split('\n').filter((l) => l);
  return { status: done.status, last: lines.at(-1) ?? '', lines };
}

test('tells rest, a hold without the left hand and playing apart, and nothing of a bow before it is on the string', () => {
  const { scenario } = DEMO_TAKES.find((t) => t.id === 'tavi-ready')!;
  const out = join(folder, 'ready');
  const { status } = measure('--video', 'demo/tavi-ready.mp4', '--marks', 'demo/tavi-ready.marks.json', '--out', out);
  expect(status).toBe(0);
  const events = JSON.parse(readFileSync(join(out, 'events.json'), 'utf8')) as { holds: { kind: string; from: number; to: number }[]; strokes: { from: number }[] };
  const [rest, free] = readyHolds(scenario.ready!, 10.4);
  const seconds = ({ from, to }: { from: number; to: number }) => to - from;
  // Raised, it may be in playing position for a moment before the left hand lets go.
  expect(events.holds[0]!.kind).toBe('rest');
  expect(Math.abs(seconds(events.holds[0]!) - seconds(rest!))).toBeLessThan(0.6);
  const told = events.holds.filter((h) => h.kind === 'hands-free');
  expect(told).toHaveLength(1);
  expect(Math.abs(seconds(told[0]!) - seconds(free!))).toBeLessThan(0.7);
  expect(events.holds.at(-1)!.kind).toBe('playing');
  const measures = readTable(readFileSync(join(out, 'measures.csv'), 'utf8'));
  // The bow comes near the string a moment before it lies on it.
  const onString = readyLength(scenario.ready);
  const before = measures.filter((row) => Number(row.t) < onString - 1);
  expect(before.length).toBeGreaterThan(100);
  for (const quantity of ['skew_deg', 'contact_mm', 'bow_position', 'elbow_angle_deg']) expect(before.every((row) => row[quantity] === '')).toBe(true);
  expect(events.strokes).toHaveLength(scenario.strokes.length);
  const skew = scoreAgainst(measures, readTable(readFileSync('demo/tavi-ready.truth.csv', 'utf8')), 'skew_deg');
  expect(skew.coverage).toBeGreaterThan(0.95);
  expect(skew.within[1]).toBeGreaterThan(0.85);
});

test('finds the bow from its tip alone when the hand hides the frog', () => {
  const marks = JSON.parse(readFileSync('demo/ilvi-tube-glide.marks.json', 'utf8'));
  for (const frame of marks.frames) delete frame.points['bow.frog'];
  const out = join(folder, 'tip-only');
  const { status } = measure('--video', TWO_BOWS, '--marks', file('tip-only.json', JSON.stringify(marks)), '--out', out);
  expect(status).toBe(0);
  const measures = readTable(readFileSync(join(out, 'measures.csv'), 'utf8'));
  // The film is the beginning of that take: 130 pictures.
  const truth = readTable(readFileSync('demo/ilvi-tube-glide.truth.csv', 'utf8')).slice(0, 130);
  for (const [quantity, most] of [
    ['skew_deg', 3],
    ['contact_mm', 4],
    ['bow_position', 0.04],
  ] as const) {
    const score = scoreAgainst(measures, truth, quantity);
    expect(score.coverage).toBeGreaterThan(0.9);
    expect(score.median).toBeLessThan(most);
  }
});

const good = readFileSync('demo/ilvi-tube-glide.marks.json', 'utf8');

for (const [what, args, reason] of [
  ['a missing film', ['--video', 'nowhere.mp4', '--marks', 'demo/ilvi-tube-glide.marks.json'], /nowhere\.mp4 cannot be read/],
  ['text renamed to a film', ['--video', 'e2e/fixtures/text.mp4', '--marks', 'demo/ilvi-tube-glide.marks.json'], /not a film/],
  ['HEVC', ['--video', 'e2e/fixtures/hevc.mov', '--marks', 'demo/ilvi-tube-glide.marks.json'], /cannot decode HEVC/],
  [
    'marks of another picture size',
    ['--video', 'e2e/fixtures/small.mp4', '--marks', 'demo/ilvi-tube-glide.marks.json'],
    /belong to a picture of 1280 x 720, this film has 320 x 180/,
  ],
  ['broken marks', ['--video', 'demo/ilvi-tube-glide.mp4', '--marks', file('broken.json', '{')], /not readable as JSON/],
  [
    'collinear marks',
    [
      '--video',
      'demo/ilvi-tube-glide.mp4',
      '--marks',
      file(
        'line.json',
        good.replace(
          /"points": \{[\s\S]*?\n {3}\}/,
          '"points": {"instrument.nut.low":[100,100],"instrument.nut.high":[200,150],"instrument.scroll":[300,200],"instrument.bridge.low":[400,250]}',
        ),
      ),
    ],
    /on one line/,
  ],
  ['a zoom no phone has', ['--video', 'demo/ilvi-tube-glide.mp4', '--marks', 'demo/ilvi-tube-glide.marks.json', '--zoom', 'wide'], /--zoom takes what the phone's camera showed/],
  ['no arguments', [], /usage: npm run measure/],
] as const) {
  test(`ends with one clear line on ${what}`, () => {
    const { status, last } = measure(...args, ...(args.length ? ['--out', join(folder, 'none')] : []));
    expect(status).toBe(1);
    expect(last).toMatch(reason);
  });
}

test('a film without marks starts by itself and is measured, the contact point roughly', () => {
  const out = join(folder, 'by-itself');
  const { status, lines } = measure('--video', 'demo/ilvi-long-bows.mp4', '--instrument', 'violin', '--size', '4/4', '--out', out);
  expect(lines.some((l) => /started without marks in frame \d+/.test(l))).toBe(true);
  expect(status).toBe(0);
  expect(lines.some((l) => /measured \d+ of \d+ pictures/.test(l))).toBe(true);
  // General networks take the synthetic student for a person with hands.
  const [, player, pictures, hand, neckHand, neck] = lines
    .join()
    .match(/player found in (\d+) of (\d+) pictures looked at, bow hand in (\d+), hand at the neck in (\d+) of (\d+)/)!
    .map(Number);
  expect(player! / pictures!).toBeGreaterThanOrEqual(0.95);
  expect(hand! / pictures!).toBeGreaterThanOrEqual(0.8);
  // A clip has few looks at the neck.
  expect(neck!).toBeGreaterThanOrEqual(2);
  expect(neckHand!).toBeGreaterThanOrEqual(1);
  const marks = JSON.parse(readFileSync(join(out, 'marks.json'), 'utf8'));
  expect(marks.frames[0].found.length).toBeGreaterThan(8);
  const measures = readTable(readFileSync(join(out, 'measures.csv'), 'utf8'));
  const truth = readTable(readFileSync('demo/ilvi-long-bows.truth.csv', 'utf8'));
  const of = (quantity: string) => scoreAgainst(measures, truth, quantity);
  expect(of('skew_deg').coverage).toBeGreaterThan(0.9);
  expect(of('skew_deg').median).toBeLessThan(4);
  // The bridge is found to a few pixels only: a marked film is three times as near.
  expect(of('contact_mm').median).toBeLessThan(12);
  // What is worst in these bows is found without a mark, too.
  const { findings } = JSON.parse(readFileSync(join(out, 'findings.json'), 'utf8')) as { findings: { fault: string; third: string }[] };
  expect(findings.map((f) => `${f.fault} ${f.third}`)).toContain('tip-to-scroll tip');
  const events = JSON.parse(readFileSync(join(out, 'events.json'), 'utf8'));
  expect(Math.abs(events.audio_offset_ms - 20)).toBeLessThan(2 * events.audio_offset_ms_u);
});

test('a film without a player is refused with a code of its own', () => {
  const { status, last } = measure('--video', 'e2e/fixtures/nobody.mp4', '--instrument', 'violin', '--out', join(folder, 'nobody'));
  expect(status).toBe(3);
  expect(last).toMatch(/not started without marks \(no-player.*Film the whole upper body/);
});

test('an instrument that is not known is named', () => {
  const { status, last } = measure('--video', 'e2e/fixtures/small.webm', '--instrument', 'kazoo', '--out', join(folder, 'kazoo'));
  expect(status).toBe(1);
  expect(last).toContain('There is no instrument "kazoo"');
});

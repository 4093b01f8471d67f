import { describe, expect, it } from 'vitest';
import { crossingsOf } from '../../src/core/crossings/crossings';
import { straysOf } from '../../src/core/crossings/strays';
import { hear, listen } from '../../src/core/sound/hear';
import type { Heard } from '../../src/core/sound/heard';
import { loudnessOf, loudnessOffset } from '../../src/core/sound/loudness';
import { mean, median } from '../../src/core/statistics';
import { buildInstrument } from '../instrument/build';
import { Performance } from '../motion/performance';
import { withFaults } from '../presets/faults';
import { scenarioOf } from '../presets/presets';
import type { Scenario } from '../presets/scenario';
import { bowedSound, SAMPLE_RATE, soundTakeOf } from './bowedString';
import { touchOf } from './touch';

interface Played {
  readonly scenario: Scenario;
  readonly performance: Performance;
  readonly sound: Float32Array;
}

interface HeardTake extends Played {
  readonly heard: Heard;
}

function play(preset: string, seed: number, fault?: string, changes: Partial<Scenario> = {}): Played {
  const plain = scenarioOf(preset, seed, changes);
  const scenario = { ...(fault ? withFaults(plain, [{ id: fault, strength: 1 }]) : plain), ...changes };
  const build = buildInstrument(scenario);
  const performance = new Performance(scenario, build);
  return { scenario, performance, sound: bowedSound(performance, scenario.family, build.model.frame.scale, build.model.fingerboardEndX, soundTakeOf(scenario)) };
}

const listenTo = ({ sound, scenario }: Played) => listen(sound, SAMPLE_RATE, scenario.family)!;

function playAndHear(...what: Parameters<typeof play>): HeardTake {
  const played = play(...what);
  // As the picture would show them.
  const turns = played.performance.turns().map((t) => t - 0.02 + played.scenario.soundLate);
  return { ...played, heard: hear(listenTo(played), { turns }) };
}

/** Share of the sounding time in which the string heard is the one played. */
function stringsRight({ performance, heard, scenario }: HeardTake): number {
  let right = 0;
  let all = 0;
  for (let t = 0.2; t < performance.duration - 0.1; t += 0.02) {
    const m = performance.at(t);
    if (m.soundingString === undefined || Math.abs(m.speed) < 60) continue;
    all++;
    const late = t + scenario.soundLate;
    if (heard.notes.some((n) => late >= n.from && late < n.to && n.string === m.string)) right++;
  }
  return right / all;
}

describe('the string under the hair', () => {
  it('sounds alone within its sector and shares the bow at the boundary', () => {
    const levels = { natural: [24, 8, -8, -24], boundary: [16, 0, -16] };
    expect(touchOf(levels, 8)).toEqual([0, 1, 0, 0]);
    expect(touchOf(levels, 0)).toEqual([0, 0.5, 0.5, 0]);
    expect(touchOf(levels, -24)).toEqual([0, 0, 0, 1]);
  });
});

describe('the sound of the synthetic student, heard', () => {
  it.each([
    ['crossings', 2],
    ['crossings', 5],
    ['straight', 3],
    ['viola', 2],
    ['cello', 4],
    ['short-strokes', 2],
  ] as const)('%s %i: the right string in 98 of 100 parts of the sounding time, in tune, each note where it starts', (preset, seed) => {
    const played = playAndHear(preset, seed);
    expect(stringsRight(played)).toBeGreaterThan(0.98);
    expect(Math.abs(played.heard.cents - played.scenario.tuneCents)).toBeLessThan(5);
    const off = played.performance.notes().map((n) => Math.min(...played.heard.notes.map((h) => Math.abs(h.from - n.from - played.scenario.soundLate))));
    expect(off.filter((d) => d <= 0.08).length).toBeGreaterThanOrEqual(Math.floor(0.9 * off.length));
    expect(median(off)).toBeLessThan(0.05);
  });
  it('clean crossings touch no stray string; a level off toward a neighbour does', () => {
    const straysIn = ({ heard, performance, scenario }: HeardTake) => {
      const shift = scenario.soundLate;
      const notes = heard.notes.map((n) => ({ ...n, from: n.from - shift, to: n.to - shift }));
      const seconds = heard.seconds.map((s) => ({ ...s, from: s.from - shift, to: s.to - shift }));
      const crossings = crossingsOf(
        [],
        performance.strings.map((s) => s.name),
        performance.levels,
        notes,
      );
      return straysOf(scenario.family, [], notes, seconds, crossings).filter((s) => s.confidence > 0.3);
    };
    for (const seed of [2, 4, 6]) expect(straysIn(playAndHear('crossings', seed))).toEqual([]);
    const touched = playAndHear('straight', 3, 'neighbour-touched', { levelOffset: [6.5, 6.5, 6.5, 6.5] });
    expect(touched.performance.strays().length).toBeGreaterThan(2);
    const strays = straysIn(touched);
    expect(strays.length).toBeGreaterThan(1);
    // Where both sound alike, either may count as the note; the lower neighbour is the stray in most.
    const low = strays.filter((s) => s.string === 'D');
    expect(low.length).toBeGreaterThan(strays.length / 2);
    expect(low.filter((s) => !s.inCrossing).every((s) => s.why === 'too-high')).toBe(true);
  });
  it('is brighter near the bridge and breathier over the fingerboard', () => {
    const tone = (contact: number) => {
      const { heard } = playAndHear('straight', 1, undefined, { contact: [contact, contact, contact, contact] });
      return { bright: mean(heard.notes.map((n) => n.tone.brightness)), noise: mean(heard.notes.map((n) => n.tone.noise)) };
    };
    const [near, far] = [tone(0.2), tone(1)];
    expect(near.bright).toBeGreaterThan(1.02 * far.bright);
    expect(far.noise).toBeGreaterThan(near.noise);
  });
  it('never clips and is the same again for the same seed', () => {
    const [a, b] = [play('straight', 2).sound, play('straight', 2).sound];
    expect(Math.max(...a.subarray(0, 100_000).map(Math.abs))).toBeLessThan(0.6);
    expect(a.subarray(50_000, 50_100)).toEqual(b.subarray(50_000, 50_100));
  });
});

describe('sound beside the speed of the bow', () => {
  it('tells how late it is within 20 ms, in whatever room', () => {
    const errors = (['crossings', 'straight', 'short-strokes', 'cello'] as const).flatMap((preset) =>
      [2, 4, 6].map((seed) => {
        const played = play(preset, seed);
        const { performance, scenario } = played;
        const places = Array.from({ length: Math.floor(performance.duration * 25) }, (_, i) => ({ t: i / 25, position: performance.at(i / 25).bow.position }));
        return Math.abs(loudnessOffset(loudnessOf(listenTo(played).short), places)!.value - scenario.soundLate);
      }),
    );
    expect(Math.max(...errors)).toBeLessThan(0.02);
    expect(median(errors)).toBeLessThan(0.012);
  });
});

import { describe, expect, it } from 'vitest';
import { floorOf } from './harmonics';
import type { HeardNote } from './heard';
import { onsetOf } from './onset';
import { OPEN_STRING_HZ } from './openStrings';
import { pitchPath, runsOf, worthOf } from './pitchPath';
import { dipsIn } from './restrikes';
import { secondStrings } from './secondString';
import { spectraOf } from './spectra';
import { startNoise } from './startNoise';
import { type PlainTone, RATE, soundOf } from './testTones';
import { toneHints } from './toneWord';

const open = OPEN_STRING_HZ.violin;
const short = (samples: Float32Array) => spectraOf(samples, RATE, 0.045);
const long = (samples: Float32Array) => spectraOf(samples, RATE, 0.09);
/** A note as heard, for what is asked of it. */
const note = (over: Partial<HeardNote> = {}): HeardNote => ({
  from: 0.1,
  to: 1.5,
  string: 1,
  stop: 0,
  hz: open[1]!,
  confidence: 1,
  again: false,
  tone: { brightness: 2, noise: 0.01, unsteadiness: 3 },
  ...over,
});

describe('the course of pitch', () => {
  it('goes from note to note and is none in silence', () => {
    const samples = soundOf(
      [
        { hz: open[1]!, from: 0.2, to: 0.9 },
        { hz: open[2]!, from: 0.9, to: 1.6 },
      ],
      2.2,
    );
    const spectra = long(samples);
    const path = pitchPath(spectra, floorOf(spectra), 'violin', 0);
    const runs = runsOf(path);
    expect(runs.map((r) => path.pitches[r.pitch]!.hz)).toEqual([open[1], open[2]]);
    expect(runs[0]!.first * 0.01).toBeCloseTo(0.2, 1);
    expect(runs[1]!.first * 0.01).toBeCloseTo(0.9, 1);
    expect(path.at[5]).toBe(-1);
    expect(path.at[210]).toBe(-1);
    expect(path.lead[50]!).toBeGreaterThan(0.5);
  });
  it('follows an instrument that is tuned high', () => {
    const hz = open[2]! * 2 ** (30 / 1200);
    const spectra = long(soundOf([{ hz, from: 0.1, to: 1 }], 1.1));
    const path = pitchPath(spectra, floorOf(spectra), 'violin', 30);
    expect(path.pitches[path.at[50]!]!.hz).toBe(open[2]);
  });
  it('takes half a pitch’s frequency for no pitch: every other of its harmonics is missing', () => {
    const all = { over: Array(8).fill(40), amplitude: Array(8).fill(0.1) };
    const half = { over: [0, 40, 0, 40, 0, 40, 0, 40], amplitude: [1e-5, 0.1, 1e-5, 0.1, 1e-5, 0.1, 1e-5, 0.1] };
    expect(worthOf(all)).toBeGreaterThan(1.5);
    expect(worthOf(half)).toBeLessThan(0.5);
  });
});

describe('a note begins', () => {
  it('where its own harmonics rise, within a fortieth of a second, also out of another note', () => {
    const begins = 0.8;
    const tones: PlainTone[] = [
      { hz: open[1]!, from: 0.1, to: begins + 0.02 },
      { hz: open[2]!, from: begins, to: 1.5 },
    ];
    const spectra = short(soundOf(tones, 1.6));
    expect(Math.abs(onsetOf(spectra, begins + 0.03, open[2]!, open[1]) - begins)).toBeLessThan(0.04);
    expect(Math.abs(onsetOf(spectra, 0.13, open[1]!, undefined) - 0.1)).toBeLessThan(0.04);
  });
  it('anew where all its harmonics dip, and not where it goes on', () => {
    const hz = open[2]!;
    const [still, turned] = [
      [{ hz, from: 0, to: 1.6 }],
      [
        { hz, from: 0, to: 0.8 },
        { hz, from: 0.8, to: 1.6 },
      ],
    ].map((tones) => short(soundOf(tones, 1.6)));
    expect(dipsIn(still!, 10, 150, hz, 6)).toEqual([]);
    const dips = dipsIn(turned!, 10, 150, hz, 6);
    expect(dips).toHaveLength(1);
    expect(Math.abs(dips[0]!.t - 0.8)).toBeLessThan(0.03);
    expect(dips[0]!.depth).toBeGreaterThan(6);
  });
  it('noisier than it goes on where the bow scratches', () => {
    const hz = open[1]!;
    const clean = soundOf([{ hz, from: 0.1, to: 1.2 }], 1.3, 0.002);
    const scratch = soundOf([], 1.3, 0.02, 3).map((v, i) => clean[i]! + (i / RATE > 0.1 && i / RATE < 0.2 ? v : 0));
    const noiseOf = (samples: Float32Array) => {
      const spectra = short(samples);
      return startNoise(spectra, floorOf(spectra), hz, 0.1, 1.2)!;
    };
    expect(Math.abs(noiseOf(clean))).toBeLessThan(6);
    expect(noiseOf(scratch)).toBeGreaterThan(noiseOf(clean) + 8);
    const spectra = short(clean);
    expect(startNoise(spectra, floorOf(spectra), hz, 0.1, 0.3)).toBeUndefined();
  });
});

describe('a second string', () => {
  const heard = (second: PlainTone[]) => {
    const spectra = long(soundOf([{ hz: open[1]!, from: 0.1, to: 1.5 }, ...second], 1.6));
    return secondStrings(spectra, floorOf(spectra), 'violin', 0, [note()]);
  };
  it('is heard where an open neighbour speaks with the note', () => {
    const [touch, ...more] = heard([{ hz: open[2]!, from: 0.6, to: 1.1 }]);
    expect(more).toEqual([]);
    expect(touch).toMatchObject({ string: 2, beside: 1 });
    expect(Math.abs(touch!.from - 0.6)).toBeLessThan(0.1);
    expect(Math.abs(touch!.to - 1.1)).toBeLessThan(0.1);
    expect(touch!.confidence).toBeGreaterThan(0.5);
  });
  it('is not heard in a note alone, nor in one far below it', () => {
    expect(heard([])).toEqual([]);
    expect(heard([{ hz: open[2]!, from: 0.6, to: 1.1, level: 0.002 }])).toEqual([]);
  });
  it('is the one below as well as the one above, never one further off', () => {
    expect(heard([{ hz: open[0]!, from: 0.6, to: 1.1 }]).map((s) => s.string)).toEqual([0]);
    expect(heard([{ hz: open[3]!, from: 0.6, to: 1.1 }]).filter((s) => s.string === 3)).toEqual([]);
  });
});

describe('a tone’s hint', () => {
  const usual = Array.from({ length: 5 }, () => note());
  const hintOf = (tone: Partial<HeardNote['tone']>) => toneHints([...usual, note({ tone: { ...usual[0]!.tone, ...tone } })]).at(-1)!;
  it('is against the other notes of the clip on the same string', () => {
    expect(hintOf({}).hint).toBe('centred');
    expect(hintOf({ noise: 0.09 }).hint).toBe('airy');
    expect(hintOf({ brightness: 4 }).hint).toBe('glassy');
    expect(hintOf({ unsteadiness: 25 }).hint).toBe('scratchy');
  });
  it('is never sure, and none where there is nothing to compare with', () => {
    expect(hintOf({ noise: 0.9 }).confidence).toBe(0.7);
    expect(toneHints([note(), note(), note({ string: 2 })])).toEqual([undefined, undefined, undefined]);
  });
});

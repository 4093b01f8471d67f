import fc from 'fast-check';
import { FFT } from 'ml-fft';
import { YIN } from 'pitchfinder';
import { describe, expect, it } from 'vitest';
import { STRINGS } from '../instrument/family';
import { atHalfRate } from './halfRate';
import { hear, listen } from './hear';
import { OPEN_STRING_HZ, playablePitches, stringsFor } from './openStrings';
import { spectraOf } from './spectra';
import { RATE, soundOf } from './testTones';
import { clearPitches, tuningOf } from './tuning';

const open = OPEN_STRING_HZ.violin;
const names = (notes: readonly { string: number }[]) => notes.map((n) => STRINGS.violin[n.string]);

describe('open strings', () => {
  it('are tuned in pure fifths from A = 440 Hz (ISO 16 gives A; fifths are common practice, no source)', () => {
    expect(open[2]).toBe(440);
    open.slice(1).forEach((hz, i) => {
      expect(hz / open[i]!).toBeCloseTo(1.5, 9);
    });
    // Handbook values in Hz, rounded (from memory): G 196, D 293.3, E 660; cello C 65.2.
    expect(open.map((hz) => Math.round(hz * 10) / 10)).toEqual([195.6, 293.3, 440, 660]);
    expect(OPEN_STRING_HZ.cello[0]).toBeCloseTo(65.19, 1);
    OPEN_STRING_HZ.bass.slice(1).forEach((hz, i) => {
      expect(hz / OPEN_STRING_HZ.bass[i]!).toBeCloseTo(4 / 3, 9);
    });
  });
  it('and stopped notes stand once each, on the highest string that reaches them', () => {
    const pitches = playablePitches('violin');
    expect(new Set(pitches.map((p) => Math.round(12 * Math.log2(p.hz / open[0]!)))).size).toBe(pitches.length);
    expect(stringsFor('violin', 440).map((s) => [STRINGS.violin[s.string], s.stop])).toEqual([
      ['D', 7],
      ['A', 0],
    ]);
    expect(stringsFor('violin', 150)).toEqual([]);
  });
});

describe('spectra', () => {
  it('agree with another library (ml-fft) under the same window', () => {
    const size = 2048;
    const sound = soundOf([{ hz: 440, from: 0, to: 1 }], 0.2);
    const spectra = spectraOf(sound, RATE, size / RATE);
    FFT.init(size);
    const k = 8;
    const first = Math.round(k * 0.01 * RATE) - size / 2;
    const re = Array.from({ length: size }, (_, i) => sound[first + i]! * (0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / size)));
    const im = new Array<number>(size).fill(0);
    FFT.fft(re, im);
    for (let b = 1; b < 200; b++) expect(spectra.amplitude[k * spectra.bins + b]).toBeCloseTo(Math.hypot(re[b]!, im[b]!) / (size / 4), 4);
  });
  it('give a sine in the middle of a bin its own amplitude', () => {
    const size = 4096;
    const hz = (40 * RATE) / size;
    const spectra = spectraOf(
      Float32Array.from({ length: RATE }, (_, i) => 0.3 * Math.sin((2 * Math.PI * hz * i) / RATE)),
      RATE,
      size / RATE,
    );
    expect(spectra.amplitude[50 * spectra.bins + 40]).toBeCloseTo(0.3, 3);
  });
  it('at half the rate keep what lies low and drop what would fold back', () => {
    const tone = (hz: number) => Float32Array.from({ length: 8000 }, (_, i) => Math.sin((2 * Math.PI * hz * i) / RATE));
    const power = (x: Float32Array) => x.slice(200, -200).reduce((sum, v) => sum + v * v, 0) / (x.length - 400);
    expect(power(atHalfRate(tone(2000)))).toBeCloseTo(0.5, 1);
    expect(power(atHalfRate(tone(19_000)))).toBeLessThan(0.01);
  });
});

describe('pitch and tuning', () => {
  it("agree with another library's detector (pitchfinder, YIN)", () => {
    const yin = YIN({ sampleRate: RATE });
    fc.assert(
      fc.property(fc.integer({ min: -240, max: 40 }), fc.integer({ min: 0, max: 3 }), (cents, string) => {
        const hz = open[string]! * 2 ** (cents / 1200);
        const sound = soundOf([{ hz, from: 0, to: 0.6 }], 0.6);
        const found = clearPitches(sound, RATE, 'violin');
        const other = yin(sound.subarray(8000, 8000 + 4096))!;
        expect(found.length).toBeGreaterThan(3);
        expect(Math.abs(1200 * Math.log2(found[3]!.hz / hz))).toBeLessThan(4);
        expect(Math.abs(1200 * Math.log2(found[3]!.hz / other))).toBeLessThan(8);
      }),
      { numRuns: 12 },
    );
  });
  it.each([-200, -130, -40, 0, 25])('an instrument tuned %i cents off is found so', (cents) => {
    const k = 2 ** (cents / 1200);
    const tones = [0, 1, 2, 3, 2, 1].map((s, i) => ({ hz: open[s]! * k, from: 0.1 + 0.5 * i, to: 0.5 + 0.5 * i }));
    const tuning = tuningOf(clearPitches(soundOf(tones, 3.2), RATE, 'violin'), 'violin')!;
    expect(tuning.cents).toBeGreaterThan(cents - 6);
    expect(tuning.cents).toBeLessThan(cents + 6);
  });
  it('is not guessed from noise', () => {
    expect(listen(soundOf([], 2, 0.1), RATE, 'violin')).toBeUndefined();
  });
});

describe('notes', () => {
  const scale = [0, 2, 4, 5].flatMap((stop, i) => [{ hz: open[1]! * 2 ** (stop / 12), from: 0.2 + 0.5 * i, to: 0.66 + 0.5 * i }]);
  it('start, end and string of a scale on D', () => {
    const heard = hear(listen(soundOf(scale, 2.6), RATE, 'violin')!);
    expect(names(heard.notes)).toEqual(['D', 'D', 'D', 'D']);
    expect(heard.notes.map((n) => n.stop)).toEqual([0, 2, 4, 5]);
    heard.notes.forEach((note, i) => {
      expect(Math.abs(note.from - scale[i]!.from)).toBeLessThan(0.04);
      expect(1200 * Math.log2(note.hz / scale[i]!.hz)).toBeCloseTo(0, -1);
    });
  });
  it('are not told an octave wrong, whatever the string', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3 }), fc.integer({ min: 0, max: 6 }), fc.integer({ min: 1, max: 99 }), (string, stop, seed) => {
        const hz = open[string]! * 2 ** (stop / 12);
        const tones = [
          { hz: open[2]!, from: 0.1, to: 0.6 },
          { hz, from: 0.65, to: 1.2 },
          { hz: open[1]!, from: 1.25, to: 1.8 },
        ];
        const middle = hear(listen(soundOf(tones, 2, 0.004, seed), RATE, 'violin')!).notes.find((n) => n.from < 0.9 && n.to > 0.95)!;
        expect(Math.abs(1200 * Math.log2(middle.hz / hz))).toBeLessThan(60);
      }),
      { numRuns: 15 },
    );
  });
  it('begin anew where all harmonics dip, and at turns of the bow the picture shows', () => {
    const bows = [
      { hz: 440, from: 0.2, to: 0.8 },
      { hz: 440, from: 0.82, to: 1.4 },
    ];
    const heard = hear(listen(soundOf(bows, 1.7), RATE, 'violin')!);
    expect(heard.notes.map((n) => n.again)).toEqual([false, true]);
    expect(heard.notes[1]!.from).toBeCloseTo(0.81, 1);
    const legato = listen(soundOf([{ hz: 440, from: 0.2, to: 1.6 }], 1.8), RATE, 'violin')!;
    expect(hear(legato).notes).toHaveLength(1);
    expect(hear(legato, { turns: [0.9] }).notes).toHaveLength(2);
  });
});

describe('a second string', () => {
  it.each([
    [2, 1],
    [2, 3],
    [1, 0],
    [3, 2],
  ])('is heard beside string %i when string %i is touched', (main, other) => {
    const tones = [
      { hz: open[main]!, from: 0.2, to: 2 },
      { hz: open[other]!, from: 0.9, to: 1.2, level: 0.1 },
    ];
    const { seconds, notes } = hear(listen(soundOf(tones, 2.3), RATE, 'violin')!);
    expect(new Set(notes.map((n) => n.string))).toEqual(new Set([main]));
    expect(seconds).toHaveLength(1);
    expect(seconds[0]!.string).toBe(other);
    expect(seconds[0]!.from).toBeLessThan(1);
    expect(seconds[0]!.to).toBeGreaterThan(1.1);
  });
  it('is not made of a crossing, nor of what rings on after it', () => {
    const ringing = [
      { hz: open[1]!, from: 0.2, to: 0.9 },
      { hz: open[2]!, from: 0.9, to: 1.8 },
      ...[0.06, 0.03, 0.015].map((level, i) => ({ hz: open[1]!, from: 0.88 + 0.1 * i, to: 1 + 0.1 * i, level })),
    ];
    expect(hear(listen(soundOf(ringing, 2), RATE, 'violin')!).seconds).toEqual([]);
  });
});

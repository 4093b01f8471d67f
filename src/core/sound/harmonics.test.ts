import { describe, expect, it } from 'vitest';
import { amplitudeNear, floorOf, harmonicCount, harmonicsOf, peakNear } from './harmonics';
import { ownHarmonics, strengthAt } from './onset';
import { spectraOf } from './spectra';
import { RATE, soundOf } from './testTones';

const WINDOW = 0.09;
const spectraOfTone = (hz: number, noise?: number) => spectraOf(soundOf([{ hz, from: 0, to: 1 }], 1, noise), RATE, WINDOW);
const MIDDLE = 50;

describe('harmonics', () => {
  it('are read with the amplitudes a note was made of', () => {
    const spectra = spectraOfTone(293.66);
    const { amplitude, over } = harmonicsOf(spectra, floorOf(spectra), MIDDLE, 293.66);
    // A Hann window shows a sine between two bins up to 1.42 dB too low (Harris 1978).
    for (let h = 1; h <= 12; h++) {
      const lack = 20 * Math.log10(0.2 / h / amplitude[h - 1]!);
      expect(lack).toBeGreaterThan(-0.3);
      expect(lack).toBeLessThan(1.7);
    }
    for (const clear of over.slice(0, 8)) expect(clear).toBeGreaterThan(20);
  });
  it('stop where phones and rooms leave little, and are never none', () => {
    expect(harmonicCount(440)).toBe(11);
    expect(harmonicCount(65)).toBe(16);
    expect(harmonicCount(9000)).toBe(1);
  });
  it('have a peak only where they stand, not on the slope of a neighbour', () => {
    const spectra = spectraOfTone(440, 0);
    expect(peakNear(spectra, MIDDLE, 880)).toBeCloseTo(amplitudeNear(spectra, MIDDLE, 880), 9);
    expect(amplitudeNear(spectra, MIDDLE, 440 * 1.05)).toBeGreaterThan(0);
    expect(peakNear(spectra, MIDDLE, 440 * 1.05)).toBeLessThan(0.02 * amplitudeNear(spectra, MIDDLE, 440));
  });
  it('stand over a floor that follows the noise', () => {
    const [quiet, loud] = [0.001, 0.01].map((noise) => {
      const spectra = spectraOfTone(440, noise);
      return floorOf(spectra).at(MIDDLE, Math.round(5500 / spectra.binHz));
    });
    expect(loud! / quiet!).toBeGreaterThan(7);
    expect(loud! / quiet!).toBeLessThan(13);
  });
  it('are a note’s own where they fall on none of another note’s', () => {
    const spectra = spectraOfTone(440);
    // A fifth apart, every third of the upper falls on every second of the lower... and the other way round.
    const own = ownHarmonics(spectra, 660, 440);
    expect(own).toContain(660);
    expect(own).not.toContain(1320);
    expect(ownHarmonics(spectra, 660, undefined)).toHaveLength(harmonicCount(660));
    // An octave above has none of its own: all are asked.
    expect(ownHarmonics(spectra, 880, 440)).toHaveLength(harmonicCount(880));
  });
  it('have the root of their summed power as strength', () => {
    const spectra = spectraOfTone(440);
    const three = [440, 880, 1320];
    expect(strengthAt(spectra, MIDDLE, three)).toBeCloseTo(Math.hypot(...three.map((hz) => amplitudeNear(spectra, MIDDLE, hz))), 9);
  });
});

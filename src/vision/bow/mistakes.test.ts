import { describe, expect, it } from 'vitest';
import type { BowSighting } from '../../core/bow/sighting';
import { withMistakes } from './mistakes';

const sighting = (score: number): BowSighting => ({
  line: { a: [300, 260], b: [500, 240], sigmaA: 0.5, sigmaB: 0.6, shareA: 0.02, shareB: 0.98 },
  frog: { point: [300, 260], sigma: 4 },
  tip: { point: [500, 240], sigma: 2.5 },
  score,
});
const doubted = (score: number, seen: { slant?: number; placed?: boolean; passedBy?: number; rival?: number; unit?: number } = {}) =>
  withMistakes(sighting(score), { slant: 0.3, placed: false, passedBy: 0, rival: 0.6, unit: 1, ...seen });

describe('what may have been mistaken for the bow', () => {
  it('is nothing where it looks like itself and lies on the strings', () => {
    const { line, frog, tip } = doubted(0.9);
    expect(line).toEqual(sighting(0.9).line);
    expect(frog!.sigma).toBe(4);
    expect(tip!.sigma).toBe(2.5);
  });
  it('is first an end, then the line, the less it looks like itself', () => {
    const some = doubted(0.7);
    expect(some.frog!.sigma).toBeGreaterThan(15);
    expect(some.line!.sigmaA).toBe(0.5);
    expect(doubted(0.5).line!.sigmaA).toBeGreaterThan(5);
  });
  it('is the line where it passes by the strings, the more the further, however well it looks', () => {
    const sigmas = [0, 1, 3, 6].map((passedBy) => doubted(0.9, { passedBy }).line!.sigmaA);
    expect(sigmas[1]).toBe(0.5);
    expect(sigmas[2]).toBeGreaterThan(3);
    expect(sigmas[3]).toBeGreaterThan(8);
    // The same in the world, in a picture of twice the pixels.
    expect(doubted(0.9, { passedBy: 12, unit: 2 }).line!.sigmaA).toBeCloseTo(2 * sigmas[3]!, 0);
  });
  it('is the line where another looks as much like the bow, but for the frame in which it was placed', () => {
    const sigmas = [0.8, 0.88, 0.95, 1.1].map((rival) => doubted(0.68, { rival }).line!.sigmaB);
    expect(sigmas[0]).toBe(0.6);
    expect(sigmas[1]).toBeGreaterThan(5);
    expect(sigmas[2]).toBeGreaterThan(sigmas[1]!);
    expect(sigmas[3]).toBeLessThan(25);
    // One that looks like itself bears a nearer rival.
    expect(doubted(0.9, { rival: 0.88 }).line!.sigmaB).toBe(0.6);
    expect(doubted(0.9, { rival: 0.97 }).line!.sigmaB).toBeGreaterThan(5);
    expect(doubted(0.68, { rival: 0.95, placed: true }).line!.sigmaB).toBe(0.6);
  });
  it('is the line of a bow that points at the camera, but for the frame in which it was placed', () => {
    expect(doubted(0.9, { slant: 0.91 }).line!.sigmaB).toBe(0.6);
    expect(doubted(0.9, { slant: 0.95 }).line!.sigmaB).toBeGreaterThan(500);
    expect(doubted(0.9, { slant: 0.95, placed: true }).line!.sigmaB).toBe(0.6);
  });
});

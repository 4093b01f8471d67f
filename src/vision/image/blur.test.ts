import { describe, expect, it } from 'vitest';
import { normal, seededRandom } from '../../core/random';
import { blurOf } from './blur';

const W = 120;
const H = 90;
const WHOLE = { x0: 0, y0: 0, x1: W, y1: H };

/** Area under the Gaussian up to x (Abramowitz and Stegun 7.1.26). */
function rise(x: number): number {
  const z = Math.abs(x) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * z);
  const erf = 1 - t * (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429)))) * Math.exp(-z * z);
  return 0.5 * (1 + Math.sign(x) * erf);
}

/** A dark shape before a pale wall: two slanting edges blurred by sigma, with grain. */
function picture(sigma: number, grain: number, seed: number) {
  const random = seededRandom(seed);
  const slant = 0.2 + random();
  const luma = new Uint8Array(W * H);
  for (let y = 0; y < H; y++) {
    for (let x = 0; x < W; x++) {
      const across = (x + 0.5 - W / 2) * Math.cos(slant) + (y + 0.5 - H / 2) * Math.sin(slant);
      const shape = rise((across + 20) / sigma) - rise((across - 20) / sigma);
      luma[y * W + x] = Math.round(Math.min(255, Math.max(0, 190 - 130 * shape + grain * normal(random))));
    }
  }
  return { index: 0, t: 0, width: W, height: H, luma };
}

describe('blurOf', () => {
  it('tells by how much the edges of a picture are blurred', () => {
    for (const sigma of [0.8, 1.2, 1.8, 2.5, 4]) {
      for (let seed = 1; seed <= 6; seed++) expect(blurOf(picture(sigma, 0, seed), WHOLE)! / sigma, `sigma ${sigma}, seed ${seed}`).toBeCloseTo(1, 0.7);
    }
  });

  it('is little misled by grain', () => {
    for (const sigma of [0.8, 1.6, 2.5]) {
      for (let seed = 1; seed <= 6; seed++) {
        const blur = blurOf(picture(sigma, 6, seed), WHOLE)!;
        expect(blur / sigma, `sigma ${sigma}, seed ${seed}`).toBeGreaterThan(0.7);
        expect(blur / sigma, `sigma ${sigma}, seed ${seed}`).toBeLessThan(1.25);
      }
    }
  });

  it('looks only where it is asked to', () => {
    const sharp = picture(0.8, 0, 3);
    const soft = picture(3, 0, 3);
    const half = { ...sharp, luma: sharp.luma.map((v, i) => (i % W < W / 2 ? v : soft.luma[i]!)) };
    expect(blurOf(half, { ...WHOLE, x1: W / 2 - 8 })!).toBeLessThan(1.2);
    expect(blurOf(half, { ...WHOLE, x0: W / 2 + 8 })!).toBeGreaterThan(2.4);
  });

  it('tells nothing of a bare wall or a few pixels', () => {
    const wall = { index: 0, t: 0, width: W, height: H, luma: new Uint8Array(W * H).fill(120) };
    expect(blurOf(wall, WHOLE)).toBeUndefined();
    expect(blurOf(picture(1, 0, 1), { x0: 50, y0: 40, x1: 60, y1: 50 })).toBeUndefined();
  });
});

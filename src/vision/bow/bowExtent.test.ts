import { describe, expect, it } from 'vitest';
import type { Vec2 } from '../../core/geometry/vec3';
import { BowExtent } from './bowExtent';
import { cutStrip, STATIONS, stationShare } from './bowStrip';
import { type Clutter, endsAt, picture } from './drawnBow';
import type { BowTemplate } from './lineSearch';
import { RunningTemplate } from './runningTemplate';
import { W } from './testViolin';

const PITCH = 0.5;
const plain: Clutter = () => undefined;
/** The drawn bow's own look, taken where it lies in mid-stroke. */
const template: BowTemplate = (() => {
  const { frog, tip } = endsAt(0.5);
  const places = Array.from({ length: STATIONS }, (_, k): Vec2 => [frog[0] + (tip[0] - frog[0]) * stationShare(k), frog[1] + (tip[1] - frog[1]) * stationShare(k)]);
  const strip = cutStrip(picture(0.5, plain, 0, true), places, 12, PITCH);
  return { half: strip.half, look: new RunningTemplate(strip.values, () => 1) };
})();

/** How well a tip fits at so many px beyond where the bow is thought to end; the bow really lies at `position`. */
function tipFits(position: number, behind: Clutter = plain, thought = position) {
  const ends = endsAt(thought);
  const length = Math.hypot(ends.tip[0] - ends.frog[0], ends.tip[1] - ends.frog[1]);
  const extent = new BowExtent(picture(position, behind, 1, true), ends, template, PITCH);
  const u: Vec2 = [(ends.tip[0] - ends.frog[0]) / length, (ends.tip[1] - ends.frog[1]) / length];
  return (beyond: number) => extent.tipAt([ends.tip[0] + u[0] * beyond, ends.tip[1] + u[1] * beyond], length / 650);
}

describe('how far a bow reaches', () => {
  it('has its tip where bow shows inside and none beyond', () => {
    const fit = tipFits(0.4);
    expect(fit(0)).toBeGreaterThan(0.6);
    expect(fit(0)).toBeGreaterThan(fit(-60) + 0.4);
    expect(fit(0)).toBeGreaterThan(fit(60) + 0.4);
  });
  it('is not where it was thought to be, when it has moved along', () => {
    const fit = tipFits(0.4, plain, 0.55);
    const places = Array.from({ length: 61 }, (_, i) => 4 * (i - 30));
    const best = places.reduce((a, b) => (fit(b) > fit(a) ? b : a));
    const [there, thought] = [endsAt(0.4), endsAt(0.55)];
    expect(Math.abs(best - Math.hypot(there.tip[0] - thought.tip[0], there.tip[1] - thought.tip[1]))).toBeLessThan(12);
  });
  it('does not end at a patch in the room that it passes', () => {
    const { frog, tip } = endsAt(0.4);
    const at: Vec2 = [frog[0] + 0.6 * (tip[0] - frog[0]), frog[1] + 0.6 * (tip[1] - frog[1])];
    const patch: Clutter = (x, y) => (Math.hypot(x - at[0], y - at[1]) < 25 ? 60 : undefined);
    const fit = tipFits(0.4, patch);
    const length = Math.hypot(tip[0] - frog[0], tip[1] - frog[1]);
    expect(fit(0)).toBeGreaterThan(fit(-0.4 * length) + 0.4);
  });
  it('may lie outside the picture, if bow shows up to its border', () => {
    const frame = picture(0.4, plain, 1, true);
    const { frog, tip } = endsAt(0.4);
    const scale = Math.hypot(tip[0] - frog[0], tip[1] - frog[1]) / 650;
    /** How well a tip fits there in the film cut off above that line. */
    const cutAbove = (top: number, ends: { frog: Vec2; tip: Vec2 }) => {
      const moved = ([x, y]: Vec2): Vec2 => [x, y - top];
      const there = { frog: moved(ends.frog), tip: moved(ends.tip) };
      const cut = { ...frame, height: frame.height - top, luma: frame.luma.subarray(top * W) };
      return new BowExtent(cut, there, template, PITCH).tipAt(there.tip, scale);
    };
    expect(cutAbove(Math.round(frog[1] + 0.75 * (tip[1] - frog[1])), { frog, tip })).toBeGreaterThan(0.4);
    // A bow that ends well inside cannot have its tip out there.
    expect(cutAbove(Math.round(tip[1] - 40), endsAt(0))).toBeLessThan(0.1);
  });
});

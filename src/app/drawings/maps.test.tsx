import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import type { FrameMeasures } from '../../core/measures/measures';
import { bandsFor, MIDDLE_OF_STRIP } from '../../core/rubric/rubric';
import { segmentStrokes } from '../../core/strokes/segment';
import { GROUPS, groupOf } from '../bench/prepare/points';
import { BandSpan } from './BandSpan';
import { InstrumentMap } from './InstrumentMap';
import { MiniRibbon } from './MiniRibbon';
import { PlayerMap } from './PlayerMap';
import { COLOR, type Sign, signTint } from './tokens';

/** The ring about the point that is asked for: its place, if it is drawn. */
function ringOf(markup: string): readonly [number, number] | undefined {
  const found = markup.match(new RegExp(`cx="([\\d.-]+)" cy="([\\d.-]+)" r="[\\d.]+" fill="[^"]+" stroke="${COLOR.rosin}"`));
  return found ? [Number(found[1]), Number(found[2])] : undefined;
}
const none: ReadonlySet<string> = new Set();

describe('the map of the points', () => {
  const [width, height] = [300, 260];
  const drawn = (asked: string | undefined, marked = none) => {
    const group = asked ? groupOf(asked) : 'instrument';
    return renderToStaticMarkup(
      group === 'instrument' ? (
        <InstrumentMap width={width} height={height} marked={marked} asked={asked} flipped={false} />
      ) : (
        <PlayerMap width={width} height={height} of={group} marked={marked} asked={asked} />
      ),
    );
  };
  it.each(Object.entries(GROUPS))('rings every point that %s asks for, inside the drawing, no two at one place', (_, { points }) => {
    const places = points.map(({ name }) => ({ name, place: ringOf(drawn(name)) }));
    for (const { name, place } of places) {
      expect(place, name).toBeDefined();
      expect(place![0]).toBeGreaterThan(0);
      expect(place![0]).toBeLessThan(width);
      expect(place![1]).toBeGreaterThan(0);
      expect(place![1]).toBeLessThan(height);
    }
    for (const [i, a] of places.entries())
      for (const b of places.slice(i + 1)) expect(Math.hypot(a.place![0] - b.place![0], a.place![1] - b.place![1]), `${a.name} and ${b.name}`).toBeGreaterThan(2.5);
  });
  it('turns about for a player who holds it the other way: low side and high side change places', () => {
    const at = (flipped: boolean) => ringOf(renderToStaticMarkup(<InstrumentMap width={width} height={height} marked={none} asked="instrument.nut.low" flipped={flipped} />))!;
    expect(at(false)[1]).toBeLessThan(height / 2);
    expect(at(true)[0]).toBe(at(false)[0]);
    expect(at(true)[1] + at(false)[1]).toBeCloseTo(height, 6);
  });
  it('says what is asked in words, and that nothing more is', () => {
    expect(drawn('instrument.bridge.low')).toContain('Asked now: instrument bridge low');
    expect(drawn(undefined)).toContain('All points are marked');
  });
  it('fills what is marked', () => {
    const filled = (markup: string) => markup.match(new RegExp(`r="4.4" fill="${COLOR.ink}"`, 'g'))?.length ?? 0;
    expect(filled(drawn('bow.frog', new Set(['bow.tip', 'instrument.scroll'])))).toBe(2);
    expect(filled(drawn('bow.frog'))).toBe(0);
  });
});

describe('a take in a list', () => {
  const frames = Array.from(
    { length: 101 },
    (_, i): FrameMeasures => ({
      frame: i,
      t: i / 25,
      string: 'A',
      values: i > 55 ? {} : { bow_position: { value: 0.5 - 0.4 * Math.cos((Math.PI * i) / 50), u: 0.01 } },
    }),
  );
  const strokes = segmentStrokes(frames);
  const draw = (sign: Sign) => renderToStaticMarkup(<MiniRibbon width={240} height={40} frames={frames} strokes={strokes} slices={[{ from: 1, to: 1.6, sign }]} />);
  it('has a sail for each bow that was followed, and the slice of what was found in its colour', () => {
    const ribbon = draw('found');
    expect(ribbon).toContain(`aria-label="${strokes.length} bows"`);
    expect(ribbon.match(/Z" fill="/g)!.length).toBeGreaterThanOrEqual(2);
    expect(ribbon).toContain(signTint('found'));
    expect(draw('confirmed')).toContain(signTint('confirmed'));
    expect(signTint('confirmed')).not.toBe(signTint('found'));
  });
  it('is an empty line where nothing was followed', () => {
    expect(renderToStaticMarkup(<MiniRibbon width={240} height={40} frames={[]} strokes={[]} slices={[]} />)).toContain('aria-label="0 bows"');
  });
});

describe('a band on its scale', () => {
  const skew = bandsFor(MIDDLE_OF_STRIP, 'later').skew;
  const draw = (band: typeof skew, before?: typeof skew, found: readonly number[] = []) =>
    renderToStaticMarkup(<BandSpan width={216} range={[-20, 20]} band={band} before={before} found={found} label="skew" />);
  /** Left edge and width of the lit box. */
  const box = (markup: string) =>
    markup
      .match(new RegExp(`x="([\\d.]+)" width="([\\d.]+)" y="20" height="12" fill="${COLOR.lit}"`))!
      .slice(1)
      .map(Number);
  it('lights what is good to scale, and ticks where the fault begins', () => {
    const markup = draw(skew);
    const [x, w] = box(markup);
    // 200 px for 40 degrees.
    expect(x).toBeCloseTo(8 + 5 * 15, 6);
    expect(w).toBeCloseTo(5 * 10, 6);
    expect([...markup.matchAll(/>(−?\d+)<\/text>/g)].map((m) => m[1])).toEqual(['−10', '10']);
  });
  it('dashes the band as it was only where it differs', () => {
    expect(draw(skew, skew)).not.toContain('stroke-dasharray');
    expect(draw({ ...skew, good: 8 }, skew)).toContain('stroke-dasharray');
  });
  it('hangs a drop for every finding, those off the scale at its end', () => {
    const path = draw(skew, undefined, [12, 300]).match(/<path d="([^"]*)"/)![1]!;
    expect([...path.matchAll(/M([\d.]+) 6/g)].map((m) => Number(m[1]))).toEqual([168, 208]);
  });
});

import { describe, expect, it } from 'vitest';
import { NO_BOW } from '../../core/bow/sighting';
import type { TrackedFrame } from '../../core/measures/measureFrames';
import { context } from '../bow/testViolin';
import { FRAMES, honestFollower, pose, sightingOf, source, truth } from './playedBow';
import { resumeBow } from './resumeBow';

/** A film followed throughout but for some frames, in which the instrument is known again (or not). */
function film(lost: (index: number) => boolean, known = true): Map<number, TrackedFrame> {
  return new Map(
    Array.from({ length: FRAMES }, (_, index): [number, TrackedFrame] => [
      index,
      { index, t: index / 30, pose: lost(index) && !known ? undefined : pose, quality: 0.9, sighting: lost(index) ? NO_BOW : sightingOf(truth[index]!) },
    ]),
  );
}
async function resumed(tracked: Map<number, TrackedFrame>, lost: (index: number) => boolean, bow = honestFollower()) {
  const learnt: number[] = [];
  const restored = new Set([...tracked.keys()].filter(lost));
  const found = await resumeBow({ source, context, bow, tracked, restored, learnNear: async (index) => void learnt.push(index) });
  return { found, learnt, seen: [...tracked.values()].filter((f) => f.sighting.line).map((f) => f.index) };
}
const between = (from: number, to: number) => (index: number) => index >= from && index <= to;

describe('a bow taken up again', () => {
  it('is followed back to the beginning of a film whose first frames were lost', async () => {
    const lost = between(0, 39);
    const tracked = film(lost);
    const { found, learnt, seen } = await resumed(tracked, lost);
    expect(found).toBe(40);
    expect(seen).toHaveLength(FRAMES);
    expect(learnt).toEqual([40]);
    for (let i = 0; i < 40; i++) expect(tracked.get(i)!.sighting.line!.a).toEqual(truth[i]!.frog);
  });
  it('is followed into a gap and to the end, with what it may be off sideways', async () => {
    const lost = (index: number) => between(50, 79)(index) || index >= 130;
    const tracked = film(lost);
    const { found, seen } = await resumed(tracked, lost);
    expect(found).toBe(30 + FRAMES - 130);
    expect(seen).toHaveLength(FRAMES);
    expect(tracked.get(60)!.sighting.zero).toEqual({ frog: 1, tip: 1 });
    expect(tracked.get(20)!.sighting.zero).toBeUndefined();
  });
  it('is left alone where it was seen, and where the instrument is still lost', async () => {
    const lost = between(0, 39);
    const before = film(lost, false);
    const { found } = await resumed(before, lost);
    expect(found).toBe(0);
    expect(before.get(10)!.sighting).toBe(NO_BOW);
    const whole = film(() => false);
    const kept = new Map(whole);
    await resumed(whole, lost);
    expect([...whole]).toEqual([...kept]);
  });
  it('takes back the ends that a later frame shows to have been something else', async () => {
    const lost = between(0, 39);
    const tracked = film(lost);
    const honest = honestFollower();
    const late = { ...honest, follow: async (...given: Parameters<typeof honest.follow>) => ({ ...(await honest.follow(...given)), mistaken: given[0].index === 30 ? 4 : 0 }) };
    await resumed(tracked, lost, late);
    for (const i of [31, 32, 33, 34]) expect(tracked.get(i)!.sighting).toMatchObject({ frog: undefined, tip: undefined });
    for (const i of [30, 35]) expect(tracked.get(i)!.sighting.frog).toBeDefined();
  });
  it('is given up where it does not show, and not begun where no bow is near', async () => {
    const blind = { ...honestFollower(), follow: async () => ({ sighting: NO_BOW, mistaken: 0, inPicture: undefined }) };
    const lost = between(0, 39);
    let asked = 0;
    const counting = { ...blind, follow: async () => (asked++, blind.follow()) };
    expect((await resumed(film(lost), lost, counting)).found).toBe(0);
    expect(asked).toBeLessThan(12);
    const nowhere = film(() => true);
    expect(await resumed(nowhere, lost)).toMatchObject({ found: 0, learnt: [] });
  });
});

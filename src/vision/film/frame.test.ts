import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ahead, backward, type Frame, type FrameSource, keptFrames } from './frame';
import { mirrored } from './mirror';

/** A film whose pictures hold their own number, and what was asked of it. */
function filmOf(count: number): { source: FrameSource; asked: [number, number][] } {
  const asked: [number, number][] = [];
  const source: FrameSource = {
    width: 3,
    height: 2,
    times: Float64Array.from({ length: count }, (_, i) => i / 25),
    async *forward(from, to) {
      asked.push([from, to]);
      for (let index = from; index < to; index++) yield { index, t: index / 25, width: 3, height: 2, luma: Uint8Array.of(index, 1, 2, 3, 4, 5) };
    },
  };
  return { source, asked };
}
const indicesOf = async (frames: AsyncIterable<Frame>): Promise<number[]> => {
  const out: number[] = [];
  for await (const { index } of frames) out.push(index);
  return out;
};

describe('single frames', () => {
  it('are decoded once each, however often they are asked for, and given as copies', async () => {
    const { source, asked } = filmOf(9);
    const frameAt = keptFrames(source);
    const [first, again] = await Promise.all([frameAt(4), frameAt(4)]);
    first.luma.fill(0);
    expect(again.luma[0]).toBe(4);
    expect((await frameAt(4)).luma[0]).toBe(4);
    expect((await frameAt(7)).index).toBe(7);
    expect(asked).toEqual([
      [4, 5],
      [7, 8],
    ]);
  });
  it('that cannot be decoded are told', async () => {
    const { source } = filmOf(9);
    const empty: FrameSource = { ...source, forward: async function* () {} };
    await expect(keptFrames(empty)(3)).rejects.toThrow('frame 3 cannot be decoded');
  });
});

describe('a film read backward', () => {
  it('gives every frame once, from the later to the earlier, both told', async () => {
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 0, max: 150 }), fc.integer({ min: 0, max: 150 }), async (a, b) => {
        const [to, from] = [Math.min(a, b), Math.max(a, b)];
        const { source, asked } = filmOf(151);
        expect(await indicesOf(backward(source, from, to))).toEqual(Array.from({ length: from - to + 1 }, (_, i) => from - i));
        // Decoded in runs short enough to be kept, none twice.
        expect(Math.max(...asked.map(([x, y]) => y - x))).toBeLessThanOrEqual(48);
        expect(asked.reduce((sum, [x, y]) => sum + y - x, 0)).toBe(from - to + 1);
      }),
      { numRuns: 30 },
    );
  });
});

describe('frames asked for ahead', () => {
  it('come in order, the next one asked for while one is worked on', async () => {
    let asked = 0;
    async function* counting() {
      for (let i = 0; i < 5; i++) {
        asked++;
        yield i;
      }
    }
    const got: number[] = [];
    for await (const i of ahead(counting())) {
      got.push(i);
      await Promise.resolve();
      expect(asked).toBe(Math.min(5, i + 2));
    }
    expect(got).toEqual([0, 1, 2, 3, 4]);
  });
  it('tell a failure in its turn, after all that came before it', async () => {
    async function* failing() {
      yield 1;
      yield 2;
      throw new Error('the third cannot be decoded');
    }
    const got: number[] = [];
    await expect(
      (async () => {
        for await (const i of ahead(failing())) got.push(i);
      })(),
    ).rejects.toThrow('the third cannot be decoded');
    expect(got).toEqual([1, 2]);
  });
  it('let their source go when nobody wants more', async () => {
    let closed = false;
    async function* endless() {
      try {
        for (let i = 0; ; i++) yield i;
      } finally {
        closed = true;
      }
    }
    for await (const i of ahead(endless())) if (i === 3) break;
    expect(closed).toBe(true);
  });
});

describe('a film in a mirror', () => {
  it('turns every row about and nothing else; twice is as before', async () => {
    const { source } = filmOf(4);
    const once: Frame[] = [];
    for await (const frame of mirrored(source).forward(2, 4)) once.push(frame);
    expect(once.map((f) => [f.index, f.t, ...f.luma])).toEqual([
      [2, 2 / 25, 2, 1, 2, 5, 4, 3],
      [3, 3 / 25, 2, 1, 3, 5, 4, 3],
    ]);
    const twice: number[][] = [];
    for await (const frame of mirrored(mirrored(source)).forward(0, 1)) twice.push([...frame.luma]);
    expect(twice).toEqual([[0, 1, 2, 3, 4, 5]]);
    expect(mirrored(source).times).toBe(source.times);
  });
});

/** One decoded picture, upright: its brightness, and in colour where that was asked for. */
export interface Frame {
  /** Place in presentation order, from 0. */
  readonly index: number;
  /** Presentation time in seconds from the first frame. */
  readonly t: number;
  readonly width: number;
  readonly height: number;
  /** Brightness 0..255, row by row without padding. */
  readonly luma: Uint8Array;
  /** Only where it was asked for; whoever takes the frame closes it. */
  readonly picture?: ImageBitmap | undefined;
}

/** Whether a frame is wanted in colour too. */
export type InColour = (index: number) => boolean;

/** A picture in colour of a frame, upright. */
export interface FilmPicture {
  readonly index: number;
  readonly picture: ImageBitmap;
}

/** Frames of one clip in any order the tracker needs. */
export interface FrameSource {
  readonly width: number;
  readonly height: number;
  /** Presentation time of every frame in seconds from the first. */
  readonly times: Float64Array;
  /** Frames from `from` to `to` (exclusive) in order. */
  forward(from: number, to: number, inColour?: InColour): AsyncIterable<Frame>;
}

/** Gives single frames, each time a copy of its own. @throws Error where one cannot be decoded. */
export type FrameAt = (index: number) => Promise<Frame>;

/** Single frames of a film that are asked for again and again: each is decoded once, from the last key frame on, and kept. */
export function keptFrames(source: FrameSource): FrameAt {
  const kept = new Map<number, Promise<Frame>>();
  const decode = async (index: number): Promise<Frame> => {
    for await (const frame of source.forward(index, index + 1)) return frame;
    throw new Error(`frame ${index} cannot be decoded`);
  };
  return async (index) => {
    const decoding = kept.get(index) ?? decode(index);
    kept.set(index, decoding);
    const frame = await decoding;
    return { ...frame, luma: frame.luma.slice() };
  };
}

const CHUNK = 48;

/** The same frames, each asked for while its predecessor is still worked on: decoding goes on beside the work. */
export async function* ahead<T>(frames: AsyncIterable<T>): AsyncGenerator<T> {
  const source = frames[Symbol.asyncIterator]();
  let next = source.next();
  try {
    for (;;) {
      const { done, value } = await next;
      if (done) return;
      next = source.next();
      // A failure is told when its frame's turn comes.
      next.catch(() => undefined);
      yield value;
    }
  } finally {
    await source.return?.();
  }
}

/** Frames from `from` down to `to` (inclusive); decodes short runs forward and hands them out reversed. */
export function backward(source: FrameSource, from: number, to: number, inColour?: InColour): AsyncIterable<Frame> {
  async function* runs(): AsyncGenerator<Frame[]> {
    for (let end = from + 1; end > to; ) {
      const start = Math.max(to, end - CHUNK);
      const run: Frame[] = [];
      for await (const frame of source.forward(start, end, inColour)) run.push(frame);
      yield run;
      end = start;
    }
  }
  async function* reversed(): AsyncGenerator<Frame> {
    for await (const run of ahead(runs())) for (let i = run.length - 1; i >= 0; i--) yield run[i]!;
  }
  return reversed();
}

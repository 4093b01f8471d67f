/** One decoded picture, upright. Only brightness is kept at full size; colour at half size when asked for. */
export interface Frame {
  /** Place in presentation order, from 0. */
  readonly index: number;
  /** Presentation time in seconds from the first frame. */
  readonly t: number;
  readonly width: number;
  readonly height: number;
  /** Brightness 0..255, row by row without padding. */
  readonly luma: Uint8Array;
}

/** Frames of one clip in any order the tracker needs. */
export interface FrameSource {
  readonly width: number;
  readonly height: number;
  /** Presentation time of every frame in seconds from the first. */
  readonly times: Float64Array;
  /** Frames from `from` to `to` (exclusive) in order. */
  forward(from: number, to: number): AsyncIterable<Frame>;
}

const CHUNK = 48;

/** Frames from `from` down to `to` (inclusive); decodes short runs forward and hands them out reversed. */
export async function* backward(source: FrameSource, from: number, to: number): AsyncIterable<Frame> {
  for (let end = from + 1; end > to; ) {
    const start = Math.max(to, end - CHUNK);
    const run: Frame[] = [];
    for await (const frame of source.forward(start, end)) run.push(frame);
    for (let i = run.length - 1; i >= 0; i--) yield run[i]!;
    end = start;
  }
}

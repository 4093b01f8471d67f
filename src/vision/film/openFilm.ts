import { ALL_FORMATS, BlobSource, EncodedPacketSink, Input, type InputVideoTrack, type VideoSample, VideoSampleSink } from 'mediabunny';
import { nearestIndex } from '../../core/nearestIndex';
import { readSound, type Sound } from '../sound/readSound';
import { zoomOf } from './filmedZoom';
import type { FilmPicture, Frame, FrameSource, InColour } from './frame';

/** A film that cannot be used; the message says why and what to do, in the teacher's words. */
export class FilmError extends Error {
  override readonly name = 'FilmError';
}

export interface FilmFacts {
  /** Upright size in pixels. */
  readonly width: number;
  readonly height: number;
  /** Presentation time of every frame, seconds from the first. */
  readonly times: Float64Array;
  readonly duration: number;
  readonly hasSound: boolean;
  readonly codec: string;
  /** Presentation time of the first frame in the file's own clock, seconds. */
  readonly offset: number;
  /** How far the lens was zoomed, times a phone's main one, where the file tells. */
  readonly zoom?: number | undefined;
}

/** Presentation times are asked for a little late (seconds), so that rounding does not give the frame before. */
const HAIR = 1e-5;

const PREPARE = 'Save it as MP4 with H.264 (on many phones: camera settings, "most compatible"), then drop it again.';

/** A clip opened for reading; frames are known by their place in the sorted table of presentation times. */
export class Film implements FrameSource {
  private constructor(
    private readonly input: Input,
    private readonly track: InputVideoTrack,
    readonly facts: FilmFacts,
    private readonly rotation: number,
  ) {}

  get width(): number {
    return this.facts.width;
  }
  get height(): number {
    return this.facts.height;
  }
  get times(): Float64Array {
    return this.facts.times;
  }
  get zoom(): number | undefined {
    return this.facts.zoom;
  }

  /** @throws FilmError when the file is no film this browser can decode. */
  static async open(blob: Blob): Promise<Film> {
    if (blob.size === 0) throw new FilmError('This file is empty. Copy it from the phone again.');
    const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(blob) });
    let track: InputVideoTrack | null;
    let hasSound = false;
    try {
      if (!(await input.canRead())) throw new FilmError(`This file is not a film (WebM, MP4 or MOV). If it came from a phone, copy it again.`);
      track = await input.getPrimaryVideoTrack();
      hasSound = (await input.getPrimaryAudioTrack()) !== null;
    } catch (error) {
      input.dispose();
      if (error instanceof FilmError) throw error;
      throw new FilmError('This file breaks off before its contents are described. Copy it from the phone again.');
    }
    if (!track) {
      input.dispose();
      throw new FilmError(
        hasSound ? 'This file holds only sound, no picture. Choose the film itself.' : 'This file holds no picture, or breaks off before it. Copy it from the phone again.',
      );
    }
    try {
      const codec = (await track.getCodec()) ?? 'unknown';
      if (!(await track.canDecode())) {
        const name = codec === 'hevc' ? 'HEVC (H.265)' : codec;
        throw new FilmError(`This browser cannot decode ${name}. ${PREPARE}`);
      }
      const stamps: number[] = [];
      try {
        for await (const packet of new EncodedPacketSink(track).packets(undefined, undefined, { metadataOnly: true })) stamps.push(packet.timestamp);
      } catch {
        // A film that breaks off still has its beginning.
      }
      // Edit lists show as negative times: frames that are not meant to be seen.
      const shown = stamps.filter((t) => t >= 0).sort((a, b) => a - b);
      if (shown.length < 2) throw new FilmError('This film holds fewer than two pictures. Copy it from the phone again.');
      const offset = shown[0]!;
      const times = Float64Array.from(shown, (t) => t - offset);
      const film = new Film(
        input,
        track,
        {
          width: await track.getDisplayWidth(),
          height: await track.getDisplayHeight(),
          times,
          duration: times[times.length - 1]! + (times[times.length - 1]! - times[times.length - 2]!),
          hasSound,
          codec,
          offset,
          zoom: await zoomOf(input),
        },
        await track.getRotation(),
      );
      await film.tryFirst();
      return film;
    } catch (error) {
      input.dispose();
      if (error instanceof FilmError) throw error;
      throw new FilmError(`This film cannot be decoded. ${PREPARE}`);
    }
  }

  /** A container may describe frames that cannot be decoded: one is tried before the film is accepted. */
  private async tryFirst(): Promise<void> {
    try {
      for await (const sample of this.samples(0, 1)) {
        sample.close();
        return;
      }
    } catch {
      // told below
    }
    throw new FilmError(`The picture of this film is damaged and cannot be decoded. Copy it from the phone again.`);
  }

  /** Decoded samples from frame `from` to `to` (exclusive); the caller closes each. */
  async *samples(from: number, to: number): AsyncGenerator<VideoSample> {
    const { times, offset } = this.facts;
    const sink = new VideoSampleSink(this.track);
    const start = times[from]! + offset;
    const end = to < times.length ? times[to]! + offset - 1e-6 : undefined;
    for await (const sample of sink.samples(start, end)) {
      // The sample shown at `start` may be one that begins a hair earlier.
      if (sample.timestamp < start - 1e-4) {
        sample.close();
        continue;
      }
      yield sample;
    }
  }

  /** Place in the table of a presentation time of the file's own clock. */
  indexOf(timestamp: number): number {
    return nearestIndex(this.facts.times, timestamp - this.facts.offset);
  }

  async *forward(from: number, to: number, inColour?: InColour): AsyncGenerator<Frame> {
    const drawn = inColour && this.drawing();
    let scratch = new Uint8Array(0);
    for await (const sample of this.samples(from, to)) {
      try {
        const size = sample.allocationSize();
        if (scratch.length < size) scratch = new Uint8Array(size);
        const layout = await sample.copyTo(scratch);
        const index = this.indexOf(sample.timestamp);
        const luma = upright(lumaOf(scratch, layout[0]!, sample), sample.visibleRect.width, sample.visibleRect.height, this.rotation);
        const turned = this.rotation % 180 !== 0;
        const width = turned ? sample.visibleRect.height : sample.visibleRect.width;
        const height = turned ? sample.visibleRect.width : sample.visibleRect.height;
        yield { index, t: this.facts.times[index]!, width, height, luma, ...(drawn && inColour(index) ? { picture: drawn(sample) } : {}) };
      } finally {
        sample.close();
      }
    }
  }

  /** Upright pictures in colour of the frames asked for (rising), in order; the caller closes each. */
  async *pictures(frames: readonly number[]): AsyncGenerator<FilmPicture> {
    const { times, offset } = this.facts;
    const drawn = this.drawing();
    let at = 0;
    // Where a key frame lies between two of them, what comes before it is not decoded.
    for await (const sample of new VideoSampleSink(this.track).samplesAtTimestamps(frames.map((i) => times[i]! + offset + HAIR))) {
      const index = frames[at++]!;
      if (!sample) continue;
      try {
        // One that cannot be decoded is left out, not told as the one before it.
        if (this.indexOf(sample.timestamp) === index) yield { index, picture: drawn(sample) };
      } finally {
        sample.close();
      }
    }
  }

  /** Makes upright pictures of samples. */
  private drawing(): (sample: VideoSample) => ImageBitmap {
    const canvas = new OffscreenCanvas(this.width, this.height);
    const context = canvas.getContext('2d')!;
    return (sample) => {
      sample.draw(context, 0, 0, this.width, this.height);
      return canvas.transferToImageBitmap();
    };
  }

  /** The film's sound in the clock of its pictures; undefined without any. */
  sound(): Promise<Sound | undefined> {
    return readSound(this.input, this.facts.offset);
  }

  close(): void {
    this.input.dispose();
  }
}

interface Plane {
  readonly offset: number;
  readonly stride: number;
}

/** Brightness of a decoded picture, 8 bits, unpadded, as it lies in the file (not yet turned upright). */
function lumaOf(data: Uint8Array, plane: Plane, sample: VideoSample): Uint8Array {
  const { width, height } = sample.visibleRect;
  const out = new Uint8Array(width * height);
  const format = sample.format ?? '';
  if (format.startsWith('I4') || format === 'NV12') {
    const deep = format.includes('P10') || format.includes('P12');
    if (!deep) {
      for (let y = 0; y < height; y++) out.set(data.subarray(plane.offset + y * plane.stride, plane.offset + y * plane.stride + width), y * width);
      return out;
    }
    const shift = format.includes('P12') ? 4 : 2;
    const view = new DataView(data.buffer, data.byteOffset);
    for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) out[y * width + x] = view.getUint16(plane.offset + y * plane.stride + 2 * x, true) >> shift;
    return out;
  }
  // RGBA, RGBX, BGRA, BGRX: BT.709 weights.
  const blueFirst = format.startsWith('B');
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = plane.offset + y * plane.stride + 4 * x;
      const r = data[at + (blueFirst ? 2 : 0)]!;
      const b = data[at + (blueFirst ? 0 : 2)]!;
      out[y * width + x] = 0.2126 * r + 0.7152 * data[at + 1]! + 0.0722 * b;
    }
  }
  return out;
}

/** The picture turned clockwise by 0, 90, 180 or 270 degrees, as the film asks. */
export function upright(luma: Uint8Array, width: number, height: number, rotation: number): Uint8Array {
  if (rotation === 0) return luma;
  const out = new Uint8Array(luma.length);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const v = luma[y * width + x]!;
      if (rotation === 90) out[x * height + (height - 1 - y)] = v;
      else if (rotation === 180) out[(height - 1 - y) * width + (width - 1 - x)] = v;
      else out[(width - 1 - x) * height + y] = v;
    }
  }
  return out;
}
